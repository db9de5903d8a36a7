import { expect } from 'chai';
import { applyChange, checkChart, writeAndProve, THE_STUDIO } from '@cordelina/core';
import { demoDesigns } from '../src/demo/designs.js';
import { seedDemo } from '../src/demo/seed.js';
import { type Db } from '../src/store/db.js';
import { DocumentStore, SAVE } from '../src/store/documents.js';
import { migrate, migrations, NewerSchema, schemaOf, TABLES } from '../src/store/migrate.js';
import { pack } from '../src/store/packing.js';
import { embedded } from '../src/store/pglite/embedded.js';
import { shrink, Upkeep } from '../src/store/pglite/upkeep.js';
import { heardAll, memoryPGlite, memoryDatabase, onEither, someDesign } from './support.js';

const designsIn = (db: Db) => new DocumentStore(db, THE_STUDIO, 'design');
const saving = (n: number) => ({
  ids: [],
  label: `save ${n}`,
  changes: `["${n}"]`,
  title: 'x',
  summary: null,
});

onEither('the store', (open) => {
  let db: Db;
  beforeEach(async () => {
    db = await open();
  });
  afterEach(() => db.close());

  it('refuses a schema it does not know and leaves it alone', async () => {
    await db.query('insert into schema_migrations (number) values (999)');
    let refused: unknown;
    await migrate(db).catch((error: unknown) => (refused = error));
    expect(refused).to.be.instanceOf(NewerSchema);
  });

  it('takes a step back whole when it fails', async () => {
    const broken = { number: 1000, sql: 'create table half (id integer); select nonsense;' };
    await migrate(db, [{ number: 1, sql: '' }, broken]).then(
      () => expect.fail('it should have failed'),
      () => undefined,
    );
    expect(await db.query(`select to_regclass('half')::text as half`)).to.deep.equal([{ half: null }]);
  });

  it('is brought up to date once, however many do so together', async () => {
    const more = [...migrations(), { number: 1000, sql: 'create table once (id integer)' }];
    await Promise.all([migrate(db, more), migrate(db, more), migrate(db, more)]);
    expect(await schemaOf(db)).to.equal(1000);
  });

  it('says of every row whose it is, and shows another studio nothing', async () => {
    for (const table of TABLES) {
      const columns = await db.query<{ name: string }>(
        `select column_name as name from information_schema.columns
         where table_name = $1 and column_name = 'studio_id' and is_nullable = 'NO'`,
        [table],
      );
      expect(columns, table).to.have.length(1);
    }
    const other = '5c0ee000-0000-4000-8000-0000000000fe';
    await db.query('insert into studios (studio_id) values ($1)', [other]);
    const design = someDesign('Ours');
    await designsIn(db).create(design.id, 'Ours', pack(design));
    const theirs = new DocumentStore(db, other, 'design');
    expect(await theirs.list()).to.deep.equal([]);
    expect(await theirs.head(design.id)).to.equal(null);
    expect(await theirs.save(design.id, 1, saving(1))).to.deep.equal({ kind: 'gone' });
    expect(await theirs.remove(design.id)).to.equal(false);
    // The same id is another design there.
    expect(await theirs.create(design.id, 'Theirs', pack(design))).to.include({ version: 1 });
    expect((await designsIn(db).list()).map(({ title }) => title)).to.deep.equal(['Ours']);
  });

  it('answers a save with saved, stale or gone, and never takes the one for the other', async () => {
    const store = designsIn(db);
    const { id, title, ...rest } = someDesign('Saved');
    const head = (await store.create(id, title, pack({ id, title, ...rest })))!;
    const saved = await store.save(id, 1, saving(1));
    expect(saved).to.deep.include({ kind: 'saved' });
    expect((saved as { head: { version: number; savedAt: string } }).head.version).to.equal(2);
    const stale = await store.save(id, 1, saving(2));
    expect(stale).to.deep.equal({ kind: 'stale', head: (saved as { head: unknown }).head });
    expect((await store.save(id, 7, saving(3))).kind).to.equal('stale');
    expect((await store.since(id, 1))!.since!.map(({ changes }) => changes)).to.deep.equal(['["1"]']);
    await store.remove(id);
    expect(await store.save(id, 2, saving(4))).to.deep.equal({ kind: 'gone' });
    await store.restore(id);
    expect((await store.save(id, 2, saving(5))).kind).to.equal('saved');
    expect((await store.head(id))!.version).to.equal(3);
    expect(head.version).to.equal(1);
  });

  it('lets one of many saves for a version through, and tells the others that it has moved on', async () => {
    const store = designsIn(db);
    const design = someDesign('Contended');
    await store.create(design.id, 'x', pack(design));
    for (let base = 1; base <= 5; base++) {
      const kinds = (
        await Promise.all(Array.from({ length: 8 }, (_, i) => store.save(design.id, base, saving(i))))
      ).map(({ kind }) => kind);
      expect(kinds.filter((kind) => kind === 'saved')).to.have.length(1);
      expect(kinds.filter((kind) => kind === 'stale')).to.have.length(7);
    }
    expect((await store.since(design.id, 1))!.since).to.have.length(5);
  });

  it('makes a document from what stood there at one moment, though it is thinned meanwhile', async () => {
    const store = designsIn(db);
    const design = someDesign('Thinned');
    await store.create(design.id, 'x', pack(design));
    for (let base = 1; base <= 40; base++) {
      await store.save(design.id, base, saving(base));
      if (base % 8 === 0) await store.keepSnapshot(design.id, base, pack(design));
    }
    await db.query(`update snapshots set saved_at = saved_at - interval '2 hours'`);
    const sources = await Promise.all([
      ...Array.from({ length: 10 }, () => store.source(design.id, 41)),
      store.thin(design.id, new Date()),
      ...Array.from({ length: 10 }, () => store.source(design.id, 41)),
    ]);
    for (const source of sources.filter((one) => typeof one === 'object')) {
      const { snapshot, changes } = source as { snapshot: { version: number }; changes: string[] };
      expect(changes).to.deep.equal(
        Array.from({ length: 41 - snapshot.version }, (_, i) => `["${snapshot.version + i}"]`),
      );
    }
  });

  it('tells those who listen what happened, once it is done and not before', async () => {
    const heard: string[] = [];
    const listening = await db.listen(
      'here',
      (told) => heard.push(told),
      () => undefined,
    );
    expect(listening.hears).to.equal(true);
    await db
      .tx(async (tx) => {
        await tx.query(`select pg_notify('here', 'never')`);
        throw new Error('taken back');
      })
      .catch(() => undefined);
    await db.notify('here', 'one');
    await db.tx(async (tx) => void (await tx.query(`select pg_notify('here', 'two')`)));
    await heardAll(heard, 2);
    await listening.stop();
    await db.notify('here', 'three');
    expect(heard).to.deep.equal(['one', 'two']);
  });

  it('does work under one name by turns', async () => {
    let inside = 0;
    let most = 0;
    const work = async () => {
      most = Math.max(most, ++inside);
      await new Promise((r) => setTimeout(r, 5));
      inside--;
    };
    await Promise.all(Array.from({ length: 5 }, () => db.lock('a name', work)));
    expect(most).to.equal(1);
  });

  it('gives back what it was given, of every type that is used', async () => {
    const bytes = new Uint8Array([0, 255, 7]);
    const at = new Date('2026-02-03T04:05:06.789Z');
    const ids = ['5c0ee000-0000-4000-8000-000000000001', '5c0ee000-0000-4000-8000-000000000002'];
    const text = `'quoted' "twice" {braces} \\ é`;
    const asked = `select $1::bytea as bytes, $2::timestamptz as at, $3::uuid[] as ids, $4::int[] as numbers,
      $5::text as text, $6::jsonb as json, $7::int as none, true as yes`;
    const values = [bytes, at, ids, [1, 2], text, JSON.stringify({ text }), null];
    for (const statement of [asked, { name: 'every type', text: asked }]) {
      const [row] = await db.query<{ bytes: Uint8Array }>(statement, values);
      expect({ ...row, bytes: [...row!.bytes] }).to.deep.equal({
        ...{ bytes: [...bytes], at, ids, numbers: [1, 2], text, json: { text }, none: null, yes: true },
      });
    }
  });
});

