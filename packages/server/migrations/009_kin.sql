-- Kin: families as a tree, and how knots of the shelf and of the pattern book come from each other.

create table family (
  id uuid primary key default gen_random_uuid(),
  name text not null check (name <> ''),
  parent_id uuid references family,
  position double precision not null,
  check (id <> parent_id)
);
create unique index family_name on family (lower(name));
create index family_parent on family (parent_id);
-- What a family was called before: documents that still say so belong to it.
create table family_former_name (
  name text primary key check (name = lower(name)),
  family_id uuid not null references family on delete cascade
);

alter table knot
  add column family_id uuid references family on delete set null,
  -- The pattern that the knot is drawn as, where the drawing holds: on the map it stands in that pattern's place.
  add column pattern_id text;
create index knot_family on knot (family_id);

create table kin_relation (
  id uuid primary key default gen_random_uuid(),
  from_knot uuid references knot on delete cascade,
  from_pattern text,
  to_knot uuid references knot on delete cascade,
  to_pattern text,
  kind text not null,
  turns integer not null default 1 check (turns between 1 and 6),
  origin text not null check (origin in ('book', 'stated', 'derived', 'discovered')),
  -- Why it is held to be so where it is not computed.
  judged_why text,
  judged_by uuid references account,
  judged_at timestamptz,
  -- What the core made of it, from which revisions; no state until it has been tried.
  proof_state text check (proof_state in ('proved', 'refuted', 'open')),
  compared text,
  tried_from integer,
  tried_to integer,
  created_at timestamptz not null default now(),
  check (num_nonnulls(from_knot, from_pattern) = 1),
  check (num_nonnulls(to_knot, to_pattern) = 1),
  check (from_knot is distinct from to_knot or from_knot is null),
  check (from_pattern is distinct from to_pattern or from_pattern is null)
);
create unique index kin_relation_once on kin_relation
  (kind, coalesce(from_knot::text, from_pattern), coalesce(to_knot::text, to_pattern));
create index kin_relation_from on kin_relation (from_knot);
create index kin_relation_to on kin_relation (to_knot);
