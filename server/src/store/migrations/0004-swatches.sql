-- The swatch book: one row a swatch, and its photo by itself, so that a list of swatches reads none.
create table swatches (
  id uuid primary key,
  document jsonb not null,
  made_at timestamptz not null default now(),
  saved_at timestamptz not null default now()
);

create table swatch_photos (
  swatch_id uuid primary key references swatches (id) on delete cascade,
  type text not null check (type in ('image/jpeg', 'image/png', 'image/webp')),
  bytes bytea not null,
  saved_at timestamptz not null default now()
);

-- Photos come packed.
alter table swatch_photos alter column bytes set storage external;
