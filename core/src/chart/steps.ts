import { sameStitch } from '../stitches/book.js';
import type { Chart, Design, Row } from './schema.js';

type Frame = Omit<Chart, 'rows'>;
type Head = Omit<Design, 'charts' | 'format' | 'id'>;

/**
 * The smallest edits. Each holds both what was and what is to be, so it is inverted without the document, and
 * it fits only a document that still holds what was: two people's edits never overwrite each other unseen.
 */
export type Step =
  | { kind: 'rows'; chart: number; at: number; was: readonly Row[]; now: readonly Row[] }
  | { kind: 'frame'; chart: number; was: Partial<Frame>; now: Partial<Frame> }
  | { kind: 'head'; was: Partial<Head>; now: Partial<Head> };

/** What one command of the designer's did: the unit of undo and of saving. */
export interface Change {
  label: string;
  steps: readonly Step[];
}

/** The document no longer holds what the step was made for. */
export class StepMisfit extends Error {}

const sameRow = (a: Row | undefined, b: Row): boolean =>
  a === b || (!!a && a.length === b.length && a.every((s, i) => sameStitch(s, b[i]!)));

const sameValue = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

function patched<T extends object>(target: T, was: Partial<T>, now: Partial<T>): T {
  for (const key of Object.keys(was) as (keyof T)[])
    if (!sameValue(target[key], was[key])) throw new StepMisfit(`${String(key)} has changed meanwhile.`);
  return { ...target, ...now };
}

function withChart(design: Design, index: number, update: (chart: Chart) => Chart): Design {
  const chart = design.charts[index];
  if (!chart) throw new StepMisfit('That chart is no longer in the design.');
  return { ...design, charts: design.charts.map((c, i) => (i === index ? update(chart) : c)) };
}

/** @throws StepMisfit when the document does not hold what the step says it replaces */
export function applyStep(design: Design, step: Step): Design {
  switch (step.kind) {
    case 'head':
      return patched<Design>(design, step.was, step.now);
    case 'frame':
      return withChart(design, step.chart, (c) => patched<Chart>(c, step.was, step.now));
    case 'rows':
      return withChart(design, step.chart, (c) => {
        step.was.forEach((row, i) => {
          if (!sameRow(c.rows[step.at + i], row))
            throw new StepMisfit(`Row ${step.at + i + 1} has changed meanwhile.`);
        });
        const { at, was, now } = step;
        return { ...c, rows: [...c.rows.slice(0, at), ...now, ...c.rows.slice(at + was.length)] };
      });
  }
}

export function invertStep(step: Step): Step {
  return { ...step, was: step.now, now: step.was } as Step;
}

export function applyChange(design: Design, change: Change): Design {
  return change.steps.reduce(applyStep, design);
}

export function invertChange(change: Change): Change {
  return { label: change.label, steps: [...change.steps].reverse().map(invertStep) };
}

function differing<T extends object>(was: T, now: T, skip: string): [Partial<T>, Partial<T>] | null {
  const keys = (Object.keys(now) as (keyof T & string)[]).filter(
    (k) => k !== skip && !sameValue(was[k], now[k]),
  );
  if (!keys.length) return null;
  const pick = (from: T) => Object.fromEntries(keys.map((k) => [k, from[k]])) as Partial<T>;
  return [pick(was), pick(now)];
}

/** Rows from the first that differs to the last, as one step; null when none differs. */
function rowsStep(was: readonly Row[], now: readonly Row[], chart: number): Step | null {
  const shorter = Math.min(was.length, now.length);
  let head = 0;
  while (head < shorter && sameRow(was[head], now[head]!)) head++;
  let tail = 0;
  while (tail < shorter - head && sameRow(was[was.length - 1 - tail], now[now.length - 1 - tail]!)) tail++;
  const old = was.slice(head, was.length - tail);
  const fresh = now.slice(head, now.length - tail);
  return old.length || fresh.length ? { kind: 'rows', chart, at: head, was: old, now: fresh } : null;
}

/**
 * The change that leads from one chart to another: edits are plain functions from chart to chart, and
 * their steps are read off the difference. Null when nothing changed.
 */
export function chartChange(design: Design, chart: number, now: Chart, label: string): Change | null {
  const was = design.charts[chart]!;
  const steps: Step[] = [];
  const frame = differing<Chart>(was, now, 'rows');
  if (frame) steps.push({ kind: 'frame', chart, was: frame[0], now: frame[1] });
  const rows = rowsStep(was.rows, now.rows, chart);
  if (rows) steps.push(rows);
  return steps.length ? { label, steps } : null;
}

/** A change of title, notes or settings; null when nothing changed. */
export function headChange(design: Design, patch: Partial<Head>, label: string): Change | null {
  const found = differing<Design>(design, { ...design, ...patch }, 'charts');
  return found ? { label, steps: [{ kind: 'head', was: found[0], now: found[1] }] } : null;
}
