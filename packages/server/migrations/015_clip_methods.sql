-- A clip is of one of its knot's methods: their place in order, from 0.
alter table clip add column method int not null default 0 check (method >= 0);
