-- What public pages are made of has a number that changes with it, so that a page that was made before is known to be good still by one
-- short question. It moves on when a transaction ends: nobody holds its row while anything else is waited for.
create table public_state (
  id integer primary key default 1 check (id = 1),
  version bigint not null default 1,
  changed_by xid8
);
insert into public_state default values;

create function public_state_moves_on() returns trigger language plpgsql as $$
begin
  -- Once for each transaction, however many rows it changes.
  update public_state set version = version + 1, changed_by = pg_current_xact_id()
   where changed_by is distinct from pg_current_xact_id();
  return null;
end $$;

do $$
declare
  part text;
begin
  foreach part in array array['house', 'house_rule', 'house_word', 'house_known', 'school', 'concept', 'concept_link', 'label', 'publication',
                              'clip'] loop
    execute format(
      'create constraint trigger public_state after insert or update or delete on %I deferrable initially deferred
         for each row execute function public_state_moves_on()', part);
  end loop;
end $$;

-- Of a knot that is saved only what pages of others say of it, where it is published: the wrong way of which knot it is, by what name.
create function public_state_of_knot() returns trigger language plpgsql as $$
begin
  if exists (select 1 from publication where knot_id = new.id) then
    update public_state set version = version + 1, changed_by = pg_current_xact_id()
     where changed_by is distinct from pg_current_xact_id();
  end if;
  return null;
end $$;
create constraint trigger public_state after update on knot deferrable initially deferred
  for each row when (old.name is distinct from new.name or old.wrong_way_of is distinct from new.wrong_way_of)
  execute function public_state_of_knot();
