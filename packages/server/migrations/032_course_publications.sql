-- Courses that are published: as they stood then, at an address of their own.

create table course_publication (
  course_id uuid primary key references course on delete cascade,
  slug text not null unique check (slug <> ''),
  revision integer not null check (revision > 0),
  document jsonb not null,
  published_by uuid not null references account,
  published_at timestamptz not null default now()
);

create constraint trigger public_state after insert or update or delete on course_publication deferrable initially deferred
  for each row execute function public_state_moves_on();
