import { multiplesOf, repeatsAcross } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { chartCheck } from './finding.js';

/** The multiple is no longer row 1's once the repeat gains or loses loops: it is then given row by row. */
export const multipleChanges = chartCheck(
  { tells: { 'multiple-changes': 'Multiple changes' }, level: 'note' },
  ({ chart, book }) => {
    if (!repeatsAcross(chart) || chart.rows.some((row) => rowFacts(row, book).span !== chart.width))
      return [];
    const [first, here] = multiplesOf(chart);
    if (!first || !here) return [];
    return [
      {
        id: 'multiple-changes',
        level: 'note',
        row: here.row + 1,
        message: `The multiple changes inside the repeat: ${first.of} + ${first.plus} at the start, ${here.of} + ${here.plus} before row ${here.row + 1}.`,
      },
    ];
  },
);
