import { ChangeSchema, KIND_NAMES, type Card, type Change, type KindName } from '@cordelina/core';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { z } from 'zod';
import type { Listed, ListedKind } from './server.js';
import { hasNews, kindOf, type AnyOutbox, type Document, type Done } from './outbox.js';

/**
 * What the browser keeps, so that neither a closed tab nor an absent server loses an edit. Each tab has a record
 * of its own for a design: what it did that the server has not acknowledged, and what it can undo. The documents
 * they were made for lie beside them, written once a version. A browser that keeps nothing only means that an
 * edit is lost with its tab; the page goes on.
 */

/** A tab's record of a document. */
export interface Kept {
  kind: KindName;
  tab: string;
  base: number;
  saved: Document;
  out: boolean;
  outThere: boolean;
  unsaved: Change[];
  done: Done[];
  undone: Done[];
  choices: Change[];
}

interface KeptRecord extends Omit<Kept, 'saved'> {
  id: string;
}

interface Shelf extends DBSchema {
  documents: {
    key: string;
    value: { kind: KindName; id: string; version: number; json: string; at: number };
  };
  records: { key: string; value: KeptRecord };
  lists: { key: string; value: Card[] | Listed[] };
}

/** Documents kept of designs that have nothing unsaved: the latest seen, for when the server is away. */
const MOST_DOCUMENTS = 80;
const PATIENCE = 4000;

// Changes are this program's own, and fit or not when they are applied; what was spoiled is left aside.
const changes = z.array(ChangeSchema) as unknown as z.ZodType<Done[]>;
const RecordSchema = z.object({
  kind: z.enum(KIND_NAMES),
  id: z.uuid(),
  tab: z.string(),
  base: z.int().min(0),
  out: z.boolean(),
  outThere: z.boolean(),
  unsaved: changes,
  done: z.array(z.unknown()),
  undone: z.array(z.unknown()),
  choices: changes,
});

export type Keeping = 'kept' | 'blocked' | 'full';

let opened: Promise<IDBPDatabase<Shelf>> | null = null;
let state: Keeping = 'kept';
const listeners = new Set<(state: Keeping) => void>();

/** Tells whether the browser keeps what it is given, now and whenever that changes. */
export function onKeeping(listener: (state: Keeping) => void): void {
  listeners.add(listener);
  listener(state);
}

function became(now: Keeping): void {
  if (state === now) return;
  state = now;
  for (const listener of listeners) listener(now);
}

function shelf(): Promise<IDBPDatabase<Shelf>> {
  opened ??= Promise.race([
    openDB<Shelf>('cordelina-sync', 1, {
      upgrade: (db) => {
        for (const name of ['documents', 'records', 'lists'] as const) db.createObjectStore(name);
      },
      terminated: () => (opened = null),
    }),
    new Promise<never>((_, reject) =>
      setTimeout(() => reject(new Error('the browser does not answer')), PATIENCE),
    ),
  ]);
  return opened;
}

/** Works with the shelf; where the browser refuses, that is said once and the answer is `otherwise`. */
async function withShelf<T>(work: (db: IDBPDatabase<Shelf>) => Promise<T>, otherwise: T): Promise<T> {
  try {
    const result = await work(await shelf());
    became('kept');
    return result;
  } catch (error) {
    const full = error instanceof DOMException && error.name === 'QuotaExceededError';
    became(full ? 'full' : 'blocked');
    if (!full) opened = null;
    return otherwise;
  }
}

const documentKey = (id: string, version: number) => `${id}/${version}`;
const recordKey = (id: string, tab: string) => `${id}/${tab}`;
const within = (id: string) => IDBKeyRange.bound(`${id}/`, `${id}/\uffff`);

/**
 * Keeps a tab's outbox, and lets go of the records it has taken in, in one transaction; what is no longer needed goes in
 * another, so that what matters is on the disk as soon as can be. False when it could not.
 */
export function keep(box: AnyOutbox, tab: string, taken: readonly string[] = []): Promise<boolean> {
  const { kind, id, base, saved, unsaved, done, undone, choices, out, outThere } = box;
  return withShelf(async (db) => {
    const tx = db.transaction(['documents', 'records'], 'readwrite', { durability: 'strict' });
    const [documents, records] = [tx.objectStore('documents'), tx.objectStore('records')];
    const key = documentKey(id, base);
    if ((await documents.getKey(key)) === undefined)
      await documents.put({ kind, id, version: base, json: JSON.stringify(saved), at: Date.now() }, key);
    const hasWork = hasNews(box) || [done, undone, choices].some((list) => list.length);
    if (hasWork)
      await records.put(
        { kind, id, tab, base, unsaved, done, undone, choices, out, outThere },
        recordKey(id, tab),
      );
    else await records.delete(recordKey(id, tab));
    for (const other of taken) await records.delete(recordKey(id, other));
    tx.commit();
    await tx.done;
    await clearAway(db, id, key);
    await prune(db);
    return true;
  }, false);
}

