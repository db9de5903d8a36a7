import { THE_STUDIO } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import { seedDemo } from '../src/demo/seed.js';
import { StoreTrouble, type Db } from '../src/store/db.js';
import { DocumentStore } from '../src/store/documents.js';
import { TABLES } from '../src/store/migrate.js';
import { move } from '../src/store/move.js';
import { openServer } from '../src/store/postgres/server.js';
import { freshDatabase } from './postgres.js';
import { appOn, memoryDatabase, someDesign, stitchChange, testApp, titleChange } from './support.js';

/** Everything in a database, as text. */
async function allOf(db: Db): Promise<string> {
  const rows: unknown[] = [];
  for (const table of TABLES)
    rows.push(await db.query(`select row_to_json(t) as row from ${table} t order by row_to_json(t)::text`));
  return JSON.stringify(rows);
}

const served = async () => openServer(await freshDatabase());

describe('a workroom that is moved', () => {
  it('from a folder to a server and back is the same to the last row, and goes on from there', async () => {
    const { db: first, workroom, close } = await testApp();
    await seedDemo(first);
    const design = someDesign('Moved');
    const { store } = workroom.designs;
    await workroom.designs.create(Buffer.from(JSON.stringify({ document: design })));
    for (let base = 1; base <= 60; base++)
      await workroom.designs
        .save(
          design.id,
          'changes',
          Buffer.from(
            JSON.stringify({
              base,
              changes: [titleChange({ ...design, title: `t${base - 1 || ''}` }, `t${base}`)],
            }),
          ),
        )
        .catch(() => undefined);
    await workroom.designs.save(
      design.id,
      'changes',
      Buffer.from(JSON.stringify({ base: 1, changes: [stitchChange(0, 'p', 'k')] })),
    );
    await workroom.designs.name(design.id, 1, 'Named');
    const [swatch] = await workroom.swatches.store.list();
    await workroom.photos.swatch.save(swatch!.id, {
      type: 'image/png',
      bytes: new Uint8Array([0, 1, 254, 255]),
    });
    await store.remove((await store.list()).at(-1)!.id);

    const [there, back] = [await served(), await memoryDatabase()];
    const rows = await move(first, there);
    expect(rows.documents).to.be.greaterThan(10);
    expect(rows.photos).to.equal(1);
    expect(await allOf(there)).to.equal(await allOf(first));
    await move(there, back);
    expect(await allOf(back)).to.equal(await allOf(first));

    const again = await appOn(there);
    const { version } = await again.workroom.designs.open(design.id);
    const saved = await again.workroom.designs.save(
      design.id,
      'changes',
      Buffer.from(JSON.stringify({ base: version, changes: [stitchChange(1, 'p', 'k')] })),
    );
    expect(saved).to.deep.include({ kind: 'saved' });
    // What was done on the server comes back to a folder just so.
    const last = await memoryDatabase();
    await move(there, last);
    expect(await allOf(last)).to.equal(await allOf(there));
    await close();
    await again.close();
    for (const db of [back, last]) await db.close();
  });

  it('is not put over another, and one that does not arrive whole leaves nothing', async () => {
    const [from, to] = [await memoryDatabase(), await served()];
    await seedDemo(from);
    await seedDemo(to);
    const before = await allOf(to);
    const refused = await move(from, to).catch((error: unknown) => error);
    expect(refused).to.be.instanceOf(StoreTrouble);
    expect(await allOf(to)).to.equal(before);

    // A database that keeps something else than it is given.
    const forgetful = await served();
    await forgetful.query(
      `create function lose() returns trigger language plpgsql as $$ begin new.title := 'lost'; return new; end $$`,
    );
    await forgetful.query(
      'create trigger lose before insert on documents for each row execute function lose()',
    );
    const lost = await move(from, forgetful).catch((error: unknown) => error);
    expect((lost as Error).message).to.contain('did not arrive as it is');
    expect(await new DocumentStore(forgetful, THE_STUDIO, 'design').list()).to.deep.equal([]);
    for (const db of [from, to, forgetful]) await db.close();
  });

  it('says whose it is: another studio’s rows come along as they are', async () => {
    const [from, to] = [await memoryDatabase(), await served()];
    const other = randomUUID();
    await from.query('insert into studios (studio_id) values ($1)', [other]);
    const design = someDesign('Theirs');
    const bytes = { document: new Uint8Array([1]), packing: 'json' as const, sum: 'x' };
    await new DocumentStore(from, other, 'design').create(design.id, 'Theirs', bytes);
    await move(from, to);
    expect((await new DocumentStore(to, other, 'design').list())[0]).to.include({ title: 'Theirs' });
    for (const db of [from, to]) await db.close();
  });
});
