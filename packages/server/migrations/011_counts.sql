-- Rules have a revision of their own, and every knot tells by which its findings were counted. Those counted before are counted anew.

alter table house add column practice_revision integer not null default 1 check (practice_revision >= 1);
alter table knot add column counted_by integer not null default 0;
