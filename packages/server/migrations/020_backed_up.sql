-- When the library was last backed up, and how large that was.
alter table house add column backed_up_at timestamptz, add column backup_bytes bigint;