describe('what saves leave behind', () => {
  it('is cleared away after every so many of them, and the log cut', async () => {
    const done: string[] = [];
    const upkeep = new Upkeep({
      exec: (sql) => Promise.resolve((done.push(sql), [])),
      query: () => Promise.reject(new Error('nothing is asked')),
    });
    for (let saves = 0; saves < 499; saves++) await upkeep.saved();
    expect(done).to.deep.equal([]);
    await upkeep.saved();
    expect(done).to.deep.equal([`vacuum ${TABLES.join(', ')}`, 'checkpoint']);
  });

  it('is given back when the program stops: tables that are mostly empty grow small again', async () => {
    const pglite = await memoryPGlite();
    const db = embedded(pglite);
    const design = someDesign('Busy');
    await designsIn(db).create(design.id, design.title, pack(design));
    await db.query(
      `insert into changes (studio_id, kind, document_id, version, ids, label, changes, saved_at)
       select $1, 'design', $2, 2 + n, '{}', '', string_agg(md5((n * 1000 + m)::text), ''), now()
       from generate_series(0, 99) n, generate_series(0, 1999) m group by n`,
      [THE_STUDIO, design.id],
    );
    await db.query(
      `insert into photos (studio_id, kind, document_id, type, bytes)
       select $1, 'design', $2, 'image/png', convert_to(repeat('x', 6000000), 'UTF8')`,
      [THE_STUDIO, design.id],
    );
    const size = async (table: string) =>
      (await db.query<{ size: number }>(`select pg_total_relation_size('${table}')::float8 as size`))[0]!
        .size;
    await db.query('delete from changes where version > 3');
    await db.query('delete from photos');
    const before = { changes: await size('changes'), photos: await size('photos') };
    expect(before.changes).to.be.greaterThan(4 * 1024 * 1024);
    await shrink(pglite);
    expect(await size('changes')).to.be.lessThan(before.changes / 10);
    expect(await size('photos')).to.be.lessThan(before.photos / 10);
    expect(await db.query('select 1 from changes')).to.have.length(2);
    await db.close();
  });

  it('keeps the statement of every save in one', () => {
    expect(SAVE.text.match(/;/)).to.equal(null);
  });
});

