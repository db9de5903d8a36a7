import { bothCount } from '../construction/index.js';
import { isOneFaced, kindOf } from '../stitches/book.js';
import { rowFacts } from '../chart/rows.js';
import { rowCheck } from './finding.js';

/** Where both faces count, what stands out on one of them only is to be meant so (custom). */
export const oneFaced = rowCheck(
  { tells: { 'one-faced': 'Seen on one side only' }, level: 'note', reads: ['bothFaces'] },
  ({ chart, book }, r) => {
    if (!bothCount(chart)) return [];
    const row = chart.rows[r]!;
    const i = row.findIndex(isOneFaced);
    if (i < 0) return [];
    const { starts } = rowFacts(row, book);
    const column = starts[i]! + 1;
    const { name } = kindOf(row[i] as string, book);
    return [
      {
        id: 'one-faced',
        level: 'note',
        row: r + 1,
        columns: [column, column],
        message: `Row ${r + 1}: the ${name} in column ${column} shows on side 1 only; both sides count here.`,
      },
    ];
  },
);
