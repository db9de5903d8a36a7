-- Whatever is kept in versions is a document of some kind, in one table, saved one way. Every row says whose it is.
create table studios (
  studio_id uuid primary key,
  -- When what a new workroom begins with lay in it, all of it.
  laid_out_at timestamptz,
  made_at timestamptz not null default now()
);
insert into studios (studio_id) values ('5c0ee000-0000-4000-8000-0000000000ff');

alter table snapshots drop constraint snapshots_design_id_fkey, drop constraint snapshots_pkey;
alter table changes drop constraint changes_design_id_fkey, drop constraint changes_pkey;

alter table designs rename to documents;
alter table documents rename column created_at to made_at;
alter table documents drop constraint designs_pkey;
alter table documents
  add column studio_id uuid not null default '5c0ee000-0000-4000-8000-0000000000ff' references studios (studio_id),
  add column kind text not null default 'design';
alter table documents alter column studio_id drop default, alter column kind drop default;
alter table documents add primary key (studio_id, kind, id);

alter table snapshots rename column design_id to document_id;
alter table snapshots
  add column studio_id uuid not null default '5c0ee000-0000-4000-8000-0000000000ff',
  add column kind text not null default 'design';
alter table snapshots alter column studio_id drop default, alter column kind drop default;
alter table snapshots
  add primary key (studio_id, kind, document_id, version),
  add foreign key (studio_id, kind, document_id) references documents (studio_id, kind, id) on delete cascade;

alter table changes rename column design_id to document_id;
alter table changes
  add column studio_id uuid not null default '5c0ee000-0000-4000-8000-0000000000ff',
  add column kind text not null default 'design';
alter table changes alter column studio_id drop default, alter column kind drop default;
alter table changes
  add primary key (studio_id, kind, document_id, version),
  add foreign key (studio_id, kind, document_id) references documents (studio_id, kind, id) on delete cascade;

-- Swatches and the studio's own row become documents; what is summed up of them is all of them.
insert into documents (studio_id, kind, id, version, title, summary, summary_version, made_at, saved_at)
select '5c0ee000-0000-4000-8000-0000000000ff'::uuid, 'swatch', id, 1, document ->> 'name', document, 1, made_at, saved_at
from swatches
union all
select '5c0ee000-0000-4000-8000-0000000000ff'::uuid, 'studio', '5c0ee000-0000-4000-8000-0000000000ff'::uuid, 1, 'The studio', document, 1, saved_at, saved_at
from studio;

insert into snapshots (studio_id, kind, document_id, version, document, packing, sum, saved_at)
select studio_id, kind, id, version, convert_to(summary::text, 'UTF8'), 'json',
  encode(sha256(convert_to(summary::text, 'UTF8')), 'hex'), saved_at
from documents where kind in ('swatch', 'studio');
update documents set summary = null, summary_version = null where kind = 'studio';

alter table swatch_photos drop constraint swatch_photos_swatch_id_fkey, drop constraint swatch_photos_pkey;
alter table swatch_photos rename to photos;
alter table photos rename column swatch_id to document_id;
alter table photos
  add column studio_id uuid not null default '5c0ee000-0000-4000-8000-0000000000ff',
  add column kind text not null default 'swatch';
alter table photos alter column studio_id drop default, alter column kind drop default;
alter table photos
  add primary key (studio_id, kind, document_id),
  add foreign key (studio_id, kind, document_id) references documents (studio_id, kind, id) on delete cascade;

drop table swatches;
drop table studio;
