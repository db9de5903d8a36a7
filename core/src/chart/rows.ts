import {
  isCrossing,
  makesOf,
  spanOf,
  takesOf,
  type Stitch,
  type StitchBook,
  type StitchFacts,
} from '../stitches/book.js';
import type { Crossing } from '../stitches/crossing.js';
import { remembered } from '../remember.js';
import type { Row } from './schema.js';

/** A run of one stitch in a row. */
export interface Run {
  readonly stitch: Stitch;
  readonly facts: StitchFacts;
  readonly times: number;
}

/** Stitches as runs, from the right: rows are mostly that, and each is looked up once. */
export function runsOf(stitches: readonly Stitch[], book: StitchBook): readonly Run[] {
  const runs: Run[] = [];
  for (let i = 0; i < stitches.length;) {
    const stitch = stitches[i]!;
    let times = 1;
    while (stitches[i + times] === stitch) times++;
    runs.push({ stitch, facts: book.facts(stitch), times });
    i += times;
  }
  return runs;
}

/** A crossing of a row: its first column (from 0, right) and the place of its first loop after the row. */
export interface PlacedCrossing {
  crossing: Crossing;
  column: number;
  loop: number;
}

/**
 * What a row takes and makes (loops), how wide it is, where each stitch starts (columns from 0, right), and the place of the first
 * loop each meets on the needle below.
 */
export interface RowFacts {
  takes: number;
  makes: number;
  span: number;
  starts: readonly number[];
  meets: readonly number[];
  runs: readonly Run[];
  crossings: readonly PlacedCrossing[];
}

const NO_CROSSINGS: readonly PlacedCrossing[] = [];

/** Facts of a row. */
export const rowFacts = remembered((row: Row, book: StitchBook): RowFacts => {
  let takes = 0;
  let makes = 0;
  let span = 0;
  const starts = new Array<number>(row.length);
  const meets = new Array<number>(row.length);
  let crossings: PlacedCrossing[] | null = null;
  const runs = runsOf(row, book);
  let at = 0;
  for (const { stitch, facts, times } of runs) {
    for (let i = 0; i < times; i++) {
      if (isCrossing(stitch)) (crossings ??= []).push({ crossing: stitch, column: span, loop: makes });
      meets[at] = takes;
      starts[at++] = span;
      span += facts.span;
      makes += facts.makes;
      takes += facts.takes;
    }
  }
  return { takes, makes, span, starts, meets, runs, crossings: crossings ?? NO_CROSSINGS };
});

/** The crossings of a row from the right. */
export const rowCrossings = (row: Row, book: StitchBook): readonly PlacedCrossing[] =>
  rowFacts(row, book).crossings;

/** How often each stitch stands in a row. */
export const rowUse = remembered((row: Row): ReadonlyMap<Stitch, number> => {
  const counts = new Map<Stitch, number>();
  for (let i = 0; i < row.length;) {
    const stitch = row[i]!;
    let run = 1;
    while (row[i + run] === stitch) run++;
    counts.set(stitch, (counts.get(stitch) ?? 0) + run);
    i += run;
  }
  return counts;
});

/** The columns of the loops a row leaves, from the right. */
export const loopColumns = remembered((row: Row, book: StitchBook): readonly number[] => {
  const { starts } = rowFacts(row, book);
  const columns: number[] = [];
  for (let i = 0; i < row.length; i++) {
    const makes = makesOf(row[i]!, book);
    for (let k = 0; k < makes; k++) columns.push(starts[i]! + k);
  }
  return columns;
});

export function takesOfAll(stitches: readonly Stitch[], book: StitchBook): number {
  return stitches.reduce((sum, s) => sum + takesOf(s, book), 0);
}

export function spanOfAll(stitches: readonly Stitch[], book: StitchBook): number {
  return stitches.reduce((sum, s) => sum + spanOf(s, book), 0);
}

/** The index of the stitch that covers a column (from 0, right), or -1 beyond the row. */
export function indexAt(row: Row, column: number, book: StitchBook): number {
  const { starts, span } = rowFacts(row, book);
  if (column < 0 || column >= span) return -1;
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if (starts[mid]! <= column) low = mid;
    else high = mid - 1;
  }
  return low;
}

/** Where a row can be cut at a column: the index of the stitch that starts there, -1 where one lies across. */
export function cutAt(row: Row, column: number, book: StitchBook): number {
  const { starts, span } = rowFacts(row, book);
  if (column === span) return row.length;
  const i = indexAt(row, column, book);
  return i >= 0 && starts[i] === column ? i : -1;
}
