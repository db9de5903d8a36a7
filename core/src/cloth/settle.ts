import { rowFacts } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { sameStitch } from '../stitches/book.js';
import { energyOf } from './energy.js';
import type { Fabric } from './fabric.js';
import { smoother } from './levels.js';
import { minimise, type Step } from './solver.js';
import { ORDINARY, springsOf, unrelaxed, type Positions, type Proportions, type Springs } from './springs.js';

/** A fabric and where its loops lie. */
export interface KnittedCloth {
  readonly fabric: Fabric;
  readonly lie: Positions;
}

/** KnittedCloth is at rest when no loop is pulled harder than this. */
export const AT_REST = 5e-3;
/** No cloth takes so many steps; what does is left as it lies then. */
export const MOST_SETTLING = 600;

/**
 * Lets a cloth come to rest: its lie is changed in place, step by step, each lower in energy than the one before. The
 * same cloth comes to the same rest each time.
 */
export function* settle(
  { fabric, lie }: KnittedCloth,
  proportions: Proportions = ORDINARY,
  springs: Springs = springsOf(fabric, proportions),
): Generator<Step, Step> {
  const { size, row, column, chart, isRound } = fabric;
  const smooth = smoother({ size, row, column, width: chart.width, isRound });
  return yield* minimise((x, g) => energyOf(springs, x, g), lie, smooth, {
    still: AT_REST,
    most: MOST_SETTLING,
  });
}

/** A cloth at rest, all at once. */
export function settled(fabric: Fabric, proportions: Proportions = ORDINARY): KnittedCloth {
  const cloth = { fabric, lie: unrelaxed(fabric, proportions) };
  for (const _ of settle(cloth, proportions));
  return cloth;
}

/** How far from what has changed loops still give way: rows and columns. */
const REACH = { rows: 12, columns: 10 } as const;
/** Where more of the cloth than this is near a change, all of it is settled again. */
const MOST_NEAR = 0.4;

/** A cloth on its way to rest, to be asked for the next step. */
export type Settling = Generator<Step, Step>;

/** A cloth after an edit: its loops where they lay, and which of them may move (null where all have to). */
export interface Carried {
  lie: Positions;
  near: Uint8Array | null;
}

/** Cells of a chart in which it differs from another of the same size, by row: column after column. */
function changedCells(before: Chart, after: Chart): { row: number; from: number; to: number }[] {
  const book = bookOf(after);
  return after.rows.flatMap((row, r) => {
    const was = before.rows[r]!;
    if (row === was) return [];
    const { starts, span } = rowFacts(row, book);
    let first = 0;
    while (first < row.length && first < was.length && sameStitch(row[first]!, was[first]!)) first++;
    let last = 0;
    while (
      last < row.length - first &&
      last < was.length - first &&
      sameStitch(row[row.length - 1 - last]!, was[was.length - 1 - last]!)
    )
      last++;
    if (first === row.length && row.length === was.length) return [];
    return [{ row: r, from: starts[first] ?? span, to: starts[row.length - last] ?? span }];
  });
}

/** The loops of one fabric laid where those of another, made in the same cells, came to lie. */
export function carriedOver(
  { fabric: was, lie: lay }: KnittedCloth,
  fabric: Fabric,
  proportions = ORDINARY,
): Carried {
  const lie = unrelaxed(fabric, proportions);
  const { chart, size } = fabric;
  const { width, rows } = chart;
  const at = new Map<number, number>();
  const key = (row: number, column: number) => (row + 1) * (2 * width + 2) + column + width;
  for (let i = 0; i < was.size; i++) at.set(key(was.row[i]!, was.column[i]!), i);
  for (let i = 0; i < size; i++) {
    const before = at.get(key(fabric.row[i]!, fabric.column[i]!));
    if (before === undefined) continue;
    for (let k = 0; k < 3; k++) lie[3 * i + k] = lay[3 * before + k]!;
  }
  if (fabric.isRound && was.isRound) lie[3 * size] = lay[3 * was.size]!;
  const isAlike =
    was.chart.width === width && was.chart.rows.length === rows.length && was.isRound === fabric.isRound;
  if (!isAlike) return { lie, near: null };
  const changed = new Uint8Array(rows.length + 1).fill(0);
  const cells = changedCells(was.chart, chart);
  const near = new Uint8Array(size);
  for (const { row } of cells)
    for (let r = Math.max(-1, row - REACH.rows); r <= row + REACH.rows; r++) changed[r + 1] = 1;
  let count = 0;
  for (let i = 0; i < size; i++) {
    const [r, c] = [fabric.row[i]!, fabric.column[i]!];
    if (!changed[r + 1]) continue;
    const isNear = cells.some(
      ({ row, from, to }) =>
        Math.abs(row - r) <= REACH.rows && c >= from - REACH.columns && c < to + REACH.columns,
    );
    if (isNear) {
      near[i] = 1;
      count++;
    }
  }
  return { lie, near: count > MOST_NEAR * size ? null : near };
}

