import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { TracingSchema, type Tracing } from './tracing.js';

/** Tracings are kept in this browser alone: pictures may be somebody else's, and are no part of a design. */

interface Shelf extends DBSchema {
  tracings: { key: string; value: Tracing };
}

/** The pictures touched longest ago are let go of. */
const MOST = 12;

const keyOf = (design: string, chart: string) => `${design} ${chart}`;

let opened: Promise<IDBPDatabase<Shelf>> | null = null;
const shelf = () =>
  (opened ??= openDB<Shelf>('cordelina-tracings', 1, {
    upgrade: (db) => void db.createObjectStore('tracings'),
    terminated: () => (opened = null),
  }));

/** A browser that keeps nothing has none after the page is left: each of these then does nothing. */
const ifKept = async <T>(work: () => Promise<T>): Promise<T | null> => {
  try {
    return await work();
  } catch {
    return null;
  }
};

export const keptTracing = (design: string, chart: string): Promise<Tracing | null> =>
  ifKept(async () => {
    const found = await (await shelf()).get('tracings', keyOf(design, chart));
    // One that cannot be understood is none.
    return TracingSchema.safeParse(found).data ?? null;
  });

/** @returns whether it is kept */
export async function keepTracing(tracing: Tracing): Promise<boolean> {
  const done = await ifKept(async () => {
    const db = await shelf();
    await db.put('tracings', tracing, keyOf(tracing.design, tracing.chart));
    const keys = await db.getAllKeys('tracings');
    if (keys.length <= MOST) return true;
    const all = await Promise.all(
      keys.map(async (key) => ({ key, touched: (await db.get('tracings', key))?.touched ?? 0 })),
    );
    all.sort((a, b) => b.touched - a.touched);
    for (const { key } of all.slice(MOST)) await db.delete('tracings', key);
    return true;
  });
  return done === true;
}

export const forgetTracing = (design: string, chart: string) =>
  ifKept(async () => (await shelf()).delete('tracings', keyOf(design, chart)));
