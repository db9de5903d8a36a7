-- What belongs to the studio and to no design: one row.
create table studio (
  id boolean primary key default true check (id),
  document jsonb not null,
  saved_at timestamptz not null default now()
);
