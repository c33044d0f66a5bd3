-- Photographs of pull tests; ties round things of their own thickness; what makers say of knots in their ropes.

-- Named by its contents. One that no test shows goes after a day.
create table photograph (
  hash text primary key check (hash ~ '^[0-9a-f]{64}$'),
  type text not null check (type in ('image/jpeg', 'image/png', 'image/webp')),
  bytes bytea not null,
  kept_at timestamptz not null default now()
);

alter table pull_test add column photograph text references photograph;
create index pull_test_photograph on pull_test (photograph);

alter table tie add column host_mm double precision check (host_mm > 0);
alter table rope add column knotted_share double precision check (knotted_share > 0 and knotted_share <= 1);
