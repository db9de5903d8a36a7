import { EditError, type Edit } from '../chart/edit.js';
import { openColumns } from '../chart/edits.js';
import { repeatColumns, repeatsAcross } from '../chart/frame.js';
import { cutAt } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import type { Stitch } from '../stitches/book.js';
import { eachCrossing } from './each-crossing.js';
import { rowCheck } from './finding.js';

/**
 * A column of ground put in at a place. @throws EditError where a stitch lies across it in some row
 */
export function addColumn(chart: Chart, at: number, stitch: Stitch = chart.ground): Edit {
  if (chart.rows.some((row) => cutAt(row, at, bookOf(chart)) < 0))
    throw new EditError('A stitch lies across the place.');
  return openColumns(chart, at, 1, () => [stitch]);
}

/**
 * Flat, a crossing that includes the edge stitch has nothing to hold it (custom). Inside a repeat there is no edge, and
 * the edges of a panel are not the piece's.
 */
export const crossingAtEdge = rowCheck(
  { tells: { 'crossing-at-edge': 'Crossing at the edge' }, level: 'caution', reads: ['part'] },
  (knitted, r) => {
    const { chart } = knitted;
    if (chart.part === 'panel') return [];
    const { start, end } = repeatColumns(chart, r);
    const isRepeated = repeatsAcross(chart);
    return eachCrossing(knitted, r, (_c, from, to) =>
      (from === 1 && !(isRepeated && start === 0)) ||
      (to === chart.width && !(isRepeated && end === chart.width))
        ? {
            id: 'crossing-at-edge',
            level: 'caution',
            message: `Row ${r + 1}: the crossing in columns ${from}–${to} includes the edge stitch, which has nothing beside it to hold it.`,
            mend: {
              label: `Add an edge stitch at the ${from === 1 ? 'right' : 'left'}`,
              edit: (c) => addColumn(c, from === 1 ? 0 : c.width),
            },
          }
        : null,
    );
  },
);
