import { z } from 'zod';
import { sameStitch, type StitchBook } from '../stitches/book.js';
import { BandsSchema } from './bands.js';
import { boundedText, isShallow, sameValue } from '../values.js';
import {
  JogsSchema,
  keptWithin,
  movedAcross,
  movedKept,
  movedUp,
  type Kept,
  type Outside,
  type Shift,
} from './repeat-lines.js';
import {
  invertListStep,
  isListName,
  isListStep,
  ItemStepSchema,
  listAfter,
  OrderStepSchema,
  type ListStep,
} from './listed.js';
import type { PiecePart, Size } from './piece-document.js';
import { cutAt, rowFacts, spanOfAll } from './rows.js';
import {
  bookOf,
  ChartSchema,
  FrameFields,
  HeadFields,
  invariants,
  LIMITS,
  RowSchema,
  type Chart,
  type Design,
  type Row,
} from './schema.js';

/**
 * The smallest edits. Each holds what was and what is to be, so it is inverted without the document, and it
 * fits only a document that still holds what was: two people's edits never overwrite each other unseen. A chart
 * is addressed by its id, cells by row and column from 0 (bottom, right), a setting by its path.
 */

/** Stitches of one row from a column leftwards, replaced by others. */
export interface CellsStep {
  kind: 'cells';
  chart: string;
  row: number;
  column: number;
  was: Row;
  now: Row;
}

/**
 * Rows put in, or taken out, from `at` upwards; `high` is the number of rows before. `outside` says how many of
 * them belong to the set-up, to the closing rows and to a part pass where they meet a line of the repeat; elsewhere
 * their place says it. `jogs` are the shifts of those of them that have one, and `bands` those that stand before one of
 * them, by their place among them.
 */
export interface RowsStep extends Kept {
  kind: 'rows';
  done: 'in' | 'out';
  chart: string;
  at: number;
  high: number;
  rows: readonly Row[];
  outside: Outside;
}

/**
 * `count` columns put in, or taken out, from `at` leftwards in every row; `wide` is the chart's width before.
 * `cells` are each row's stitches there. A row too short to reach `at` has them at its end; `short` tells that
 * there is one. `outside` is as for rows, at the right and the left line.
 */
export interface ColumnsStep {
  kind: 'columns';
  done: 'in' | 'out';
  chart: string;
  at: number;
  count: number;
  wide: number;
  cells: readonly Row[];
  short: boolean;
  outside: Outside;
}

/** One setting; absent values are settings that are not there. */
export interface SetStep {
  kind: 'set';
  path: readonly string[];
  was?: unknown;
  now?: unknown;
}

/** Whole charts put in, or taken out, from place `at` on. */
export interface ChartsStep {
  kind: 'charts';
  done: 'in' | 'out';
  at: number;
  charts: readonly Chart[];
}

export type Step = CellsStep | RowsStep | ColumnsStep | SetStep | ChartsStep | ListStep;

/** What one command of the designer's did: the unit of undo and of saving. Its id tells it from all others. */
export interface Change {
  id: string;
  label: string;
  steps: readonly Step[];
}

/** At most so many steps make one change, and so many changes one save. */
export const MOST_STEPS = 20_000;
export const MOST_CHANGES = 1_000;

const place = (most: number) => z.int().min(0).max(most);
const chartId = boundedText(1, 64);
const outside = (most: number) => z.tuple([place(most), place(most), place(most).optional()]);
const done = z.enum(['in', 'out']);
/** A setting lies at most so deep: `piece/parts/<id>/gauge/stitches/count`. */
const DEEPEST = 6;
/** A setting's value: whatever shallow JSON holds; the place it is set at says what it may be. */
const value = z.unknown().refine((v) => isShallow(v), 'No setting is nested so deeply.');

export const StepSchema: z.ZodType<Step> = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('cells'),
    chart: chartId,
    row: place(LIMITS.rows),
    column: place(LIMITS.span),
    was: RowSchema,
    now: RowSchema,
  }),
  z.strictObject({
    kind: z.literal('rows'),
    done,
    chart: chartId,
    at: place(LIMITS.rows),
    high: place(LIMITS.rows),
    rows: z.array(RowSchema).min(1).max(LIMITS.rows).readonly(),
    outside: outside(LIMITS.rows),
    jogs: JogsSchema.optional(),
    bands: BandsSchema.optional(),
  }),
  z.strictObject({
    kind: z.literal('columns'),
    done,
    chart: chartId,
    at: place(LIMITS.columns),
    count: z.int().min(1).max(LIMITS.columns),
    wide: place(LIMITS.columns),
    cells: z.array(RowSchema).min(1).max(LIMITS.rows).readonly(),
    short: z.boolean(),
    outside: outside(LIMITS.columns),
  }),
  z.strictObject({
    kind: z.literal('set'),
    path: z.array(boundedText(1, 200)).min(1).max(DEEPEST).readonly(),
    was: value.optional(),
    now: value.optional(),
  }),
  z.strictObject({
    kind: z.literal('charts'),
    done,
    at: place(LIMITS.charts),
    charts: z.array(ChartSchema).min(1).max(LIMITS.charts).readonly(),
  }),
  ItemStepSchema,
  OrderStepSchema,
]);

