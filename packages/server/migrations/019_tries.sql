-- Guesses at a password are counted where they are made: by name and address, or by name and a device that has signed in before.
drop table sign_in_failure;
create table sign_in_try (
  name text not null,
  -- An address, or a device by the digest of its token.
  source text not null,
  tries integer not null,
  -- From when on the next one is let through.
  free_at timestamptz not null,
  at timestamptz not null default now(),
  primary key (name, source)
);
create index sign_in_try_at on sign_in_try (at);

-- Devices from which somebody has signed in: strangers who guess at a name do not slow them down.
create table device (
  token_hash bytea primary key,
  account_id uuid not null references account on delete cascade,
  seen_at timestamptz not null default now()
);
create index device_account on device (account_id);

-- Whether the demo data is all there: a start that was killed half way begins it anew.
alter table house add column demo_loading boolean not null default false;

-- A session ends when it is not used, and an account may be closed without being forgotten.
alter table session add column used_at timestamptz not null default now();
alter table account add column disabled_at timestamptz;
alter table account drop constraint account_role_check;
alter table account add constraint account_role_check check (role in ('owner', 'author', 'reviewer', 'reader'));

-- An invitation: a link that ends, for an account that is not there yet.
create table invitation (
  token_hash bytea primary key,
  name text not null check (length(name) between 1 and 80),
  role text not null check (role in ('owner', 'author', 'reviewer', 'reader')),
  made_by uuid not null references account,
  made_at timestamptz not null default now(),
  ends_at timestamptz not null
);
