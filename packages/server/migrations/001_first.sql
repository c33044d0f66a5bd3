-- Accounts, sessions, the shelf with its revisions, publications and clips.

create table house (
  id integer primary key default 1 check (id = 1),
  name text not null,
  tail_diameters double precision not null check (tail_diameters >= 0),
  tail_millimetres double precision not null check (tail_millimetres >= 0),
  demo boolean not null default false
);

create table account (
  id uuid primary key default gen_random_uuid(),
  name text not null check (length(name) between 1 and 80),
  role text not null check (role in ('author', 'reviewer')),
  password_hash text not null,
  created_at timestamptz not null default now()
);
create unique index account_name on account (lower(name));

create table session (
  token_hash bytea primary key,
  account_id uuid not null references account on delete cascade,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null
);
create index session_expiry on session (expires_at);

create table sign_in_failure (
  id bigint generated always as identity primary key,
  name text not null,
  address text not null,
  at timestamptz not null default now()
);
create index sign_in_failure_name on sign_in_failure (lower(name), at);
create index sign_in_failure_address on sign_in_failure (address, at);

create table knot (
  id uuid primary key default gen_random_uuid(),
  name text not null check (length(name) between 1 and 80),
  class text not null,
  family text not null,
  use_grade text not null,
  wrong_way_of text,
  revision integer not null check (revision >= 1),
  errors integer not null,
  warnings integer not null,
  crossings integer not null,
  steps integer not null,
  archived_at timestamptz,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  updated_by uuid not null references account
);
create index knot_updated on knot (updated_at desc) where archived_at is null;

-- Every name a knot can be found by.
create table knot_alias (
  knot_id uuid not null references knot on delete cascade,
  position integer not null,
  name text not null,
  primary key (knot_id, position)
);

-- Append-only: what was saved, by whom, when.
create table revision (
  knot_id uuid not null references knot on delete cascade,
  number integer not null,
  document jsonb not null,
  saved_by uuid not null references account,
  saved_at timestamptz not null default now(),
  primary key (knot_id, number)
);

create table clip (
  id uuid primary key default gen_random_uuid(),
  knot_id uuid not null references knot on delete cascade,
  revision integer not null,
  size integer not null,
  duration double precision not null,
  pace text not null check (pace in ('slow', 'normal', 'brisk')),
  created_at timestamptz not null default now(),
  foreign key (knot_id, revision) references revision (knot_id, number)
);
create index clip_knot on clip (knot_id, created_at desc);

create table clip_chunk (
  clip_id uuid not null references clip on delete cascade,
  number integer not null,
  bytes bytea not null,
  primary key (clip_id, number)
);
alter table clip_chunk alter column bytes set storage external;

create table publication (
  knot_id uuid primary key references knot on delete cascade,
  slug text not null unique check (slug ~ '^[a-z0-9]+(-[a-z0-9]+)*$'),
  revision integer not null,
  published_at timestamptz not null default now(),
  published_by uuid not null references account,
  foreign key (knot_id, revision) references revision (knot_id, number)
);

insert into house (name, tail_diameters, tail_millimetres) values ('My house', 12, 0);
