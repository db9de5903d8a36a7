import { DocumentError } from '../chart/migrate.js';
import { LIMITS } from '../chart/schema.js';
import type { DocumentOf, KindName } from '../documents/index.js';
import { cutText, sameValue } from '../values.js';
import type { Archive, ArchivedItem } from './archive.js';

/** A backup brought back into a workroom, through what anyone may ask of that. */

/** What is asked of the workroom. */
export interface Keeping {
  /** The document there; null where there is none. */
  head(of: KindName, id: string): Promise<{ version: number; document: unknown } | null>;
  /** Lays a document down; false where one of its id was taken out and lies in the basket. */
  make(of: KindName, document: unknown): Promise<boolean>;
  putBack(of: KindName, id: string): Promise<void>;
  /** Sets a whole document in the place of a version, and says which version that is. */
  replace(of: KindName, id: string, base: number, document: unknown): Promise<number>;
  name(of: KindName, id: string, version: number, name: string): Promise<void>;
  photo(of: KindName, id: string, photo: { type: string; bytes: Uint8Array }): Promise<void>;
}

/** What is taken: what is not there; besides, what differs as copies; or what differs in the place of what is there. */
export const TAKES = ['new', 'beside', 'all'] as const;
export type Take = (typeof TAKES)[number];

export interface Planned {
  item: ArchivedItem;
  /** How it stands to what is in the workroom. */
  is: 'new' | 'same' | 'differs' | 'spoiled';
  /** Why it cannot be read, where it is spoiled. */
  why?: string;
}

/** References stand before what refers to them. */
const ORDER: readonly KindName[] = ['studio', 'design', 'swatch', 'edition', 'knitting', 'note'];

/** How everything in a backup stands to what is in the workroom. */
export async function restorePlanOf(
  archive: Archive,
  keeping: Pick<Keeping, 'head'>,
  onLook: (done: number, of: number) => void = () => undefined,
): Promise<Planned[]> {
  const items = archive.manifest.documents.toSorted((a, b) => ORDER.indexOf(a.of) - ORDER.indexOf(b.of));
  const planned: Planned[] = [];
  for (const item of items) {
    planned.push(await plannedOf(archive, item, keeping));
    onLook(planned.length, items.length);
  }
  return planned;
}

async function plannedOf(
  archive: Archive,
  item: ArchivedItem,
  keeping: Pick<Keeping, 'head'>,
): Promise<Planned> {
  let document: unknown;
  try {
    document = archive.document(item.of, item.file);
  } catch (error) {
    if (!(error instanceof DocumentError)) throw error;
    return { item, is: 'spoiled', why: error.message };
  }
  const there = await keeping.head(item.of, item.id);
  if (!there) return { item, is: 'new' };
  // As JSON holds both: what is absent equals what is not said.
  return { item, is: sameValue(plain(there.document), plain(document)) ? 'same' : 'differs' };
}

const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value)) as unknown;

export interface Restored {
  made: number;
  changed: number;
  copied: number;
  /** What was left, and why. */
  left: { title: string; why: string }[];
}

/**
 * Does what was planned. What is there is never lost: a document that is set back can be taken back, for its states are kept.
 *
 * @param newId makes the ids of copies
 */
export async function restored(
  archive: Archive,
  planned: readonly Planned[],
  take: Take,
  keeping: Keeping,
  newId: () => string,
  onDone: (done: number, of: number) => void = () => undefined,
): Promise<Restored> {
  const result: Restored = { made: 0, changed: 0, copied: 0, left: [] };
  for (const [i, { item, is, why }] of planned.entries()) {
    const { of, id, title } = item;
    if (is === 'spoiled') result.left.push({ title, why: why! });
    else if (is === 'new') {
      await anew(archive, item, keeping);
      result.made++;
    } else if (is === 'differs' && take === 'all') {
      const there = (await keeping.head(of, id))!;
      await keeping.replace(of, id, there.version, archive.document(of, item.file));
      result.changed++;
    } else if (is === 'differs' && take === 'beside') {
      const copy = copied(of, archive.document(of, item.file), newId(), archive.manifest.at);
      if (copy) {
        await keeping.make(of, copy);
        result.copied++;
      } else result.left.push({ title, why: 'of its kind there are no copies; what is there stays.' });
    }
    onDone(i + 1, planned.length);
  }
  return result;
}

/** One that is not there: with its named states, the oldest first, and its photo. */
async function anew(archive: Archive, item: ArchivedItem, keeping: Keeping): Promise<void> {
  const { of, id, file, named, photo } = item;
  const states = [
    ...named.toSorted((a, b) => a.version - b.version).filter(({ version }) => version < item.version),
    { name: null, file },
  ];
  const last = named.find(({ version }) => version === item.version)?.name ?? null;
  let version: number | null = null;
  for (const state of states) {
    const document = archive.document(of, state.file);
    if (version === null) {
      if (await keeping.make(of, document)) version = 1;
      else {
        // It lies in the basket: it comes back as the backup has it.
        await keeping.putBack(of, id);
        version = await keeping.replace(of, id, (await keeping.head(of, id))!.version, document);
      }
    } else version = await keeping.replace(of, id, version, document);
    const name = state.name ?? (state.file === file ? last : null);
    if (name !== null) await keeping.name(of, id, version, name);
  }
  if (photo) await keeping.photo(of, id, { type: photo.type, bytes: archive.bytes(photo.file) });
}

/** A copy under another name; null of a kind that is only what it is. */
function copied(of: KindName, document: DocumentOf[KindName], id: string, at: string): unknown {
  const since = ` (backup of ${at.slice(0, 10)})`;
  if (of === 'design') {
    const { title } = document as DocumentOf['design'];
    return { ...document, id, title: cutText(title, LIMITS.title - since.length) + since };
  }
  if (of === 'swatch') {
    const { name } = document as DocumentOf['swatch'];
    return { ...document, id, name: cutText(name, 40) + since };
  }
  return null;
}
