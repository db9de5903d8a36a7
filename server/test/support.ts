import { PGlite } from '@electric-sql/pglite';
import { headChange, type Change, type Design, type Stitch } from '@cordelina/core';
import type { Express } from 'express';
import { randomUUID } from 'node:crypto';
import { pino } from 'pino';
import request from 'supertest';
import { createApp } from '../src/app.js';
import type { Db } from '../src/store/db.js';
import type { CardRow, DocumentStore } from '../src/store/documents.js';
import { migrate } from '../src/store/migrate.js';
import { embedded } from '../src/store/pglite/embedded.js';
import { openServer } from '../src/store/postgres/server.js';
import { makeWorkers } from '../src/work/workers.js';
import { Workroom } from '../src/workroom/index.js';
import { freshDatabase, stopPostgres } from './postgres.js';

let template: Promise<File | Blob> | null = null;

/** A fresh embedded database in memory, from a template made once. */
export async function memoryPGlite(): Promise<PGlite> {
  template ??= (async () => {
    const pglite = await PGlite.create();
    await migrate(embedded(pglite));
    const dump = await pglite.dumpDataDir('none');
    await pglite.close();
    return dump;
  })();
  return PGlite.create({ loadDataDir: await template });
}

export const memoryDatabase = async (): Promise<Db> => embedded(await memoryPGlite());

/** The databases everything must work alike on. */
const DATABASES: Readonly<Record<string, () => Promise<Db>>> = {
  'an embedded database': memoryDatabase,
  'a PostgreSQL server': async () => openServer(await freshDatabase()),
};

/** The same tests on either database: `open` makes a fresh one. */
export function onEither(title: string, suite: (open: () => Promise<Db>) => void): void {
  for (const [name, open] of Object.entries(DATABASES)) describe(`${title}, on ${name}`, () => suite(open));
}

/** The server's threads, shared by all tests of a run; with time to spare, since others run beside them. */
export const workers = makeWorkers({ deadline: 30_000 });
before(() => workers.compute.run('check', Buffer.from('{}')).catch(() => undefined));
after(async () => {
  await workers.close();
  await stopPostgres();
});

const log = pino({ level: 'silent' });

export interface Api {
  app: Express;
  workroom: Workroom;
  store: DocumentStore;
  db: Db;
  close: () => Promise<void>;
}

/** The program on a database, with nothing remembered. */
export async function appOn(db: Db, threads = workers): Promise<Api> {
  const workroom = await Workroom.open(db, threads, log);
  const close = async () => {
    await workroom.close();
    await db.close();
  };
  const app = createApp({ workroom, workers: threads, log });
  return { app, workroom, store: workroom.designs.store, db, close };
}

export const testApp = async (open: () => Promise<Db> = memoryDatabase): Promise<Api> => appOn(await open());

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

/** Waits until so much was heard: another program's word takes a moment. */
export async function heardAll(heard: readonly unknown[], many: number): Promise<void> {
  for (let tries = 0; heard.length < many && tries < 1000; tries++)
    await new Promise((r) => setTimeout(r, 10));
}
