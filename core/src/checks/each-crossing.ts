import { rowCrossings } from '../chart/rows.js';
import { crossingSize, type Crossing } from '../stitches/crossing.js';
import type { Found, Knitted } from './finding.js';

/** What a check finds in the crossings of a row (from 0); columns count from 1. */
export function eachCrossing(
  { chart, book }: Knitted,
  r: number,
  look: (c: Crossing, from: number, to: number) => Omit<Found, 'row' | 'columns'> | null,
): Found[] {
  const findings: Found[] = [];
  for (const { crossing, column } of rowCrossings(chart.rows[r]!, book)) {
    const from = column + 1;
    const to = column + crossingSize(crossing);
    const found = look(crossing, from, to);
    if (!found) continue;
    const { id, level, message, mend } = found;
    const told: Found = { id, level, row: r + 1, columns: [from, to], message };
    if (mend) told.mend = mend;
    findings.push(told);
  }
  return findings;
}