export const ChangeSchema: z.ZodType<Change> = z.strictObject({
  id: z.uuid(),
  label: boundedText(0, 200),
  steps: z.array(StepSchema).min(1).max(MOST_STEPS).readonly(),
});

/** The document does not hold what the step was made for, or would no longer be a design. */
export class StepMisfit extends Error {}

export const sameStitches = (a: Row, b: Row): boolean =>
  a === b || (a.length === b.length && a.every((s, i) => sameStitch(s, b[i]!)));

/** The stitches `was` at a column of a row, replaced by `now`; null where the row does not hold them there. */
export function spliced(row: Row, column: number, was: Row, now: Row, book: StitchBook): Row | null {
  const i = cutAt(row, column, book);
  if (i < 0 || !was.every((s, k) => row[i + k] !== undefined && sameStitch(s, row[i + k]!))) return null;
  return [...row.slice(0, i), ...now, ...row.slice(i + was.length)];
}

/** Where in a row a step's columns stand: at their place, or at the end of a row too short for it. */
function columnsPlace(row: Row, { at }: ColumnsStep, standing: number, book: StitchBook): number {
  return Math.min(at, rowFacts(row, book).span - standing);
}

function withChart(design: Design, id: string, update: (chart: Chart) => Chart): Design {
  const index = design.charts.findIndex((c) => c.id === id);
  if (index < 0) throw new StepMisfit('That chart is no longer in the design.');
  const charts = [...design.charts];
  charts[index] = update(charts[index]!);
  return { ...design, charts };
}

function applyCells(chart: Chart, { row: r, column, was, now }: CellsStep): Chart {
  const row = chart.rows[r];
  const made = row && spliced(row, column, was, now, bookOf(chart));
  if (!made) throw new StepMisfit(`Row ${r + 1} has changed meanwhile.`);
  const rows = [...chart.rows];
  rows[r] = made;
  return { ...chart, rows };
}

/** What is kept of the rows of a step. */
export const keptOf = ({ rows, ...step }: RowsStep): Kept => keptWithin(step, 0, rows.length);

/** A step as the lines of the repeats see it. */
export function shiftOf(step: RowsStep | ColumnsStep): Shift {
  const { done, at, outside } = step;
  return step.kind === 'rows'
    ? { of: 'rows', done, at, count: step.rows.length, among: step.high, outside, kept: keptOf(step) }
    : { of: 'columns', done, at, count: step.count, among: step.wide, outside };
}

function applyRows(chart: Chart, step: RowsStep): Chart {
  const { at, rows, done: way, high } = step;
  if (chart.rows.length !== high || at + (way === 'out' ? rows.length : 0) > high)
    throw new StepMisfit('The chart has another number of rows than the change was made for.');
  const shift = shiftOf(step);
  const up = movedUp(chart.up, shift);
  const kept = movedKept(chart, shift);
  if (way === 'in')
    return { ...chart, up, ...kept, rows: [...chart.rows.slice(0, at), ...rows, ...chart.rows.slice(at)] };
  rows.forEach((row, i) => {
    if (!sameStitches(chart.rows[at + i]!, row))
      throw new StepMisfit(`Row ${at + i + 1} has changed meanwhile.`);
  });
  if (!sameValue(keptWithin(chart, at, at + rows.length), keptOf(step)))
    throw new StepMisfit('Where these rows begin, or a band before one of them, has changed meanwhile.');
  return { ...chart, up, ...kept, rows: [...chart.rows.slice(0, at), ...chart.rows.slice(at + rows.length)] };
}

function applyColumns(chart: Chart, step: ColumnsStep): Chart {
  const book = bookOf(chart);
  const { count, wide, cells, done: way } = step;
  if (chart.width !== wide || chart.rows.length !== cells.length)
    throw new StepMisfit('The chart has another size than the change was made for.');
  const rows = chart.rows.map((row, r) => {
    const own = cells[r]!;
    const [was, now] = way === 'in' ? [[], own] : [own, []];
    const made = spliced(row, columnsPlace(row, step, spanOfAll(was, book), book), was, now, book);
    if (!made) throw new StepMisfit(`Row ${r + 1} has changed meanwhile.`);
    return made;
  });
  return {
    ...chart,
    rows,
    width: wide + (way === 'in' ? count : -count),
    across: movedAcross(chart.across, shiftOf(step)),
  };
}

