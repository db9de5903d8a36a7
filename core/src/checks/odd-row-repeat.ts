import { isWorkedAgain, repeatRows } from '../chart/frame.js';
import { wayOf } from '../construction/index.js';
import { chartCheck } from './finding.js';
import { counted } from '../values.js';

/** Flat, a repeat of an odd number of rows turns right-side rows into wrong-side ones on the second pass. */
export const oddRepeat = chartCheck(
  { tells: { 'odd-row-repeat': 'Odd repeat of rows' }, level: 'error' },
  ({ chart }) => {
    const repeat = repeatRows(chart);
    if (!repeat) return [];
    // What is worked once can be worked so; it could not be again.
    const level = isWorkedAgain(chart) ? 'error' : 'caution';
    const { first, last } = repeat;
    const rows = last - first + 1;
    const way = wayOf(chart);
    if (rows % way.rowsToSameSide === 0) return [];
    return [
      {
        id: 'odd-row-repeat',
        level,
        row: last + 1,
        message: `The repeat of rows ${first + 1}–${last + 1} is ${counted(rows, 'row')} high: worked ${way.worked}, its right-side rows become wrong-side rows on the second pass.`,
      },
    ];
  },
);
