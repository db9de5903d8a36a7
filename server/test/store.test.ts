import { expect } from 'chai';
import { applyChange, checkChart, writeAndProve } from '@cordelina/core';
import { demoDesigns } from '../src/demo/designs.js';
import { seedDemo } from '../src/demo/seed.js';
import { SwatchStore } from '../src/store/swatches.js';
import { migrate } from '../src/store/database.js';
import { DesignStore } from '../src/store/designs.js';
import { NewerDatabase } from '../src/store/folder.js';
import { pack } from '../src/store/packing.js';
import { shrink, Upkeep } from '../src/store/upkeep.js';
import { memoryDatabase, someDesign } from './support.js';

describe('the store', () => {
  it('refuses a schema it does not know and leaves it alone', async () => {
    const db = await memoryDatabase();
    await db.query('insert into schema_migrations (number) values (999)');
    let refused: unknown;
    await migrate(db).catch((error: unknown) => (refused = error));
    expect(refused).to.be.instanceOf(NewerDatabase);
    await db.close();
  });

  it('takes a step back whole when it fails', async () => {
    const db = await memoryDatabase();
    const broken = { number: 1000, sql: 'create table half (id integer); select nonsense;' };
    await migrate(db, [{ number: 1, sql: '' }, broken]).then(
      () => expect.fail('it should have failed'),
      () => undefined,
    );
    const { rows } = await db.query(`select to_regclass('half')::text as half`);
    expect(rows).to.deep.equal([{ half: null }]);
    await db.close();
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
    expect(done).to.deep.equal(['vacuum designs, changes, snapshots', 'checkpoint']);
  });

  it('is given back when the program stops: a table that is mostly empty grows small again', async () => {
    const db = await memoryDatabase();
    const design = someDesign('Busy');
    const store = new DesignStore(db);
    await store.create(design.id, design.title, pack(design));
    await db.query(
      `insert into changes (design_id, version, ids, label, changes, saved_at)
       select $1, 2 + n, '{}', '', string_agg(md5((n * 1000 + m)::text), ''), now()
       from generate_series(0, 99) n, generate_series(0, 1999) m group by n`,
      [design.id],
    );
    const size = async () =>
      (await db.query<{ size: number }>(`select pg_total_relation_size('changes')::float8 as size`)).rows[0]!
        .size;
    await db.query('delete from changes where version > 3');
    const before = await size();
    expect(before).to.be.greaterThan(4 * 1024 * 1024);
    await shrink(db);
    expect(await size()).to.be.lessThan(before / 10);
    expect((await db.query('select 1 from changes')).rows).to.have.length(2);
    await db.close();
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
    const store = new DesignStore(db);
    const swatches = new SwatchStore(db);
    await seedDemo(store, swatches);
    expect(await swatches.list()).to.have.length(6);
    expect(await store.list()).to.have.length(designs.length);
    await db.close();
  });
});
