/**
 * The needles of a bed: numbered outwards from the centre, R1, R2 … to the right and L1, L2 … to the left. Places count leftwards, R1 is
 * −1 and L1 is 0, so that beds lie as the right side of the cloth looks, charts read from the right.
 */

/** A bed has so many needles to either side of its centre. */
export const MOST_NEEDLES = 300;

export const needleAt = (place: number): string => (place < 0 ? `R${-place}` : `L${place + 1}`);

/** The place of a needle; null where there is no such needle. */
export function placeOf(needle: string): number | null {
  const found = /^([LR])([1-9]\d{0,2})$/.exec(needle);
  const n = Number(found?.[2]);
  if (!found || n > MOST_NEEDLES) return null;
  return found[1] === 'L' ? n - 1 : -n;
}

/** Needles in the order they stand, from the left as they are looked at: L3, L1, R2. */
export const inOrder = (places: Iterable<number>): string[] =>
  [...places].sort((a, b) => b - a).map(needleAt);
