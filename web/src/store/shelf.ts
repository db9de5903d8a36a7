import type { Change, Design } from '@cordelina/core';
import { openDB, type IDBPDatabase } from 'idb';
import { z } from 'zod';
import { DocumentSchema } from './document.js';

/**
 * What the browser keeps of a design: the last document seen, the server's version it grew from, and the
 * changes made since that the server has not acknowledged.
 */
export interface Kept {
  document: Design;
  base: number;
  unsaved: Change[];
}

const KeptSchema = z.object({
  document: DocumentSchema,
  base: z.int().min(1),
  // Changes are this program's own and are checked again by applying them.
  unsaved: z.array(z.custom<Change>((c) => typeof c === 'object' && c !== null && 'steps' in c)),
});

let opened: Promise<IDBPDatabase> | null = null;

function shelf(): Promise<IDBPDatabase> {
  opened ??= openDB('cordelina', 1, { upgrade: (db) => void db.createObjectStore('designs') });
  return opened;
}

/** Keeps a design in the browser, so that neither a closed tab nor an absent server loses an edit. */
export async function keep(kept: Kept): Promise<void> {
  await (await shelf()).put('designs', kept, kept.document.id);
}

/** What is kept of a design; null when there is nothing or it cannot be read any more. */
export async function kept(id: string): Promise<Kept | null> {
  const parsed = KeptSchema.safeParse(await (await shelf()).get('designs', id));
  return parsed.success ? parsed.data : null;
}

/** Ids of the designs with edits the server has not acknowledged. */
export async function waiting(): Promise<string[]> {
  const all: unknown[] = await (await shelf()).getAll('designs');
  return all.flatMap((value) => {
    const parsed = KeptSchema.safeParse(value);
    return parsed.success && parsed.data.unsaved.length ? [parsed.data.document.id] : [];
  });
}

export async function forget(id: string): Promise<void> {
  await (await shelf()).delete('designs', id);
}
