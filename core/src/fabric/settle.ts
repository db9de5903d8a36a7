import { rowFacts } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { sameStitch } from '../stitches/book.js';
import { energyOf } from './energy.js';
import type { Fabric } from './fabric.js';
import { smoother } from './levels.js';
import { minimise, type Step } from './solver.js';
import { springsOf, unrelaxed, type Positions, type Springs } from './springs.js';
import { ORDINARY, type Proportions } from './proportions.js';

/** A fabric and where its loops lie. */
export interface KnittedCloth {
  readonly fabric: Fabric;
  readonly lie: Positions;
}

/** Cloth is at rest when no loop is pulled harder than this. */
export const AT_REST = 8e-3;
/** No cloth takes so many steps; what does is left as it lies then. */
export const MOST_SETTLING = 600;

/** The column each loop stands in among all: on a whole ground there is room for two in a cell, each with a place of its own. */
function acrossIn({ column, chart, ties }: Fabric): { column: Int32Array; width: number } {
  if (!ties.length) return { column, width: chart.width };
  const among = column.map((c) => 2 * c);
  for (const { rope } of ties) among[rope]!++;
  return { column: among, width: 2 * chart.width };
}

/**
 * Lets a cloth come to rest: its lie is changed in place, step by step, each lower in energy than the one before. The
 * same cloth comes to the same rest each time.
 */
export function* settle(
  { fabric, lie }: KnittedCloth,
  proportions: Proportions = ORDINARY,
  springs: Springs = springsOf(fabric, proportions),
): Generator<Step, Step> {
  const { size, row, isTube } = fabric;
  // A chart of nothing but gaps has no loop that could move.
  if (!size) return { energy: 0, pull: 0, steps: 0, asked: 0 };
  const smooth = smoother({ size, row, isTube, ...acrossIn(fabric) });
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
const REACH = { rows: 9, columns: 8 } as const;
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
  // On a whole ground two loops stand in one cell.
  if (fabric.ties.length || was.ties.length) return { lie, near: null };
  const { chart, size } = fabric;
  const { width, rows } = chart;
  // Rounds that begin elsewhere reach beyond the chart's own columns, at most once round.
  const across = 3 * Math.max(width, was.chart.width);
  const key = (row: number, column: number) => (row + 1) * across + column + across / 3;
  const at = new Int32Array((Math.max(rows.length, was.chart.rows.length) + 1) * across).fill(-1);
  for (let i = 0; i < was.size; i++) at[key(was.row[i]!, was.column[i]!)] = i;
  for (let i = 0; i < size; i++) {
    const before = at[key(fabric.row[i]!, fabric.column[i]!)]!;
    if (before < 0) continue;
    for (let k = 0; k < 3; k++) lie[3 * i + k] = lay[3 * before + k]!;
  }
  if (fabric.isTube && was.isTube) lie[3 * size] = lay[3 * was.size]!;
  const isAlike =
    was.chart.width === width && was.chart.rows.length === rows.length && was.isTube === fabric.isTube;
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

/** A loop that has moved by less than this is not seen to have moved, in stitch widths. */
const SEEN = 0.02;

/** Which loops of a cloth lie or look otherwise than those of another; null where the two have not the same loops. */
export function movedLoops(before: KnittedCloth, after: KnittedCloth): Uint8Array | null {
  const [was, now] = [before.fabric, after.fabric];
  const [a, b] = [before.lie, after.lie];
  if (was.size !== now.size) return null;
  const moved = new Uint8Array(now.size);
  for (let i = 0; i < now.size; i++) {
    if (was.row[i] !== now.row[i] || was.column[i] !== now.column[i]) return null;
    const p = 3 * i;
    const far = Math.abs(a[p]! - b[p]!) + Math.abs(a[p + 1]! - b[p + 1]!) + Math.abs(a[p + 2]! - b[p + 2]!);
    const [one, other] = [was.wales[was.stem[i]!], now.wales[now.stem[i]!]];
    const looks =
      was.face[i] === now.face[i] &&
      was.kind[i] === now.kind[i] &&
      one?.parent === other?.parent &&
      one?.layer === other?.layer;
    if (far > SEEN || !looks) moved[i] = 1;
  }
  return moved;
}

/**
 * Lets only some of the loops come to rest among the others, which stay where they are. What it tells of energy and pull is
 * theirs alone.
 */
export function* settleNear(
  { fabric, lie }: KnittedCloth,
  near: Uint8Array,
  proportions: Proportions = ORDINARY,
): Generator<Step, Step> {
  if (!near.includes(1)) return { steps: 0, asked: 0, energy: 0, pull: 0 };
  const part = partOf(fabric, springsOf(fabric, proportions, near), near);
  const { loops, moving } = part;
  const own = new Float64Array(3 * loops.length + (fabric.isTube ? 1 : 0));
  loops.forEach((i, k) => own.set(lie.subarray(3 * i, 3 * i + 3), 3 * k));
  if (fabric.isTube) own[3 * loops.length] = lie[3 * fabric.size]!;
  const hold = (g: Float64Array) => {
    // What comes after the loops that move is held: others, and in the round how far it is round.
    g.fill(0, 3 * moving);
  };
  const across = acrossIn(fabric);
  const smoothAll = smoother({
    size: loops.length,
    row: loops.map((i) => fabric.row[i]!),
    column: loops.map((i) => across.column[i]!),
    width: across.width,
    isTube: fabric.isTube,
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
    for (let k = 0; k < moving; k++)
      for (let axis = 0; axis < 3; axis++) lie[3 * loops[k]! + axis] = own[3 * k + axis]!;
    if (done) return value;
    yield value;
  }
}

/** Springs that hold some loops, their ends counted anew: those loops first, then the ones at their other ends. */
function partOf(
  fabric: Fabric,
  springs: Springs,
  near: Uint8Array,
): { springs: Springs; loops: Int32Array; moving: number } {
  const loops: number[] = [];
  const place = new Int32Array(fabric.size).fill(-1);
  for (let i = 0; i < fabric.size; i++) if (near[i]) place[i] = loops.push(i) - 1;
  const moving = loops.length;
  const here = (loop: number): number =>
    place[loop]! >= 0 ? place[loop]! : (place[loop] = loops.push(loop) - 1);
  const counted = (ends: Int32Array) => ends.map(here);
  const coordinates = (ends: Int32Array) =>
    ends.map((end) => {
      const loop = Math.floor(end / 3);
      return 3 * here(loop) + end - 3 * loop;
    });
  const { links, steps, bends, overs } = springs;
  const part = {
    links: { ...links, a: counted(links.a), b: counted(links.b) },
    steps: { ...steps, a: coordinates(steps.a), b: coordinates(steps.b) },
    bends: { ...bends, a: coordinates(bends.a), b: coordinates(bends.b), c: coordinates(bends.c) },
    overs: {
      ...overs,
      a: coordinates(overs.a),
      b: coordinates(overs.b),
      c: coordinates(overs.c),
      d: coordinates(overs.d),
    },
  };
  return {
    springs: {
      ...part,
      loops: Int32Array.from({ length: moving }, (_, k) => k),
      around: springs.around < 0 ? -1 : 3 * loops.length,
    },
    loops: Int32Array.from(loops),
    moving,
  };
}
