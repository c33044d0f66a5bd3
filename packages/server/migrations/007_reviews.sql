-- Reviews: another account goes through a revision item by item. Any later revision has none. And the log: who did what, when.

create table review (
  id uuid primary key default gen_random_uuid(),
  knot_id uuid not null references knot on delete cascade,
  revision integer not null,
  reviewer uuid not null references account,
  state text not null default 'open' check (state in ('open', 'accepted', 'returned')),
  begun_at timestamptz not null default now(),
  settled_at timestamptz,
  foreign key (knot_id, revision) references revision (knot_id, number),
  check ((state = 'open') = (settled_at is null))
);
-- One at a time: two reviewers of one revision would each see half of the remarks.
create unique index review_open on review (knot_id, revision) where state = 'open';
create index review_knot on review (knot_id, revision, begun_at desc);

create table review_item (
  review_id uuid not null references review on delete cascade,
  key text not null,
  verdict text not null check (verdict in ('accepted', 'returned')),
  remark text not null default '',
  crossing integer check (crossing >= 1),
  at timestamptz not null default now(),
  primary key (review_id, key),
  -- What is returned is returned for a reason.
  check (verdict = 'accepted' or remark <> '')
);

-- What was done to a knot beside saving it, which the revisions tell. Append-only.
create table log_entry (
  id bigint generated always as identity primary key,
  knot_id uuid not null references knot on delete cascade,
  account_id uuid not null references account,
  kind text not null check (kind in ('published', 'withdrawn', 'review begun', 'review accepted', 'review returned')),
  revision integer not null,
  at timestamptz not null default now()
);
create index log_entry_knot on log_entry (knot_id, at desc);
