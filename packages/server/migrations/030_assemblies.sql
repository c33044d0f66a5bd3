-- Assemblies: several knots on ropes, inspected as one; and what inspections of them came to.

create table assembly (
  id uuid primary key default gen_random_uuid(),
  revision integer not null default 1,
  name text not null check (name <> ''),
  document jsonb not null,
  made_at timestamptz not null default now()
);
create unique index assembly_name on assembly (lower(name));

-- A record names what it was of as it stood then: it outlives the assembly, and is not changed.
create table inspection (
  id uuid primary key default gen_random_uuid(),
  assembly_id uuid references assembly on delete set null,
  assembly_name text not null check (assembly_name <> ''),
  assembly_revision integer not null check (assembly_revision > 0),
  inspected_by text not null check (inspected_by <> ''),
  inspected_at timestamptz not null default now(),
  verdict text not null check (verdict in ('good', 'not good', 'not finished')),
  items jsonb not null,
  remarks text not null
);
create index inspection_assembly on inspection (assembly_id, inspected_at desc);
create index inspection_at on inspection (inspected_at desc);
