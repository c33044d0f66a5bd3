-- Each knot as it lies in the hand, small, for cards: set in the background from the revision named. `svg` is null where it cannot be set;
-- the drawing stands in for it, as it does until the knot is set.
create table formed (
  knot_id uuid primary key references knot on delete cascade,
  revision integer not null,
  svg text
);
