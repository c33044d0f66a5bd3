-- Clips begin with their cautions; those kept before did not, and their captions begin at once.
alter table clip add column cautions boolean not null default false;