/** Lets only some of the loops come to rest among the others, which stay where they are. */
export function* settleNear(
  { fabric, lie }: KnittedCloth,
  near: Uint8Array,
  proportions: Proportions = ORDINARY,
  springs: Springs = springsOf(fabric, proportions),
): Generator<Step, Step> {
  const part = partOf(fabric, springs, near);
  const { loops, moving } = part;
  const own = new Float64Array(3 * loops.length + (fabric.isRound ? 1 : 0));
  loops.forEach((i, k) => own.set(lie.subarray(3 * i, 3 * i + 3), 3 * k));
  if (fabric.isRound) own[3 * loops.length] = lie[3 * fabric.size]!;
  const hold = (g: Float64Array) => {
    for (let k = 0; k < loops.length; k++) if (!moving[k]) g.fill(0, 3 * k, 3 * k + 3);
    if (fabric.isRound) g[3 * loops.length] = 0;
  };
  const smoothAll = smoother({
    size: loops.length,
    row: Int32Array.from(loops, (i) => fabric.row[i]!),
    column: Int32Array.from(loops, (i) => fabric.column[i]!),
    width: fabric.chart.width,
    isRound: fabric.isRound,
  });
  const steps = minimise(
    (x, g) => {
      const e = energyOf(part.springs, x, g);
      hold(g);
      return e;
    },
    own,
    (d) => {
      smoothAll(d);
      hold(d);
    },
    { still: AT_REST, most: MOST_SETTLING },
  );
  for (;;) {
    const { value, done } = steps.next();
    loops.forEach((i, k) => {
      if (moving[k]) lie.set(own.subarray(3 * k, 3 * k + 3), 3 * i);
    });
    if (done) return value;
    yield value;
  }
}

/** The springs that hold some loops, counted anew: those loops, and the ones at their other ends. */
function partOf(
  fabric: Fabric,
  springs: Springs,
  near: Uint8Array,
): { springs: Springs; loops: number[]; moving: Uint8Array } {
  const loops: number[] = [];
  const place = new Int32Array(fabric.size).fill(-1);
  for (let i = 0; i < fabric.size; i++) if (near[i]) place[i] = loops.push(i) - 1;
  const moving = new Uint8Array(fabric.size);
  moving.fill(1, 0, loops.length);
  const here = (i: number): number => (place[i]! >= 0 ? place[i]! : (place[i] = loops.push(i) - 1));
  /** A list with only the springs that some of those loops are on, its ends counted anew. */
  const some = <L extends object>(list: L, ends: readonly (keyof L)[], each: 1 | 3): L => {
    const columns = Object.entries(list) as [keyof L & string, Int32Array | Int8Array | Float64Array][];
    const n = columns[0]![1].length;
    const of = ends.map((end) => list[end] as Int32Array);
    const kept: number[] = [];
    for (let s = 0; s < n; s++) if (of.some((end) => near[Math.floor(end[s]! / each)])) kept.push(s);
    return Object.fromEntries(
      columns.map(([name, column]) => {
        const out = new (column.constructor as new (n: number) => typeof column)(kept.length);
        const isEnd = ends.includes(name);
        kept.forEach((s, k) => {
          const value = column[s]!;
          const loop = Math.floor(value / each);
          out[k] = isEnd ? each * here(loop) + (value - each * loop) : value;
        });
        return [name, out];
      }),
    ) as L;
  };
  const { links, steps, bends, overs } = springs;
  const part = {
    links: some(links, ['a', 'b'], 1),
    steps: some(steps, ['a', 'b'], 3),
    bends: some(bends, ['a', 'b', 'c'], 3),
    overs: some(overs, ['a', 'b', 'c', 'd'], 3),
  };
  return {
    springs: {
      ...part,
      loops: Int32Array.from(loops, (_, k) => k),
      around: springs.around < 0 ? -1 : 3 * loops.length,
    },
    loops,
    moving: moving.slice(0, loops.length),
  };
}
