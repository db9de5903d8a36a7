import { PGlite } from '@electric-sql/pglite';
import { pino } from 'pino';
import { createApp } from '../src/app.js';
import { migrate } from '../src/store/database.js';
import { DesignStore } from '../src/store/designs.js';
import { startChart, startDesign, type Design } from '@cordelina/core';
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

export async function testApp() {
  const db = await memoryDatabase();
  const store = new DesignStore(db);
  return { app: createApp({ store, log: pino({ level: 'silent' }) }), store, db };
}

export function someDesign(title = 'Trial'): Design {
  return startDesign(
    randomUUID(),
    title,
    startChart({ columns: 8, rows: 4, construction: 'flat', ground: 'p' }),
  );
}
