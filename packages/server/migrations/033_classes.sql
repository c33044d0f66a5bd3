-- Classes of learners: counts of answers by the code that their teacher gives them. Nothing of a learner is in them.

create table learner_class (
  id uuid primary key default gen_random_uuid(),
  name text not null check (name <> ''),
  code text not null unique,
  course_id uuid references course on delete set null,
  made_at timestamptz not null default now()
);

create table class_answer_count (
  class_id uuid not null references learner_class on delete cascade,
  knot_id uuid not null references knot on delete cascade,
  revision integer not null,
  question text not null,
  right_count integer not null default 0 check (right_count >= 0),
  wrong_count integer not null default 0 check (wrong_count >= 0),
  primary key (class_id, knot_id, revision, question)
);
create index class_answer_count_knot on class_answer_count (knot_id);
