import { randomUUID } from 'node:crypto';
import { isMainThread } from 'node:worker_threads';
import {
  applyStep,
  ChangesRequest,
  DocumentError,
  KINDS,
  MakeRequest,
  ReplaceRequest,
  StepMisfit,
  stepsOf,
  type Change,
  type Design,
  type DocumentOf,
  type Kind,
  type KindName,
} from '@cordelina/core';
import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import type { Saving, Snapshot, Source } from '../store/documents.js';
import { pack as packed, Spoiled, unpack } from '../store/packing.js';
import { ApiError, DamagedDocument, outcome, parsed, parsedJson, type Outcome } from './faults.js';

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

/** A document of any kind. */
type Document = DocumentOf[KindName];

/** A document without charts counts as so many stitches. */
const FIELDS_WEIGH = 500;

const chartsIn = (document: Document): Design['charts'] =>
  'charts' in document ? document.charts : 'document' in document ? document.document.charts : [];

const weightOf = (document: Document): number =>
  FIELDS_WEIGH +
  chartsIn(document).reduce((sum, { rows }) => sum + rows.reduce((n, row) => n + row.length, 0), 0);

const documents = new LRUCache<string, Document>({
  max: MOST_KEPT,
  maxSize: MOST_STITCHES,
  maxEntrySize: MOST_OF_ONE,
  sizeCalculation: weightOf,
});

// Marks of this thread, of this start: another's are unknown here.
const here = randomUUID();
let given = 0;

function keep(document: Document): string {
  const mark = `${here} ${++given}`;
  documents.set(mark, document);
  return mark;
}

/** Which document, of which kind: one that is kept here, or what to make it from. */
export interface Wanted {
  of: KindName;
  mark?: string;
  source?: Source;
}

/** Whatever the kind, a document goes with it: the pairing is the caller's. */
const kindOf = (of: KindName) => KINDS[of] as unknown as Kind<Document>;

/** The document from a snapshot and the changes since. They were checked when they were saved. */
function made(of: KindName, { snapshot, changes }: Source): Document {
  try {
    const json = unpack(snapshot);
    const kind = kindOf(of);
    const document = kind.read(JSON.parse(json));
    const steps = stepsOf(changes.flatMap((list) => JSON.parse(list) as Change[]));
    if (!steps.length) return document;
    // A design is large: it is not looked over once more for every step.
    return of === 'design' ? steps.reduce(applyStep, document as Design) : kind.apply(document, steps);
  } catch (error) {
    if ([DocumentError, StepMisfit, SyntaxError, Spoiled].some((known) => error instanceof known))
      throw new DamagedDocument(of, (error as Error).message);
    throw error;
  }
}

/** The wanted document and its mark; null when it is not kept and nothing came to make it from. */
function got({ of, mark, source }: Wanted): { document: Document; mark: string } | null {
  const kept = mark === undefined ? undefined : documents.get(mark);
  if (kept) return { document: kept, mark: mark! };
  if (!source) return null;
  const document = made(of, source);
  return { document, mark: keep(document) };
}

/** The document asked for is not kept here: ask again with its source. */
export type Unknown = { unknown: true };
const UNKNOWN: Unknown = { unknown: true };

/** What a list shows of a document where it shows all of it, as JSON; null where it shows what is worked out of it. */
const listed = (of: KindName, document: Document): string | null =>
  kindOf(of).isListedWhole ? JSON.stringify(document) : null;

export interface Made {
  /** The document's own id; null for a kind that has none. */
  id: string | null;
  title: string;
  mark: string;
  snapshot: Snapshot;
  summary: string | null;
}

const asMade = (of: KindName, document: Document): Made => ({
  id: 'id' in document ? document.id : null,
  title: kindOf(of).titleOf(document),
  mark: keep(document),
  snapshot: packed(document),
  summary: listed(of, document),
});

/** A new document out of a request. */
export function make({ of, body }: { of: KindName; body: Uint8Array }): Outcome<Made> {
  return outcome(() => asMade(of, kindOf(of).read(parsed(MakeRequest, parsedJson(body)).document)));
}

export function read(wanted: Wanted): Outcome<Unknown | { mark: string; json: string }> {
  return outcome(() => {
    const found = got(wanted);
    return found ? { mark: found.mark, json: JSON.stringify(found.document) } : UNKNOWN;
  });
}

export function pack(wanted: Wanted): Outcome<Unknown | { mark: string; snapshot: Snapshot }> {
  return outcome(() => {
    const found = got(wanted);
    return found ? { mark: found.mark, snapshot: packed(found.document) } : UNKNOWN;
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
  /** What was sent is what is there: there is nothing to save. */
  | { same: true }
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
    const kind = kindOf(asked.of);
    const changes = sent
      ? sent.slice(asked.known ?? 0)
      : [replacing(kind, found.document, (request as z.infer<typeof ReplaceRequest>).document, asked.id)];
    if (!sent && !changes[0]!.steps.length) return { same: true };
    const document = changes.reduce((state, change, i) => applied(kind, state, change, i), found.document);
    const label = changes.at(-1)!.label;
    return {
      mark: keep(document),
      saving: {
        ids: changes.map((c) => c.id),
        label: changes.length > 1 ? `${label} and ${changes.length - 1} more` : label,
        changes: JSON.stringify(changes),
        title: kind.titleOf(document),
        summary: listed(asked.of, document),
      },
    };
  });
}

function applied(kind: Kind<Document>, document: Document, { steps }: Change, i: number): Document {
  try {
    return kind.apply(document, steps);
  } catch (error) {
    if (!(error instanceof StepMisfit)) throw error;
    throw new ApiError(400, `This change does not fit the ${kind.name}: ${error.message}`, `changes.${i}`);
  }
}

/** A whole document sent by a script, as a change. */
function replacing(kind: Kind<Document>, was: Document, sent: unknown, id: string): Change {
  const now = kind.read(sent);
  if ('id' in now && now.id !== id)
    throw new ApiError(400, 'The document has another id than the address.', 'document.id');
  return { id: randomUUID(), label: 'replaced by a script', steps: kind.between(was, now) };
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
