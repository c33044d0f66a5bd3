-- A second factor: what an authenticator makes its codes of. Without `since` it was begun, and not shown to work yet.
create table second_factor (
  account_id uuid primary key references account on delete cascade,
  secret bytea not null,
  since timestamptz,
  -- The last half minute whose code was taken: none is taken twice.
  used_step bigint not null default 0
);

-- Codes that are taken in its place, each once.
create table spare_code (
  account_id uuid not null references account on delete cascade,
  code_hash bytea not null,
  primary key (account_id, code_hash)
);
