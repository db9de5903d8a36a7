import type { Row } from '../chart/schema.js';
import type { Needle } from '../needle/loop.js';
import type { Group } from '../stitches/crossing.js';

/** What is knitted in a row: loops, what they stand beside, and what they are drawn through. */

/** How a loop came about, as far as its yarn lies otherwise for it. */
export const LOOP = {
  castOn: 0,
  plain: 1,
  /** Drawn through a loop from behind, which crosses that loop's legs. */
  twisted: 2,
  /** The yarn laid over the needle, through nothing. */
  over: 3,
  /** Out of the bar between two loops, twisted. */
  bar: 4,
  /** Out of the loop below its neighbour. */
  lifted: 5,
  bobble: 6,
} as const;
export type LoopKind = (typeof LOOP)[keyof typeof LOOP];

/** How deep the groups of a crossing lie: what is in none lies level. With a centre group there are three layers. */
export const LAYERS: Record<'two' | 'three', Record<Group, number>> = {
  two: { front: 1, back: -1, centre: 0 },
  three: { front: 1, back: 0, centre: -1 },
};

/** Two loops beside each other along the yarn: `b` is the one further left, `shift` turns of the round away. */
export interface Course {
  a: number;
  b: number;
  shift: number;
  /** Columns from one to the other: more than 1 where loops between them were slipped. */
  apart: number;
  /** Where the yarn passes slipped loops: 1 in front of them, −1 behind; 0 where it passes none. */
  float: number;
}

/** A loop drawn through another, or through several worked together. */
export interface Wale {
  parent: number;
  child: number;
  /** Turns of the round that lie between them. */
  shift: number;
  /** Rows from one to the other: more than 1 where the loop was slipped, or lifted from below. */
  apart: number;
  /** Columns it is moved to the left in a crossing. */
  moved: number;
  /** Whether it is in a crossing at all, and how deep there: the higher lies before the lower. */
  isCrossed: boolean;
  layer: number;
  /** Its place among the loops its child is drawn through, 0 on top, and how many these are. */
  rank: number;
  of: number;
}

/** Two stitches of a crossing, as places in the list of wales: the first lies over the second where they meet. */
export interface Over {
  over: number;
  under: number;
}

/** A loop of a rope that lies before a whole ground, and the loop of the ground it lies before. */
export interface Tie {
  rope: number;
  ground: number;
}

/** A loop on the needle: how many turns of the round it lies from where it was made, and what it was drawn through. */
export interface Held {
  readonly loop: number;
  readonly shift: number;
  readonly row: number;
  readonly through: { readonly loop: number; readonly shift: number; readonly row: number } | null;
}

/** What was knitted in one row. */
export interface RowKnit {
  readonly row: Row;
  readonly loops: Needle;
  /** The needle it met, and the number of its first loop. */
  readonly below: readonly Held[];
  readonly first: number;
  /** Of each loop made: its column, its stitch and its kind. */
  readonly column: number[];
  readonly stitch: number[];
  readonly kind: number[];
  readonly face: number[];
  readonly courses: Course[];
  readonly wales: Wale[];
  /** Wales of crossings by their places in the row's own list. */
  readonly overs: Over[];
  /** The needle after it, as it lies when the marker has come back. */
  readonly needle: readonly Held[];
}

/** Where the stitches of a crossing meet: every one of a higher layer lies over every one of a lower that it passes. */
export function meetings(wales: readonly Wale[], first: number, order: readonly number[]): Over[] {
  const overs: Over[] = [];
  for (let i = 0; i < order.length; i++)
    for (let j = i + 1; j < order.length; j++) {
      const [a, b] = [first + i, first + j];
      const higher = wales[a]!.layer - wales[b]!.layer;
      if (order[i]! < order[j]! || !higher) continue;
      overs.push(higher > 0 ? { over: a, under: b } : { over: b, under: a });
    }
  return overs;
}
