import type { Fabric } from './fabric.js';
import { ORDINARY, type Proportions } from './proportions.js';
import { LOOP, type Course, type Wale } from './row-knit.js';

/**
 * What holds the loops of a fabric where they come to rest: links of yarn that keep their length, faces that step
 * forward or back, yarn that does not like to be bent, and ropes that cannot pass through each other. Lengths are
 * widths of a plain stitch; energies have no unit. The form is this program's own; its constants were fitted, all together, to a table
 * of how ribs, garter, moss and ropes are known to draw in (common practice, no source): `test/customs.ts` holds the table.
 */

/** Numbers the springs are weighed with. */
const K = {
  /** A link along a row, pulled and pushed: yarn slides from loop to loop, so it gives way when pushed. */
  course: 0.92,
  coursePushed: 0.0672,
  wale: 1,
  /** Of loops worked together each holds so much of its share. */
  together: 0.75,
  /** How much a held loop grows for each row it is not worked. */
  heldGrows: 0.5,
  /** How far a knit loop stands before the purl beside it, and a purl one before the knit above it. */
  stepAcross: 0.955,
  stepUp: 0.712,
  faceAcross: 0.142,
  faceUp: 1.27,
  /** How much longer yarn is beside a yarn over. */
  open: 0.25,
  bendAcross: 0.0721,
  bendUp: 0.0328,
  bendDepth: 0.151,
  curlAcross: -1.48,
  curlUp: 0.496,
  /** A rope on a whole ground is held before it: how firmly, and how far. */
  tied: 0.4,
  tiedDepth: 1.15,
  /** A loop is held to its row and, weakly, to its column, and one beside another to its side: no cloth folds over itself. */
  shearAcross: 0.05,
  shearUp: 0.0065,
  order: 0.0399,
  /** Where a rope is crossed it leans as a whole: its loops resist being bent, keep beside each other, and lend the crossing of their height. */
  bendRope: 0.17,
  orderRope: 0.06,
  lent: 0.0395,
  /** A crossing is held to its row's height, or a taller one where its rope leans; the first column it goes over takes so much less yarn. */
  crossingHeight: 3.42,
  tall: 1.323,
  firstColumn: 0.17,
} as const;

/**
 * How far from its crossing a rope leans, in rows; in full where it has so many rows until it is crossed again, and goes over so many
 * columns. With fewer rows it leans so much less: their share to this power.
 */
const LEANS = { rows: 2, freeRows: 5, power: 1.3, columns: 3 } as const;

/** How rather flat cloth lies, and how ropes keep out of each other where they cross. */
export const HELD = { flat: 0.313, over: 1, overDepth: 0.48 } as const;

/**
 * Lists of springs, each kind as numbers beside each other. Links go from loop to loop; the others hold coordinates,
 * which are three to a loop. What lies over the seam of a round is told by how many turns it is away.
 */
export interface Springs {
  /** Yarn between two loops: at rest so long; how hard it is to make longer, and shorter. */
  readonly links: {
    a: Int32Array;
    b: Int32Array;
    turns: Int8Array;
    rest: Float64Array;
    longer: Float64Array;
    shorter: Float64Array;
  };
  /** Two coordinates a step apart: b − a. */
  readonly steps: { a: Int32Array; b: Int32Array; turns: Int8Array; by: Float64Array; k: Float64Array };
  /** Three coordinates in line but for a bend: a − 2 b + c. */
  readonly bends: {
    a: Int32Array;
    b: Int32Array;
    c: Int32Array;
    turns: Int8Array;
    by: Float64Array;
    k: Float64Array;
  };
  /** Crossings: the yarn from `a` to `b` lies over that from `c` to `d`, where both have gone `at` of their way. */
  readonly overs: { a: Int32Array; b: Int32Array; c: Int32Array; d: Int32Array; at: Float64Array };
  /** The loops, all of which lie rather flat. */
  readonly loops: Int32Array;
  /** The place of the width of the round among the coordinates; −1 in flat work. */
  readonly around: number;
}

const [X, Y, Z] = [0, 1, 2] as const;

/** Numbers put down in rows of so many. */
class Numbers {
  #all = new Float64Array(1 << 12);
  #end = 0;

  constructor(readonly columns: 5 | 6) {}

  put(a: number, b: number, c: number, d: number, e: number, f = 0): void {
    const { columns } = this;
    if (this.#end + columns > this.#all.length) {
      const all = this.#all;
      this.#all = new Float64Array(2 * all.length);
      this.#all.set(all);
    }
    const all = this.#all;
    const o = this.#end;
    all[o] = a;
    all[o + 1] = b;
    all[o + 2] = c;
    all[o + 3] = d;
    all[o + 4] = e;
    if (columns > 5) all[o + 5] = f;
    this.#end = o + columns;
  }

