import { z } from 'zod';
import { LONGEST, type Length } from './length.js';

/** So many stitches or rows over a length: exact, as they were counted. */
export interface Gauge {
  readonly count: number;
  readonly over: Length;
}

/** The two lengths gauges are told over: 10 cm, and 4 in, which is 1.6 mm more. */
export const OVER = { cm: 100_000, in: 101_600 } as const;

/** Counts go up to this: no swatch is larger. */
export const MOST_COUNTED = 2000;

/** A reading as it is kept: what was counted, and over how many micrometres. */
export const ReadingSchema = z
  .strictObject({
    count: z.number().positive('A reading counts more than nothing.').max(MOST_COUNTED),
    over: z.int().min(1000, 'A reading goes over a millimetre at least.').max(LONGEST),
  })
  .refine(({ count, over }) => {
    const in10 = (count * OVER.cm) / over;
    return in10 >= 1 && in10 <= 200;
  }, 'No cloth has so many or so few in 10 cm: are the count and the measure of one place?');

/** How many there are over another length. */
export const countOver = ({ count, over }: Gauge, length: Length): number => (count * length) / over;

/** How long so many of them are. */
export const lengthFor = ({ count, over }: Gauge, n: number): Length => (n * over) / count;

/** A reading this much off the middle of them all, or of two off the other, is asked about (custom). */
export const FAR_OFF = 0.08;

/** Several readings as one gauge, how far apart they lie, and which should be looked at again. */
export interface Averaged {
  gauge: Gauge;
  /** The widest difference between two readings, as a share of the gauge. */
  spread: number;
  /** The places of readings that lie far from most. */
  far: readonly number[];
}

/** The number in the middle of some, or between the two there. */
function middleOf(numbers: readonly number[]): number {
  const sorted = [...numbers].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/**
 * Readings at several places of a swatch as one gauge: all that was counted over all that was measured, so that a
 * long reading counts for more than a short one.
 *
 * @param readings at least one, each with a count and a length above 0
 */
export function averaged(readings: readonly Gauge[]): Averaged {
  const sum = (some: readonly Gauge[]): Gauge => ({
    count: some.reduce((n, r) => n + r.count, 0),
    over: some.reduce((n, r) => n + r.over, 0),
  });
  const gauge = sum(readings);
  const density = ({ count, over }: Gauge) => count / over;
  const all = readings.map(density);
  // Of two nobody knows which is the odd one. Of more, the one in the middle does not follow an odd one as a mean does.
  const usual = (i: number) => (all.length === 2 ? all[1 - i]! : middleOf(all));
  const far = all.flatMap((one, i) => (Math.abs(one - usual(i)) > FAR_OFF * usual(i) ? [i] : []));
  return { gauge, spread: (Math.max(...all) - Math.min(...all)) / density(gauge), far };
}

/** By how much cabled cloth is narrower than plain cloth of as many stitches: 1 − plain gauge / cabled gauge. */
export const drawIn = (plain: Gauge, cabled: Gauge): number =>
  1 - (plain.count * cabled.over) / (cabled.count * plain.over);

/** By how much cloth grows in the wash along what is counted; negative where it shrinks. */
export const growth = (before: Gauge, after: Gauge): number =>
  (before.count * after.over) / (after.count * before.over) - 1;
