-- Films of knots being tied, by the SHA-256 of their bytes, kept in pieces of 1 MiB as they come. Revisions name the films that they show.
create table film (
  hash text primary key check (hash ~ '^[0-9a-f]{64}$'),
  size integer not null check (size > 0),
  -- Absent until all of it has come and been checked.
  type text check (type in ('video/webm', 'video/mp4')),
  begun_at timestamptz not null default now()
);

create table film_piece (
  hash text not null references film on delete cascade,
  number integer not null check (number >= 0),
  bytes bytea not null,
  primary key (hash, number)
);
alter table film_piece alter column bytes set storage external;
