import { randomUUID } from 'node:crypto';
import { isMainThread } from 'node:worker_threads';
import {
  applyChange,
  applyStep,
  DocumentError,
  readDesign,
  stepsBetween,
  stepsOf,
  StepMisfit,
  type Change,
  type Design,
  MakeRequest,
  ChangesRequest,
  ReplaceRequest,
} from '@cordelina/core';
import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import type { Saving, Snapshot, Source } from '../store/designs.js';
import { pack as packed, unpack } from '../store/packing.js';
import { ApiError, DamagedDesign, outcome, parsed, parsedJson, type Outcome } from './faults.js';

/**
 * Keeps the documents that are in use, so that a save need not read the whole of one. A document is known by a
 * mark given when it was made here; who asks for one by a mark that is not kept any more is told so, and asks
 * again with what the document is made from.
 */

const MOST_KEPT = 64;
/** Together the kept documents have at most so many stitches. */
const MOST_STITCHES = isMainThread ? 400_000 : 6_000_000;
/** A larger document is the thread's. */
const MOST_OF_ONE = isMainThread ? 8_000 : MOST_STITCHES;

const documents = new LRUCache<string, Design>({
  max: MOST_KEPT,
  maxSize: MOST_STITCHES,
  maxEntrySize: MOST_OF_ONE,
  sizeCalculation: ({ charts }) =>
    1 + charts.reduce((sum, { rows }) => sum + rows.reduce((n, row) => n + row.length, 0), 0),
});

// Marks of this thread, of this start: another's are unknown here.
const here = randomUUID();
let given = 0;

function keep(design: Design): string {
  const mark = `${here} ${++given}`;
  documents.set(mark, design);
  return mark;
}

/** Which document: one that is kept here, or what to make it from. */
export interface Wanted {
  mark?: string;
  source?: Source;
}

/** The document from a snapshot and the changes since. They were checked when they were saved. */
function made({ snapshot, changes }: Source): Design {
  const json = unpack(snapshot);
  try {
    const design = readDesign(JSON.parse(json));
    return stepsOf(changes.flatMap((list) => JSON.parse(list) as Change[])).reduce(applyStep, design);
  } catch (error) {
    if (error instanceof DocumentError || error instanceof StepMisfit || error instanceof SyntaxError)
      throw new DamagedDesign(error.message);
    throw error;
  }
}

/** The wanted document and its mark; null when it is not kept and nothing came to make it from. */
function got({ mark, source }: Wanted): { design: Design; mark: string } | null {
  const kept = mark === undefined ? undefined : documents.get(mark);
  if (kept) return { design: kept, mark: mark! };
  if (!source) return null;
  const design = made(source);
  return { design, mark: keep(design) };
}

/** The document asked for is not kept here: ask again with its source. */
export type Unknown = { unknown: true };
const UNKNOWN: Unknown = { unknown: true };

/** A new document out of a request. */
export function make(
  body: Uint8Array,
): Outcome<{ id: string; title: string; mark: string; snapshot: Snapshot }> {
  return outcome(() => {
    const design = readDesign(parsed(MakeRequest, parsedJson(body)).document);
    return { id: design.id, title: design.title, mark: keep(design), snapshot: packed(design) };
  });
}

export function read(wanted: Wanted): Outcome<Unknown | { mark: string; json: string }> {
  return outcome(() => {
    const found = got(wanted);
    return found ? { mark: found.mark, json: JSON.stringify(found.design) } : UNKNOWN;
  });
}

export function pack(wanted: Wanted): Outcome<Unknown | { mark: string; snapshot: Snapshot }> {
  return outcome(() => {
    const found = got(wanted);
    return found ? { mark: found.mark, snapshot: packed(found.design) } : UNKNOWN;
  });
}

export interface Save extends Wanted {
  id: string;
  /** The version of the wanted document. */
  version: number;
  body: Uint8Array;
  kind: 'changes' | 'document';
  /** The first so many changes of the request are in that version already. */
  known?: number;
}

export type Saved =
  | Unknown
  /** It was made for another version; `ids` are those of its changes. */
  | { stale: true; base: number; ids: string[] }
  | { mark: string; saving: Saving };

/** What a request to save does to the document: checked whole, and ready to be stored. */
export function save(asked: Save): Outcome<Saved> {
  return outcome(() => {
    const request = parsed(
      asked.kind === 'changes' ? ChangesRequest : ReplaceRequest,
      parsedJson(asked.body),
    );
    const sent = 'changes' in request ? request.changes : null;
    if (request.base !== asked.version && asked.known === undefined)
      return { stale: true, base: request.base, ids: (sent ?? []).map((c) => c.id) };
    const found = got(asked);
    if (!found) return UNKNOWN;
    const changes = sent
      ? sent.slice(asked.known ?? 0)
      : [replacing(found.design, (request as z.infer<typeof ReplaceRequest>).document, asked.id)];
    const design = changes.reduce((state, change, i) => applied(state, change, i), found.design);
    const label = changes.at(-1)!.label;
    return {
      mark: keep(design),
      saving: {
        ids: changes.map((c) => c.id),
        label: changes.length > 1 ? `${label} and ${changes.length - 1} more` : label,
        changes: JSON.stringify(changes),
        title: design.title,
      },
    };
  });
}

function applied(design: Design, change: Change, i: number): Design {
  try {
    return applyChange(design, change);
  } catch (error) {
    if (!(error instanceof StepMisfit)) throw error;
    throw new ApiError(400, `This change does not fit the design: ${error.message}`, `changes.${i}`);
  }
}

/** A whole document sent by a script, as a change. */
function replacing(was: Design, sent: unknown, id: string): Change {
  const now = readDesign(sent);
  if (now.id !== id) throw new ApiError(400, 'The document has another id than the address.', 'document.id');
  return { id: randomUUID(), label: 'replaced by a script', steps: stepsBetween(was, now) };
}

/** Tells that the thread has begun. */
export const ready = (_nothing: null): Outcome<true> => ({ value: true });

export type KeeperJobs = {
  ready: typeof ready;
  make: typeof make;
  read: typeof read;
  pack: typeof pack;
  save: typeof save;
};
