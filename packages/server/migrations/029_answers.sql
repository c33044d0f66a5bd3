-- How learners answered, counted by edition and question: nothing of who answered, or when.

create table answer_count (
  knot_id uuid not null references knot on delete cascade,
  revision integer not null,
  question text not null,
  right_count integer not null default 0 check (right_count >= 0),
  wrong_count integer not null default 0 check (wrong_count >= 0),
  primary key (knot_id, revision, question)
);
