import type { Way } from '../construction/index.js';

/** Where changes of count stand in a row, in numbers alone: words are another matter. */

/** More than any needle of a piece holds; lines are not written for more. */
export const MOST_ON_NEEDLE = 2000;

/**
 * What is left at the ends of the row: a gap like all others (flat, the default); half a gap, for edges that are seamed
 * to each other; none, in the round, where the end is followed by the beginning.
 */
export const SPREAD_ENDS = ['whole', 'half', 'round'] as const;
export type SpreadEnds = (typeof SPREAD_ENDS)[number];

/** The ends that a row has as it is worked. */
export const endsOf = ({ hasEdges }: Way): SpreadEnds => (hasEdges ? 'whole' : 'round');

/**
 * The whole number nearest to a fraction. Of two that are as near, the lower one before `half` of the whole and the
 * upper one from there on, so that what is symmetrical stays so.
 */
function nearest(numerator: number, denominator: number, isBeforeHalf: boolean): number {
  const twice = 2 * numerator;
  return isBeforeHalf
    ? Math.ceil((twice - denominator) / (2 * denominator))
    : Math.floor((twice + denominator) / (2 * denominator));
}

/**
 * The plain stitches between `changes` changes, from the beginning of the row: one more than there are changes, the last
 * being what follows the last change. They differ by at most one (but for the halves at the ends), are placed as a
 * line is drawn on a grid, and lie symmetrically where the numbers allow.
 */
export function gapsBetween(plain: number, changes: number, ends: SpreadEnds): number[] {
  const at = (i: number): number => {
    if (ends === 'round') return nearest(i * plain, changes, 2 * i < changes);
    if (ends === 'half') return nearest((2 * i - 1) * plain, 2 * changes, 2 * i < changes + 1);
    return nearest(i * plain, changes + 1, 2 * i < changes + 1);
  };
  const places = Array.from({ length: changes }, (_, i) => at(i + 1));
  return [...places, plain].map((place, i) => place - (places[i - 1] ?? 0));
}
