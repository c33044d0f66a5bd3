-- A card says at once what its knot is refuted in, among however many kinships; a page of the shelf is found in its order.
create index kin_relation_refuted on kin_relation (to_knot) where proof_state = 'refuted';
drop index knot_updated;
create index knot_updated on knot (updated_at desc, id) where archived_at is null;
