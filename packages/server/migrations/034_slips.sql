-- Slips of published knots as they lie in the hand, for practice: set in the background from the revision named. A knot without any has its row in
-- slips_formed all the same: it has been looked at.

create table slips_formed (
  knot_id uuid primary key references knot on delete cascade,
  revision integer not null
);

create table slip_form (
  knot_id uuid not null references slips_formed on delete cascade,
  slip integer not null check (slip > 0),
  svg text not null,
  primary key (knot_id, slip)
);

create constraint trigger public_state after insert or update or delete on slips_formed deferrable initially deferred
  for each row execute function public_state_moves_on();
