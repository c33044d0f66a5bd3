-- What each knot is: its signature's keys, so that a drawing is looked up among all knots at once, and the verdict on its claim.

alter table knot
  add column signature_key text,
  add column mirror_key text,
  add column body_key text,
  add column mirror_body_key text,
  add column lay_keys text[] not null default '{}',
  add column verdict_state text check (verdict_state in ('holds', 'mirrored', 'fails', 'unclaimed', 'unknown', 'declined')),
  add column verdict text;

create index knot_signature on knot (signature_key);
create index knot_body on knot (body_key);
create index knot_mirror_body on knot (mirror_body_key);
create index knot_lays on knot using gin (lay_keys);
