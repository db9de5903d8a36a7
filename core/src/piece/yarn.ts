import { countsOf, workedRows } from '../chart/frame.js';
import type { Piece } from '../chart/piece-document.js';
import type { Assembled } from './assemble.js';

/** Yarn for a piece: from the loops of a swatch that was weighed, and no promise. */

/** Yarn is told in full steps upwards, so that it reaches. */
export const yarnTold = (amount: number, step: number): number => Math.ceil(amount / step) * step;
/** The steps in grams that one piece and an order of several are told in. */
export const GRAM_STEPS = { piece: 5, order: 50 } as const;

/** All loops of a piece as it is worked, borders and all. */
export function loopsWorked({ chart }: Pick<Assembled, 'chart'>): number {
  const counts = chart.rows.map((_, r) => countsOf(chart, r).makes);
  let loops = counts.length ? countsOf(chart, 0).takes : 0;
  for (const { row } of workedRows(chart)) {
    loops += counts[row]!;
    // A band is as many loops, and one, in each of its rounds.
    const band = chart.bands[row];
    if (band) loops += band.rounds * (countsOf(chart, row).takes + 1);
  }
  return loops;
}

/** Grams for one piece, with the margin: what that swatch took, and no promise. No swatch, no figure: null. */
export const gramsFor = ({ yarn: { grams, margin } }: Piece, made: Assembled): number | null =>
  grams === null ? null : grams * loopsWorked(made) * (1 + margin);
