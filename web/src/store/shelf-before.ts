import {
  applySteps,
  ChangeSchema,
  invertSteps,
  readDesign,
  sameValue,
  stepsBetween,
  stepsOf,
  type Design,
} from '@cordelina/core';
import { deleteDB, openDB } from 'idb';
import { z } from 'zod';
import { newId } from './newId.js';
import type { Kept } from './keeping.js';

/**
 * The shelf of the program before: one record a design, the document and the changes not yet saved, in steps of
 * an older form. Its work is taken over as one change.
 */

type Bag = Record<string, unknown>;
type OldStep =
  | { kind: 'rows'; chart: number; at: number; was: unknown[]; now: unknown[] }
  | { kind: 'frame'; chart: number; was: Bag; now: Bag }
  | { kind: 'head'; was: Bag; now: Bag };

interface OldRecord {
  document: Bag & { charts: (Bag & { rows: unknown[] })[] };
  base: number;
  unsaved: { steps: OldStep[] }[];
}

function undone(document: OldRecord['document'], step: OldStep): OldRecord['document'] {
  if (step.kind === 'head') return { ...document, ...step.was };
  const charts = document.charts.map((chart, i) => {
    if (i !== step.chart) return chart;
    if (step.kind === 'frame') return { ...chart, ...step.was };
    const { at, was, now } = step;
    if (!sameValue(chart.rows.slice(at, at + now.length), now)) throw new Error('the rows do not fit');
    return { ...chart, rows: [...chart.rows.slice(0, at), ...was, ...chart.rows.slice(at + now.length)] };
  });
  return { ...document, charts };
}

const NAME = 'cordelina';

/** Takes what the older shelf has of a design, and hands it over before it is let go there. */
export async function takeOver(id: string, into: (kept: Kept) => Promise<boolean>): Promise<void> {
  const names = (await indexedDB.databases?.())?.map((d) => d.name);
  if (names && !names.includes(NAME)) return;
  const db = await openDB(NAME, 1, { upgrade: (fresh) => void fresh.createObjectStore('designs') });
  try {
    const record = (await db.get('designs', id)) as OldRecord | undefined;
    if (!record?.unsaved.length) return;
    if (await into(converted(record))) await db.delete('designs', id);
  } finally {
    db.close();
  }
}

const NewerForm = z.array(ChangeSchema).min(1);

function converted({ document, base, unsaved }: OldRecord): Kept {
  const now: Design = readDesign(document);
  const rest = { tab: 'before', base, done: [], undone: [], choices: [] };
  // Its last version had steps of today's form already.
  const changes = NewerForm.safeParse(unsaved);
  if (changes.success) {
    const saved = applySteps(now, invertSteps(stepsOf(changes.data)));
    return { ...rest, saved, unsaved: changes.data };
  }
  const steps = unsaved.flatMap((c) => c.steps);
  const saved = readDesign([...steps].reverse().reduce(undone, document));
  const change = { id: newId(), label: 'edits kept in this browser', steps: stepsBetween(saved, now) };
  return { ...rest, saved, unsaved: [change] };
}

/** Ids of designs with work on the older shelf; the shelf goes when there is none. */
export async function leftBefore(): Promise<string[]> {
  const names = (await indexedDB.databases?.())?.map((d) => d.name);
  if (!names?.includes(NAME)) return [];
  const db = await openDB(NAME, 1, { upgrade: (fresh) => void fresh.createObjectStore('designs') });
  const all = (await db.getAll('designs')) as Partial<OldRecord>[];
  db.close();
  const left = all.flatMap((r) => (r.unsaved?.length ? [String(r.document?.id)] : []));
  if (!left.length) await deleteDB(NAME);
  return left;
}
