-- A left-handed edition: the knot it mirrors, and whether it is still kept in step with it.
alter table knot
  add column left_hand_of uuid references knot (id),
  add column follows boolean not null default false;
create index knot_left_hand_of on knot (left_hand_of);
