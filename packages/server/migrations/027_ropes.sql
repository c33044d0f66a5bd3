-- Ropes: the stock, what ropes are tied to, bodies that were measured, measured ties, pull tests, plans.

create table rope (
  id uuid primary key default gen_random_uuid(),
  revision integer not null default 1,
  name text not null check (name <> ''),
  construction text not null,
  material text not null,
  diameter_mm double precision not null check (diameter_mm > 0),
  thickness_mm double precision check (thickness_mm > 0),
  stretch text,
  breaking_kn double precision check (breaking_kn > 0),
  -- Who says what it breaks at: nothing is known without.
  source text not null check (source <> '' or breaking_kn is null),
  condition text not null check (condition in ('new', 'good', 'worn', 'retired')),
  in_service date,
  retires date check (retires >= in_service),
  -- The pieces on hand, in millimetres.
  pieces double precision[] not null,
  colour text not null,
  second text,
  mark text,
  stiffness text not null,
  remarks text not null
);
create unique index rope_name on rope (lower(name));

create table thing (
  id uuid primary key default gen_random_uuid(),
  revision integer not null default 1,
  name text not null check (name <> ''),
  kind text not null,
  diameter_mm double precision not null check (diameter_mm > 0),
  remarks text not null
);
create unique index thing_name on thing (lower(name));

create table body (
  id uuid primary key default gen_random_uuid(),
  revision integer not null default 1,
  name text not null check (name <> ''),
  -- Millimetres by what was measured: palm, forearm.
  mm jsonb not null
);
create unique index body_name on body (lower(name));

create table tie (
  id uuid primary key default gen_random_uuid(),
  revision integer not null default 1,
  -- A knot of the shelf or of the pattern book; a knot that is gone leaves what was measured of it.
  knot_id uuid references knot on delete set null,
  pattern_id text,
  knot_name text not null,
  strand integer not null check (strand >= 0),
  diameter_mm double precision not null check (diameter_mm > 0),
  eaten_mm double precision not null check (eaten_mm > 0),
  check (num_nonnulls(knot_id, pattern_id) <= 1)
);
create index tie_knot on tie (knot_id);

create table pull_test (
  id uuid primary key default gen_random_uuid(),
  revision integer not null default 1,
  knot_id uuid references knot on delete set null,
  pattern_id text,
  knot_name text not null,
  method text not null,
  rope_id uuid references rope on delete set null,
  rope_name text not null check (rope_name <> ''),
  diameter_mm double precision not null check (diameter_mm > 0),
  peak_kn double precision not null check (peak_kn > 0),
  rate double precision check (rate >= 0),
  outcome text not null check (outcome in ('broke', 'slipped', 'held', 'was stopped')),
  broke_at text,
  pulled_on date not null,
  remarks text not null,
  check (num_nonnulls(knot_id, pattern_id) <= 1)
);
create index pull_test_knot on pull_test (knot_id);
create index pull_test_rope on pull_test (rope_id);

-- A plan is a document: what of it is searched is its name.
create table rope_plan (
  id uuid primary key default gen_random_uuid(),
  revision integer not null default 1,
  name text not null check (name <> ''),
  document jsonb not null,
  made_at timestamptz not null default now()
);
create unique index rope_plan_name on rope_plan (lower(name));