/** Older documents go when no tab's work was made for them. */
async function clearAway(db: IDBPDatabase<Shelf>, id: string, key: string): Promise<void> {
  const tx = db.transaction(['documents', 'records'], 'readwrite');
  const [documents, records] = [tx.objectStore('documents'), tx.objectStore('records')];
  const needed = new Set((await records.getAll(within(id))).map((r) => documentKey(id, r.base)));
  for (const old of await documents.getAllKeys(within(id)))
    if (old !== key && !needed.has(old)) await documents.delete(old);
  await tx.done;
}

/** Of the designs without work, the documents seen longest ago go. */
async function prune(db: IDBPDatabase<Shelf>): Promise<void> {
  if ((await db.count('documents')) <= MOST_DOCUMENTS) return;
  const tx = db.transaction(['documents', 'records'], 'readwrite');
  const documents = tx.objectStore('documents');
  const needed = new Set((await tx.objectStore('records').getAll()).map((r) => documentKey(r.id, r.base)));
  const all = await documents.getAll();
  // What is being knitted must be there without the server, however many designs were looked at since.
  const atNeedles = (d: { kind: KindName }) => d.kind === 'edition' || d.kind === 'knitting';
  const spare = [all.filter(atNeedles), all.filter((d) => !atNeedles(d))].flatMap((some) =>
    some
      .filter((d) => !needed.has(documentKey(d.id, d.version)))
      .sort((a, b) => a.at - b.at)
      .slice(0, Math.max(0, some.length - MOST_DOCUMENTS)),
  );
  for (const { id, version } of spare) await documents.delete(documentKey(id, version));
  await tx.done;
}

function documentOf(value: { kind: KindName; json: string } | undefined): Document | null {
  try {
    return value ? kindOf(value).read(JSON.parse(value.json)) : null;
  } catch {
    return null;
  }
}

/** Every tab's record of a document. One that cannot be read any more stays where it is. */
export function kept(id: string): Promise<Kept[]> {
  return withShelf(async (db) => {
    const found: Kept[] = [];
    for (const value of await db.getAll('records', within(id))) {
      const parsed = RecordSchema.safeParse(value);
      if (!parsed.success) continue;
      const saved = documentOf(await db.get('documents', documentKey(id, value.base)));
      if (saved) found.push({ ...(parsed.data as KeptRecord), saved });
    }
    return found;
  }, []);
}

/** The newest version seen of a document; null when none is kept. */
export function seen(id: string): Promise<{ document: Document; version: number } | null> {
  return withShelf(async (db) => {
    const all = await db.getAll('documents', within(id));
    const newest = all.sort((a, b) => b.version - a.version)[0];
    const document = documentOf(newest);
    return document && newest ? { document, version: newest.version } : null;
  }, null);
}

/** Lets go of a tab's record of a document. */
export function forget(id: string, tab: string): Promise<void> {
  return withShelf(async (db) => db.delete('records', recordKey(id, tab)), undefined);
}

/** What is kept of a document. */
export interface KeptWork {
  kind: KindName;
  id: string;
  /** Changes of it wait. */
  waits: boolean;
  /** The server knows nothing of it yet. */
  isNew: boolean;
}

/** What is kept of every document. */
export function keptWork(): Promise<KeptWork[]> {
  return withShelf(async (db) => {
    const works = new Map<string, KeptWork>();
    for (const { kind, id, version } of await db.getAll('documents'))
      if (!works.has(id)) works.set(id, { kind, id, waits: false, isNew: version === 0 });
    for (const record of await db.getAll('records')) {
      const of = works.get(record.id);
      if (of && (hasNews(record) || record.choices.length)) of.waits = true;
    }
    return [...works.values()];
  }, []);
}

/** A list as it was last told by the server: the workroom's cards, and all of a kind. */
export const keepCards = (list: Card[]): Promise<void> =>
  withShelf(async (db) => void (await db.put('lists', list, 'cards')), undefined);
export const keepListed = (kind: ListedKind, list: Listed[]): Promise<void> =>
  withShelf(async (db) => void (await db.put('lists', list, kind)), undefined);
export const keptCards = (): Promise<Card[] | null> =>
  withShelf(async (db) => ((await db.get('lists', 'cards')) as Card[] | undefined) ?? null, null);
export const keptListed = (kind: ListedKind): Promise<Listed[] | null> =>
  withShelf(async (db) => ((await db.get('lists', kind)) as Listed[] | undefined) ?? null, null);

const AT_ONCE = 'cordelina-place';
const AtOnceSchema = z.object({ id: z.string(), value: z.unknown() });

/**
 * Writes what must not be lost where writing takes no time: a document takes a moment to be on disk, and a page may be gone before.
 * One value, of the document that was worked on last; whoever reads it holds it against the document.
 */
export function writeAtOnce(id: string, value: unknown): void {
  try {
    localStorage.setItem(AT_ONCE, JSON.stringify({ id, value }));
  } catch {
    // Then it is kept a moment later, with the rest.
  }
}

/** What was written at once of a document; null where the last was of another, or it cannot be read. */
export function writtenAtOnce(id: string): unknown {
  try {
    const last = AtOnceSchema.safeParse(JSON.parse(localStorage.getItem(AT_ONCE) ?? 'null'));
    return last.success && last.data.id === id ? last.data.value : null;
  } catch {
    return null;
  }
}