describe('the demo workroom', () => {
  const designs = demoDesigns();

  for (const design of designs.filter((d) => !d.title.includes('repair')))
    it(`${design.title} has no findings and its words are proved`, () => {
      const chart = design.charts[0]!;
      expect(checkChart(chart)).to.deep.equal([]);
      expect(writeAndProve(chart, design.settings)).to.include({ checked: true });
    });

  it('has one under repair, with ten kinds of slip, each mended by its fix', () => {
    const repair = designs.find((d) => d.title.includes('repair'))!;
    const kinds = new Set(checkChart(repair.charts[0]!).map((f) => f.id));
    expect([...kinds].sort()).to.deep.equal([
      'crossed-again',
      'crossing-at-edge',
      'irregular-rhythm',
      'mirror-broken',
      'narrow-gutter',
      'over-under-broken',
      'rope-purled',
      'rope-split',
      'row-short',
      'wrong-side-crossing',
    ]);
    let now = repair;
    for (let i = 0; i < 20; i++) {
      const next = checkChart(now.charts[0]!).find((f) => f.fix);
      if (next) now = applyChange(now, next.fix!);
    }
    expect(checkChart(now.charts[0]!)).to.deep.equal([]);
    expect(writeAndProve(now.charts[0]!, now.settings)).to.include({ checked: true });
  });

  it('is laid into a new workroom', async () => {
    const db = await memoryDatabase();
    await seedDemo(db);
    expect(await new DocumentStore(db, THE_STUDIO, 'swatch').list()).to.have.length(6);
    expect(await designsIn(db).list()).to.have.length(designs.length);
    // Begun again, as after a start that was cut off, it lays in nothing twice.
    await seedDemo(db);
    expect(await designsIn(db).list()).to.have.length(designs.length);
    await db.close();
  });
});
