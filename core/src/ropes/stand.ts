import { remembered } from '../remember.js';
import { stitchesBefore, type Crossing, type Group } from '../stitches/crossing.js';
import { faceOf, type Face } from '../stitches/face.js';

/**
 * What each loop brings with it of its past: from where it shows its face, which crossing last carried it, and whether
 * it is of a rope. It is carried from row to row with the loops, so that a change costs the rows above only until
 * the next crossings have taken its loops on.
 */
export interface Stand {
  /** The row (from 0) since which the loop is knit; -1 where it has been for long, was cast on or made so, or is purl. */
  readonly since: number;
  /** Whether it has crossed as a stitch of a rope since it was last ground. */
  readonly rope: boolean;
  /** The last crossing that carried it as a rope's. */
  readonly last: Passage | null;
  /** Where that one split its rope: the crossing before, by which its stitches still belong together. */
  readonly whole: Passage | null;
  /** The last that crossed its rope with another. */
  readonly met: Passage | null;
  /** The first row a rope's stitch has been purled in since its last crossing, and the row it was knit again in. */
  readonly purled: number | null;
  readonly back: number | null;
}

/** One group of a crossing, as the loops that it carried know it. */
export interface Passage {
  readonly row: number;
  /** The first column of the crossing, from 0. */
  readonly column: number;
  readonly crossing: Crossing;
  readonly group: Group;
  /** Its place among the crossings of its row. */
  readonly index: number;
}

/** One stitch of a crossing: of which group it is, and what it shows. */
export interface CrossingLoop {
  readonly group: Group;
  readonly shows: Face;
}

/** The stitches of a crossing from the right, as they lie before it. */
export const loopsOf = remembered((crossing: Crossing): readonly CrossingLoop[] =>
  stitchesBefore(crossing).map(({ group, worked }) => ({ group, shows: faceOf(worked) })),
);

const stands: Stand[] = [];

/** The stand of a loop that is no rope's. */
export const plainStand = (since: number): Stand =>
  (stands[since + 1] ??= Object.freeze({
    since,
    rope: false,
    last: null,
    whole: null,
    met: null,
    purled: null,
    back: null,
  }));

/** Whether two loops were carried by one group of one crossing. */
export const samePassage = (a: Passage | null, b: Passage | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.row === b.row &&
    a.column === b.column &&
    a.index === b.index &&
    a.crossing === b.crossing &&
    a.group === b.group);

export const sameStand = (a: Stand, b: Stand): boolean =>
  a === b ||
  (a.since === b.since &&
    a.rope === b.rope &&
    samePassage(a.last, b.last) &&
    samePassage(a.whole, b.whole) &&
    samePassage(a.met, b.met) &&
    a.purled === b.purled &&
    a.back === b.back);
