-- Names are looked for in lower case: folded once when they are written, not at every search.

alter table knot add column folded text generated always as (lower(name)) stored;
alter table knot_alias add column folded text generated always as (lower(name)) stored;
alter table label add column folded text generated always as (lower(text)) stored;
drop index knot_name, knot_alias_name, label_text;
create index knot_name on knot using gin (folded gin_trgm_ops) with (fastupdate = off);
create index knot_alias_name on knot_alias using gin (folded gin_trgm_ops) with (fastupdate = off);
create index label_text on label using gin (folded gin_trgm_ops) with (fastupdate = off);
