-- A design is a snapshot and the changes made since; every save adds its changes, not the whole document.
create table snapshots (
  design_id uuid not null references designs (id) on delete cascade,
  version integer not null check (version > 0),
  document bytea not null,
  packing text not null check (packing in ('json', 'gzip')),
  -- SHA-256 of `document`, so that what a disk has spoiled is not taken for the design.
  sum text not null,
  name text,
  saved_at timestamptz not null,
  primary key (design_id, version)
);

create table changes (
  design_id uuid not null references designs (id) on delete cascade,
  version integer not null check (version > 1),
  -- The changes' own ids: a save whose answer was lost is known again by them.
  ids uuid[] not null,
  label text not null,
  changes text not null,
  saved_at timestamptz not null,
  primary key (design_id, version)
);

insert into snapshots (design_id, version, document, packing, sum, saved_at)
select design_id, version, json, 'json', encode(sha256(json), 'hex'), saved_at
from (
  select design_id, version, convert_to(document::text, 'UTF8') as json, saved_at from revisions
  union all
  select id, version, convert_to(document::text, 'UTF8'), saved_at from designs
) as documents;

drop table revisions;
alter table designs drop column document;
alter table designs alter column summary drop not null;
alter table designs add column summary_version integer;
update designs set summary_version = version;

-- Documents come packed: the database need not try to.
alter table snapshots alter column document set storage external;
