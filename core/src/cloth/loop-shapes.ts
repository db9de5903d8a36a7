import { LOOP } from '../fabric/row-knit.js';

/** How the yarn of one loop lies, as points about its feet, its middle and its head. */

/** How far yarn lies before or behind the middle of the cloth where it passes other yarn, in stitch widths. */
export const A = 0.142;
export const [FEET, MIDDLE, HEAD] = [0, 1, 2] as const;
/**
 * A point of a loop, in so many numbers: at which of its places; how far right and up of it; how far in front by its own
 * face, and by the face of what is drawn through it.
 */
export const POINT = 5;
type Shape = readonly number[];

/** A loop drawn through another, from its right foot to its left one. */
// prettier-ignore
export const DRAWN: Shape = [
  FEET, 0.22, -0.15, -1.04 * A, 0,
  FEET, 0.11, 0.1, 0.24 * A, 0,
  MIDDLE, 0.26, 0.22, 0.15 * A, 0.68 * A,
  HEAD, 0.38, 0.04, 0.03 * A, 0.34 * A,
  HEAD, 0, 0.19, 0, -1.38 * A,
  HEAD, -0.38, 0.04, 0.03 * A, 0.34 * A,
  MIDDLE, -0.26, 0.22, 0.15 * A, 0.68 * A,
  FEET, -0.11, 0.1, 0.24 * A, 0,
  FEET, -0.22, -0.15, -1.04 * A, 0,
];
/** The same with its legs crossed above the foot, so that they lie so far in front by its face. */
// prettier-ignore
const crossedLegs = (first: number, second: number): Shape => [
  FEET, 0.3, -0.1, -A, 0,
  FEET, -0.13, 0.13, first, 0,
  MIDDLE, -0.2, 0, 0.55 * A, 0.55 * A,
  HEAD, -0.3, -0.02, 0, 0.6 * A,
  HEAD, 0, 0.25, 0, -A,
  HEAD, 0.3, -0.02, 0, 0.6 * A,
  MIDDLE, 0.2, 0, 0.55 * A, 0.55 * A,
  FEET, 0.13, 0.13, second, 0,
  FEET, -0.3, -0.1, -A, 0,
];
export const TWISTED = crossedLegs(A + 0.1, A - 0.16);
/** A twist has the same hand from both sides: a purl one is a knit one seen from behind. */
export const TWISTED_PURL = crossedLegs(A - 0.16, A + 0.1);
/** Yarn laid over the needle: a head alone. */
// prettier-ignore
const LAID: Shape = [
  HEAD, 0.3, -0.08, 0, 0.3 * A,
  HEAD, 0, 0.25, 0, -A,
  HEAD, -0.3, -0.08, 0, 0.3 * A,
];
export const SHAPES: Record<number, Shape> = {
  [LOOP.castOn]: TWISTED,
  [LOOP.plain]: DRAWN,
  [LOOP.twisted]: TWISTED,
  [LOOP.over]: LAID,
  [LOOP.bar]: TWISTED,
  [LOOP.lifted]: DRAWN,
  [LOOP.bobble]: DRAWN,
};

/** The points of a loop drawn through another, one by one. */
export const DRAWN_POINTS = Array.from({ length: DRAWN.length / POINT }, (_, i) => {
  const [where, right, up, byOwn, byAbove] = DRAWN.slice(i * POINT, (i + 1) * POINT);
  /** How far it is from the feet to the head. */
  const share = where === FEET ? 0 : where === HEAD ? 1 : 0.5;
  return { share, right: right!, high: up!, front: byOwn! + byAbove! };
});
