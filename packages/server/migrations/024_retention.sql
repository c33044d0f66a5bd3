-- After so many days only the last save of a day is kept; null: every save is.
alter table house add column keep_days integer check (keep_days between 30 and 36500);
