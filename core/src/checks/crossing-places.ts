import { linesAcross } from '../chart/frame.js';
import { indexAt, rowFacts } from '../chart/rows.js';
import { isCrossing, kindOf, spanOf } from '../stitches/book.js';
import type { Finding, RowCheck } from './finding.js';

/** No stitch lies across a repeat line, where a pass would have to end in its middle. */
export const overRepeatLine: RowCheck = ({ chart, book }, r) => {
  const row = chart.rows[r]!;
  const lines = [...new Set(linesAcross(chart))].filter((c) => c > 0 && c < chart.width);
  return lines.flatMap((line): Finding[] => {
    const i = indexAt(row, line, book);
    const from = i < 0 ? line : rowFacts(row, book).starts[i]!;
    if (from === line) return [];
    const stitch = row[i]!;
    const name = isCrossing(stitch) ? 'crossing' : kindOf(stitch, book).name;
    return [
      {
        id: 'crossing-over-repeat-line',
        level: 'error',
        row: r + 1,
        columns: [from + 1, from + spanOf(stitch, book)],
        message: `Row ${r + 1}: the ${name} in columns ${from + 1}–${from + spanOf(stitch, book)} lies across the repeat line after column ${line}, so the row cannot be written as a repeat.`,
      },
    ];
  });
};
