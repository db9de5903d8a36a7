import { PGlite } from '@electric-sql/pglite';
import { pino } from 'pino';
import type { Express } from 'express';
import request from 'supertest';
import { createApp } from '../src/app.js';
import { migrate } from '../src/store/database.js';
import { StudioStore } from '../src/store/studio.js';
import { SwatchStore } from '../src/store/swatches.js';
import { DesignStore, type CardRow } from '../src/store/designs.js';
import { makeWorkers } from '../src/work/workers.js';
import { Workroom } from '../src/workroom.js';
import { headChange, type Change, type Design, type Stitch } from '@cordelina/core';
import { randomUUID } from 'node:crypto';

let template: Promise<File | Blob> | null = null;

/** A fresh database in memory, from a template made once. */
export async function memoryDatabase(): Promise<PGlite> {
  template ??= (async () => {
    const db = await PGlite.create();
    await migrate(db);
    const dump = await db.dumpDataDir('none');
    await db.close();
    return dump;
  })();
  return PGlite.create({ loadDataDir: await template });
}

/** The server's threads, shared by all tests of a run; with time to spare, since others run beside them. */
export const workers = makeWorkers({ deadline: 30_000 });
before(() => workers.compute.run('check', Buffer.from('{}')).catch(() => undefined));
after(() => workers.close());

const log = pino({ level: 'silent' });

/** The program on a database, with nothing remembered. */
export function appOn(db: PGlite) {
  const store = new DesignStore(db);
  const workroom = new Workroom(store, workers, log);
  const studio = new StudioStore(db);
  const swatches = new SwatchStore(db);
  return {
    app: createApp({ workroom, studio, swatches, workers, log }),
    workroom,
    studio,
    swatches,
    store,
    db,
  };
}

export const testApp = async () => appOn(await memoryDatabase());

export { someDesign } from './someDesign.js';

/** One stitch of the first column replaced. */
export const stitchChange = (row: number, was: Stitch, now: Stitch): Change => ({
  id: randomUUID(),
  label: `row ${row + 1}`,
  steps: [{ kind: 'cells', chart: 'chart', row, column: 0, was: [was], now: [now] }],
});

export const titleChange = (design: Design, title: string): Change =>
  headChange(design, { title }, 'rename', randomUUID())!;

/** The card of a design once it is worked out for a version; the list does not wait for it for ever. */
export async function cardOf(app: Express, id: string, version: number) {
  for (let tries = 0; ; tries++) {
    const { body } = await request(app).get('/api/designs').expect(200);
    const card = (body as { designs: CardRow[] }).designs.find((d) => d.id === id)!;
    if (card.summaryVersion === version || tries > 50) return card;
  }
}
