-- The house's word for a class: strict (a bend and a hitch are no knots) or general (everything tied is a knot).

alter table house
  add column class_school text not null default 'strict' check (class_school in ('strict', 'general'));
