-- Rules of practice: a house begins from a school and changes what it does otherwise, each with its reason.

alter table house add column practice_school text not null default 'workshop';
create table house_rule (
  rule_id text primary key,
  value jsonb not null,
  reason text not null check (reason <> '')
);

-- What the house had set before there were schools stays.
insert into house_rule (rule_id, value, reason)
  select 'tail-' || g, jsonb_build_object('diameters', h.tail_diameters, 'millimetres', h.tail_millimetres, 'palms', 0), 'As the house had it before.'
    from house h, unnest(array['light-duty', 'load-bearing', 'people-depend-on-it']) as g
   where (h.tail_diameters, h.tail_millimetres) <> (12, 0);
insert into house_rule (rule_id, value, reason)
  select 'class-words', to_jsonb(class_school), 'As the house had it before.' from house where class_school <> 'strict';
alter table house drop column tail_diameters, drop column tail_millimetres, drop column class_school;
