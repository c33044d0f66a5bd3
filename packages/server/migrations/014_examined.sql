-- A save answers as soon as the document is kept; what it is found to be follows. `counted_by` of a knot that has not been examined since
-- it was saved is -1. Every knot is examined anew: wrong ways that are shown are held to what they are called from here on.

update knot set counted_by = -1;

-- A save is known by an id of its own, so that a repeated one is answered as the first was.
alter table revision add column save_id uuid;
create unique index revision_save on revision (knot_id, save_id) where save_id is not null;
