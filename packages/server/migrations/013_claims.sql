-- What a server is working on in the background, so that any number of them can share the work.

create table claim (
  kind text not null,
  subject uuid not null,
  server uuid not null,
  until timestamptz not null,
  primary key (kind, subject)
);
