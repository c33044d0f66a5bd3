-- Courses: lessons and assemblies in an order.

create table course (
  id uuid primary key default gen_random_uuid(),
  revision integer not null default 1,
  name text not null check (name <> ''),
  document jsonb not null,
  made_at timestamptz not null default now()
);
create unique index course_name on course (lower(name));
