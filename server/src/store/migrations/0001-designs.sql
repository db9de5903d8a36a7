create table designs (
  id uuid primary key,
  version integer not null check (version > 0),
  title text not null,
  document jsonb not null,
  summary jsonb not null,
  created_at timestamptz not null default now(),
  saved_at timestamptz not null default now(),
  deleted_at timestamptz
);

-- Every version but the current one, as it was when the next was saved over it.
create table revisions (
  design_id uuid not null references designs (id) on delete cascade,
  version integer not null,
  document jsonb not null,
  saved_at timestamptz not null,
  primary key (design_id, version)
);
