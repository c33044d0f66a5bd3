-- A revision can be given a name, so that an author finds it again.
alter table revision add column name text check (length(name) between 1 and 80);
