-- Words: concepts and what each school calls them; the words a house has chosen; search by any name or misspelling.

create extension if not exists pg_trgm;

create table school (
  id text primary key check (id ~ '^[a-z0-9]+(-[a-z0-9]+)*$'),
  name text not null,
  note text not null default '',
  position integer not null
);
create unique index school_name on school (lower(name));

create table concept (
  id text primary key check (id ~ '^[a-z0-9]+(-[a-z0-9]+)*$'),
  kind text not null,
  definition text not null,
  notes text,
  figure jsonb,
  position bigint generated always as identity,
  revision integer not null default 1
);

create table concept_link (
  concept_id text not null references concept on delete cascade,
  kind text not null check (kind in ('broader', 'related')),
  to_id text not null references concept on delete cascade deferrable initially deferred,
  position integer not null,
  primary key (concept_id, kind, to_id),
  check (concept_id <> to_id)
);

create table label (
  concept_id text not null references concept on delete cascade,
  position integer not null,
  -- No school: misheard in all of them alike.
  school_id text references school on delete cascade,
  status text not null check (status in ('preferred', 'also used', 'discouraged', 'misheard')),
  text text not null,
  reason text,
  everyday boolean not null default false,
  primary key (concept_id, position),
  check (school_id is not null or status = 'misheard')
);
create unique index label_preferred on label (concept_id, school_id) where status = 'preferred';
-- Written through at once: a list of entries still to be sorted in would be read from end to end by every search.
create index label_text on label using gin (lower(text) gin_trgm_ops) with (fastupdate = off);
create index knot_name on knot using gin (lower(name) gin_trgm_ops) with (fastupdate = off);
create index knot_alias_name on knot_alias using gin (lower(name) gin_trgm_ops) with (fastupdate = off);

-- The school whose words the house uses, its own words, and what its learners are taken to know. Each change counts the revision up.
alter table house
  add column words_school text references school,
  add column words_revision bigint not null default 1;
create table house_word (
  concept_id text primary key references concept on delete cascade,
  text text not null
);
create table house_known (
  concept_id text primary key references concept on delete cascade
);

-- The concept of the knot that a knot is entered as: it is found by that concept's names too.
alter table knot add column concept_id text references concept on delete set null;
create index knot_concept on knot (concept_id);