function applyCharts(design: Design, { at, charts, done: way }: ChartsStep): Design {
  const now = [...design.charts];
  if (at > now.length) throw new StepMisfit('The design has fewer charts than the change was made for.');
  if (way === 'in') now.splice(at, 0, ...charts);
  else {
    const was = now.splice(at, charts.length);
    if (!sameValue(was, charts)) throw new StepMisfit('A chart has changed meanwhile.');
  }
  return { ...design, charts: now };
}

type Bag = Readonly<Record<string, unknown>>;

const isBag = (v: unknown): v is Bag => typeof v === 'object' && v !== null && !Array.isArray(v);

/** The value at a path replaced; what lies beside it is shared. @throws StepMisfit when it is not what was to be there */
export function replaced(target: Bag, path: readonly string[], was: unknown, now: unknown): Bag {
  const [key, ...rest] = path as [string, ...string[]];
  const held = Object.hasOwn(target, key) ? target[key] : undefined;
  if (rest.length) {
    if (key === 'own' && Array.isArray(held)) return { ...target, own: replacedOwn(held, rest, was, now) };
    if (isListName(key) && Array.isArray(held))
      return { ...target, [key]: replacedListed(held as Bag[], rest, was, now) };
    if (!isBag(held)) throw new StepMisfit(`"${key}" is no longer what the change was made for.`);
    return { ...target, [key]: replaced(held, rest, was, now) };
  }
  if (!sameValue(held, was)) throw new StepMisfit(`"${key}" has changed meanwhile.`);
  const { [key]: _, ...others } = target;
  return now === undefined ? others : { ...target, [key]: now };
}

/** Something set of a thing that is told by its id. */
function replacedListed(held: readonly Bag[], path: readonly string[], was: unknown, now: unknown): Bag[] {
  const [id, ...rest] = path;
  const at = held.findIndex((one) => one.id === id);
  if (at < 0 || !rest.length) throw new StepMisfit('What this was set of is no longer in the piece.');
  return held.with(at, replaced(held[at]!, rest, was, now));
}

function applyList(design: Design, step: ListStep): Design {
  const { piece } = design;
  const list = piece && listAfter<PiecePart | Size>(piece[step.of], step);
  if (!list) throw new StepMisfit(`The ${step.of} of the piece have changed meanwhile.`);
  return { ...design, piece: { ...piece, [step.of]: list } };
}

/** The designer's own stitches are addressed by id and kept in the order of their ids. */
function replacedOwn(
  held: readonly unknown[],
  path: readonly string[],
  was: unknown,
  now: unknown,
): unknown[] {
  const idOf = (own: unknown) => (isBag(own) ? String(own.id) : '');
  const [id] = path;
  if (path.length !== 1) throw new StepMisfit('A stitch of your own is set as a whole.');
  const i = held.findIndex((own) => idOf(own) === id);
  if (!sameValue(i < 0 ? undefined : held[i], was))
    throw new StepMisfit('A stitch of your own has changed meanwhile.');
  if (i >= 0) return now === undefined ? held.toSpliced(i, 1) : held.with(i, now);
  const next = held.findIndex((own) => idOf(own) > id!);
  return held.toSpliced(next < 0 ? held.length : next, 0, now);
}

function applySet(design: Design, { path, was, now }: SetStep): Design {
  const [head, id, ...rest] = path as [string, ...string[]];
  if (head !== 'charts') {
    if (!Object.hasOwn(HeadFields, head)) throw new StepMisfit(`A design has no "${head}" to set.`);
    return replaced(design, path, was, now) as unknown as Design;
  }
  if (!id || !rest[0] || !Object.hasOwn(FrameFields, rest[0]))
    throw new StepMisfit(`A chart has no "${rest[0] ?? ''}" to set.`);
  return withChart(design, id, (chart) => replaced(chart, rest, was, now) as unknown as Chart);
}

/** A chart after steps that were made for it, whatever design stands around it. @throws StepMisfit */
export function applyToChart(chart: Chart, steps: readonly Step[]): Chart {
  const around = { charts: [chart] } as unknown as Design;
  return steps.reduce(applyStep, around).charts[0]!;
}

/** @throws StepMisfit when the document does not hold what the step says it replaces */
export function applyStep(design: Design, step: Step): Design {
  switch (step.kind) {
    case 'cells':
      return withChart(design, step.chart, (c) => applyCells(c, step));
    case 'rows':
      return withChart(design, step.chart, (c) => applyRows(c, step));
    case 'columns':
      return withChart(design, step.chart, (c) => applyColumns(c, step));
    case 'set':
      return applySet(design, step);
    case 'charts':
      return applyCharts(design, step);
    case 'item':
    case 'order':
      return applyList(design, step);
  }
}

