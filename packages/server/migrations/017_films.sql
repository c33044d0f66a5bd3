-- Films of a knot being tied, by the SHA-256 of their bytes, kept in pieces of 1 MiB as they come.
create table film (
  knot_id uuid not null references knot on delete cascade,
  hash text not null check (hash ~ '^[0-9a-f]{64}$'),
  size integer not null check (size > 0),
  -- Absent until all of it has come and been checked.
  type text check (type in ('video/webm', 'video/mp4')),
  begun_at timestamptz not null default now(),
  primary key (knot_id, hash)
);

create table film_piece (
  knot_id uuid not null,
  hash text not null,
  number integer not null check (number >= 0),
  bytes bytea not null,
  primary key (knot_id, hash, number),
  foreign key (knot_id, hash) references film (knot_id, hash) on delete cascade
);
alter table film_piece alter column bytes set storage external;