  column<T extends Int32Array | Int8Array | Float64Array>(Kind: new (n: number) => T, at: number): T {
    const out = new Kind(this.#end / this.columns);
    for (let i = 0, o = at; i < out.length; i++, o += this.columns) out[i] = this.#all[o]!;
    return out;
  }
}

/** The springs of a fabric as they are put down. */
class Lists {
  readonly links = new Numbers(6);
  readonly steps = new Numbers(5);
  readonly bends = new Numbers(6);
  readonly overs = new Numbers(5);

  step(axis: number, a: number, b: number, turns: number, by: number, k: number): void {
    this.steps.put(3 * a + axis, 3 * b + axis, turns, by, k);
  }

  /** Three loops in line; `turns` is how many turns the outer ones are away from the middle one together. */
  bend(a: number, b: number, c: number, turns: number, k: number, curl: number): void {
    this.bends.put(3 * a, 3 * b, 3 * c, turns, 0, k);
    this.bends.put(3 * a + Y, 3 * b + Y, 3 * c + Y, 0, 0, k);
    this.bends.put(3 * a + Z, 3 * b + Z, 3 * c + Z, 0, curl, K.bendDepth);
  }

  springs(size: number, isTube: boolean): Springs {
    const { links, steps, bends, overs } = this;
    return {
      links: {
        a: links.column(Int32Array, 0),
        b: links.column(Int32Array, 1),
        turns: links.column(Int8Array, 2),
        rest: links.column(Float64Array, 3),
        longer: links.column(Float64Array, 4),
        shorter: links.column(Float64Array, 5),
      },
      steps: {
        a: steps.column(Int32Array, 0),
        b: steps.column(Int32Array, 1),
        turns: steps.column(Int8Array, 2),
        by: steps.column(Float64Array, 3),
        k: steps.column(Float64Array, 4),
      },
      bends: {
        a: bends.column(Int32Array, 0),
        b: bends.column(Int32Array, 1),
        c: bends.column(Int32Array, 2),
        turns: bends.column(Int8Array, 3),
        by: bends.column(Float64Array, 4),
        k: bends.column(Float64Array, 5),
      },
      overs: {
        a: overs.column(Int32Array, 0),
        b: overs.column(Int32Array, 1),
        c: overs.column(Int32Array, 2),
        d: overs.column(Int32Array, 3),
        at: overs.column(Float64Array, 4),
      },
      loops: Int32Array.from({ length: size }, (_, i) => i),
      around: isTube ? 3 * size : -1,
    };
  }
}

/** From what holds of plain cloth to what holds of a rope that leans. */
const between = (plain: number, rope: number, lean: number): number => plain + (rope - plain) * lean;

function courseSprings(
  lists: Lists,
  { face, kind, wales, stem, crown }: Fabric,
  { a, b, shift, apart }: Course,
  { curl }: Proportions,
  leaning: Float64Array,
): void {
  const lean = Math.max(leaning[a]!, leaning[b]!);
  // Yarn laid over the needle is drawn through nothing: what it does not need there opens its hole.
  const open = kind[a] === LOOP.over || kind[b] === LOOP.over ? K.open : 0;
  const rest = apart + open;
  lists.links.put(a, b, shift, rest, K.course / apart, K.coursePushed / apart);
  lists.step(X, a, b, shift, -rest, between(K.order, K.orderRope, lean) / apart);
  lists.step(Y, a, b, 0, 0, K.shearAcross);
  const faces = (face[b]! - face[a]!) / 2;
  // Where ropes cross, and just below, it is not their faces that say which lies before the other.
  const isCrossed = [stem, crown].some((w) => {
    const [one, other] = [wales[w[a]!], wales[w[b]!]];
    return one?.isCrossed && other?.isCrossed && one.layer !== other.layer;
  });
  if (faces && !isCrossed) lists.step(Z, a, b, 0, faces * K.stepAcross * curl, K.faceAcross);
}

function waleSprings(
  lists: Lists,
  { face, kind }: Fabric,
  { parent, child, shift, apart, moved, of }: Wale,
  { height, slack, curl }: Proportions,
  leaning: Float64Array,
): void {
  const lean = Math.max(leaning[parent]!, leaning[child]!);
  const high = height * (1 + (apart - 1) * K.heldGrows);
  // A bar hangs lower than the loops beside it stand, and lies half a stitch from each.
  const rest =
    kind[child] === LOOP.bar
      ? Math.hypot(0.5, height)
      : moved
        ? high + slack * (Math.abs(moved) - K.firstColumn)
        : high * (1 - K.lent * lean);
  const k = K.wale / Math.max(1, of * K.together);
  lists.links.put(parent, child, -shift, rest, k, k);
  if (moved) {
    lists.step(Y, parent, child, 0, high * between(1, K.tall, lean), K.crossingHeight);
    lists.step(X, parent, child, -shift, -moved, K.shearUp);
    return;
  }
  if (of === 1) lists.step(X, parent, child, -shift, 0, K.shearUp);
  const faces = (face[child]! - face[parent]!) / 2;
  if (faces && kind[parent] !== LOOP.castOn)
    lists.step(Z, parent, child, 0, -faces * K.stepUp * curl, K.faceUp);
}

/**
 * How much each loop leans with a crossing of its rope, from 0 to 1: those few rows from it, the more the further the crossing goes and
 * the more rows the rope has until it is crossed again. Crossed at once it has no room to lean.
 */
function leaningOf({ size, wales, stem, crown }: Fabric): Float64Array {
  const leaning = new Float64Array(size);
  const below = (i: number) => wales[stem[i]!];
  const above = (i: number) => wales[crown[i]!];
  const lean = (first: number, moved: number, way: 'parent' | 'child') => {
    const next = way === 'parent' ? below : above;
    const run = [first];
    let wale = next(first);
    for (; wale && !wale.moved && run.length < LEANS.freeRows; wale = next(run.at(-1)!)) run.push(wale[way]);
    const free = wale?.moved ? ((run.length - 1) / (LEANS.freeRows - 1)) ** LEANS.power : 1;
    const far = Math.min(1, (Math.abs(moved) + 1) / (LEANS.columns + 1));
    for (const i of run.slice(0, LEANS.rows)) leaning[i] = Math.max(leaning[i]!, far * free);
  };
  for (const { moved, parent, child } of wales) {
    if (!moved) continue;
    lean(parent, moved, 'parent');
    lean(child, moved, 'child');
  }
  return leaning;
}

/**
 * The springs of a fabric.
 *
 * @param near where it is given, only the springs that hold some of these loops
 */
export function springsOf(
  fabric: Fabric,
  proportions: Proportions = ORDINARY,
  near: Uint8Array | null = null,
): Springs {
  const { size, courses, wales, overs, ties, face, column, right, left, stem, crown, isTube } = fabric;
  const lists = new Lists();
  const leaning = leaningOf(fabric);
  const isNear = (a: number, b: number, c = b) => !near || near[a] === 1 || near[b] === 1 || near[c] === 1;
  for (const course of courses)
    if (isNear(course.a, course.b)) courseSprings(lists, fabric, course, proportions, leaning);
  for (const wale of wales)
    if (isNear(wale.parent, wale.child)) waleSprings(lists, fabric, wale, proportions, leaning);
  for (let b = 0; b < size; b++) {
    const curl = proportions.curl * face[b]!;
    const [r, l] = [courses[right[b]!], courses[left[b]!]];
    if (r && l && r.apart === 1 && l.apart === 1 && isNear(r.a, b, l.b))
      lists.bend(r.a, b, l.b, l.shift - r.shift, K.bendAcross, K.curlAcross * curl);
    const [s, c] = [wales[stem[b]!], wales[crown[b]!]];
    if (s && c && isNear(s.parent, b, c.child))
      lists.bend(
        s.parent,
        b,
        c.child,
        s.shift - c.shift,
        between(K.bendUp, K.bendRope, leaning[b]!),
        K.curlUp * curl,
      );
  }
  for (const { rope, ground } of ties) {
    if (!isNear(ground, rope)) continue;
    lists.step(X, ground, rope, 0, 0, K.tied);
    lists.step(Y, ground, rope, 0, 0, K.tied);
    lists.step(Z, ground, rope, 0, K.tiedDepth, K.tied);
  }
  for (const { over, under } of overs) {
    const [o, u] = [wales[over]!, wales[under]!];
    if (!isNear(o.parent, o.child) && !isNear(u.parent, u.child)) continue;
    // They meet where both have come to the same column.
    const at = (column[u.child]! - u.moved - (column[o.child]! - o.moved)) / (o.moved - u.moved);
    lists.overs.put(3 * o.parent + Z, 3 * o.child + Z, 3 * u.parent + Z, 3 * u.child + Z, at);
  }
  return lists.springs(size, isTube);
}

/** Where the loops of a fabric lie: x, y and z of each in turn, and in the round how far it is round. */
export type Positions = Float64Array;

/** The loops as the chart has them, before anything draws in. */
export function unrelaxed(fabric: Fabric, { height }: Proportions = ORDINARY): Positions {
  const { size, row, column, chart, isTube } = fabric;
  const lie = new Float64Array(3 * size + (isTube ? 1 : 0));
  for (let i = 0; i < size; i++) {
    lie[3 * i] = -(column[i]! + 0.5);
    lie[3 * i + 1] = (row[i]! + 0.5) * height;
  }
  if (isTube) lie[3 * size] = chart.width;
  return lie;
}