/** What a step touches: the id of a chart, or null for the design's own settings. */
export const chartOf = (step: Step): string | null => {
  if (step.kind === 'set') return step.path[0] === 'charts' ? step.path[1]! : null;
  return step.kind === 'charts' || isListStep(step) ? null : step.chart;
};

function mustHold(fields: Record<string, z.ZodType>, of: Bag, key: string): void {
  const parsed = fields[key]!.safeParse(of[key]);
  if (!parsed.success) throw new StepMisfit(parsed.error.issues[0]!.message);
  if (!sameValue(parsed.data, of[key])) throw new StepMisfit(`"${key}" is not written as a design keeps it.`);
}

/** What steps set must be what a design may hold. @throws StepMisfit with one sentence */
function checkTouched(design: Design, steps: readonly Step[]): void {
  const touched = new Set<string>();
  for (const step of steps) {
    const id = chartOf(step);
    if (id !== null) touched.add(id);
    if (step.kind === 'charts') for (const c of step.charts) touched.add(c.id);
    if (isListStep(step)) mustHold(HeadFields, design, 'piece');
    if (step.kind !== 'set') continue;
    const [head, , field] = step.path;
    const chart = id !== null && design.charts.find((c) => c.id === id);
    if (chart) mustHold(FrameFields, chart, field!);
    else if (id === null) mustHold(HeadFields, design, head!);
  }
  for (const chart of design.charts)
    if (touched.has(chart.id)) {
      const [fault] = invariants(chart);
      if (fault) throw new StepMisfit(fault.message);
    }
  if (design.charts.length < 1 || design.charts.length > LIMITS.charts)
    throw new StepMisfit(`A design holds 1 to ${LIMITS.charts} charts.`);
  if (new Set(design.charts.map((c) => c.id)).size < design.charts.length)
    throw new StepMisfit('Two charts of the design have the same id.');
}

/** The design after steps. @throws StepMisfit when one does not fit, or the outcome is no design */
export function applySteps(design: Design, steps: readonly Step[]): Design {
  const made = steps.reduce(applyStep, design);
  checkTouched(made, steps);
  return made;
}

/** All steps of changes made one after the other. */
export const stepsOf = (changes: readonly Pick<Change, 'steps'>[]): Step[] =>
  changes.flatMap((c) => [...c.steps]);

export const applyChange = (design: Design, change: Pick<Change, 'steps'>): Design =>
  applySteps(design, change.steps);

/** A step that sets; what is not there is left out. */
export function setStep(path: readonly string[], was: unknown, now: unknown): SetStep {
  const step: SetStep = { kind: 'set', path };
  if (was !== undefined) step.was = was;
  if (now !== undefined) step.now = now;
  return step;
}

const otherWay = { in: 'out', out: 'in' } as const;

export function invertStep(step: Step): Step {
  switch (step.kind) {
    case 'cells':
      return { ...step, was: step.now, now: step.was };
    case 'set':
      return setStep(step.path, step.now, step.was);
    case 'charts':
      return { ...step, done: otherWay[step.done] };
    case 'item':
    case 'order':
      return invertListStep(step);
    case 'rows':
      return {
        ...step,
        done: otherWay[step.done],
        high: step.high + (step.done === 'in' ? 1 : -1) * step.rows.length,
      };
    case 'columns':
      return {
        ...step,
        done: otherWay[step.done],
        wide: step.wide + (step.done === 'in' ? 1 : -1) * step.count,
      };
  }
}

export const invertSteps = (steps: readonly Step[]): Step[] => [...steps].reverse().map(invertStep);

/** One step that does what two in a row do, where there is one; null where there is none. */
function mergedStep(a: Step, b: Step): Step | null {
  if (a.kind === 'set' && b.kind === 'set' && sameValue(a.path, b.path)) return { ...a, now: b.now };
  if (a.kind !== 'cells' || b.kind !== 'cells' || a.chart !== b.chart || a.row !== b.row) return null;
  return a.column === b.column && sameStitches(a.now, b.was) ? { ...a, now: b.now } : null;
}

/** Steps that do the same with fewer: what was set twice in a row is set once. */
export function mergeSteps(steps: readonly Step[]): Step[] {
  const out: Step[] = [];
  for (const step of steps) {
    const last = out.at(-1);
    const merged = last && mergedStep(last, step);
    if (merged) out[out.length - 1] = merged;
    else out.push(step);
  }
  return out;
}
