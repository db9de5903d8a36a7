import type { Across, Chart, Up } from './schema.js';

/** The rows of the repeat up, from the first to the last (from 0); null where nothing repeats. */
export function repeatRows({ rows, up }: Pick<Chart, 'rows' | 'up'>): { first: number; last: number } | null {
  return up && { first: up.setup, last: rows.length - up.closing - 1 };
}

/** The rows in the order they are worked, passes of the repeat and all. */
export function* workedRows({
  rows,
  up,
}: Pick<Chart, 'rows' | 'up'>): Generator<{ row: number; pass: number }> {
  const repeat = repeatRows({ rows, up });
  for (let row = 0; row < rows.length; row++) {
    if (row !== repeat?.first) yield { row, pass: 1 };
    else {
      for (let pass = 1; pass <= up!.times; pass++)
        for (let r = repeat.first; r <= repeat.last; r++) yield { row: r, pass };
      row = repeat.last;
    }
  }
}

/**
 * How the lines of the repeats move when rows or columns are put in or taken out. A line keeps its place among
 * the stitches; what is put in right on it lies inside the repeat or outside, as the step says.
 */

/** How many of the places from `at` on, `count` long, fall in [from, to). */
export function overlap(at: number, count: number, from: number, to: number): number {
  return Math.max(0, Math.min(at + count, to) - Math.max(at, from));
}

/** Rows or columns put in or taken out, as the lines of a repeat see it. */
export interface Shift {
  of: 'rows' | 'columns';
  done: 'in' | 'out';
  at: number;
  count: number;
  /** Places there were before. */
  among: number;
  outside: readonly [near: number, far: number];
}

/** The places before the first line. */
function movedNear(near: number, { done, at, count, outside }: Shift): number {
  if (done === 'out') return near - overlap(at, count, 0, near);
  return at < near ? near + count : at === near ? near + outside[0] : near;
}

/** The places after the second line, counted from the far end. */
function movedFar(far: number, { done, at, count, among, outside }: Shift): number {
  const line = among - far;
  if (done === 'out') return far - overlap(at, count, line, among);
  return at > line ? far + count : at === line ? far + outside[1] : far;
}

export function movedUp(up: Up | null, shift: Shift): Up | null {
  return up && { ...up, setup: movedNear(up.setup, shift), closing: movedFar(up.closing, shift) };
}

export function movedAcross(across: Across | null, shift: Shift): Across | null {
  return (
    across && { ...across, before: movedNear(across.before, shift), after: movedFar(across.after, shift) }
  );
}

/** A setting of a chart's frame as it is after rows or columns were put in or taken out elsewhere. */
export function movedSetting(path: readonly string[], value: unknown, shift: Shift): unknown {
  const key = shift.of === 'rows' ? 'up' : 'across';
  if (path[2] !== key || value === null || value === undefined) return value;
  const [near, far] = shift.of === 'rows' ? ['setup', 'closing'] : ['before', 'after'];
  if (typeof value === 'number')
    return path[3] === near ? movedNear(value, shift) : path[3] === far ? movedFar(value, shift) : value;
  if (path.length > 3 || typeof value !== 'object') return value;
  return shift.of === 'rows' ? movedUp(value as Up, shift) : movedAcross(value as Across, shift);
}

/**
 * How many of the rows or columns taken out lie before the near and after the far line: what is put back right
 * on a line then finds its side again.
 */
export function outsideOf(
  at: number,
  count: number,
  near: number,
  far: number,
  of: number,
): [number, number] {
  return [overlap(at, count, 0, near), overlap(at, count, of - far, of)];
}
