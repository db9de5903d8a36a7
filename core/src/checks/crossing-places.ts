import { indexAt, repeatColumns, rowCrossings, rowFacts } from '../chart/rows.js';
import { isCrossing, kindOf, spanOf } from '../stitches/book.js';
import { crossingSize } from '../stitches/crossing.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { Check, Finding } from './finding.js';

/** No stitch lies across a repeat line, where a pass would have to end in its middle. */
export const overRepeatLine: Check = ({ chart, book }) => {
  if (!chart.across) return [];
  const { start, end } = repeatColumns(chart);
  const lines = [...new Set([start, end])].filter((c) => c > 0 && c < chart.width);
  return chart.rows.flatMap((row, r) =>
    lines.flatMap((line): Finding[] => {
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
    }),
  );
};

/** A crossing needs loops to cross: none of the columns it covers is a gap in the row below. */
export const overGap: Check = ({ chart, book }) =>
  chart.rows.flatMap((row, r): Finding[] => {
    const below = chart.rows[r - 1];
    if (!below?.includes(NO_STITCH)) return [];
    return rowCrossings(row, book).flatMap(({ crossing, column: from }): Finding[] => {
      const to = from + crossingSize(crossing);
      for (let c = from; c < to; c++)
        if (below[indexAt(below, c, book)] === NO_STITCH)
          return [
            {
              id: 'crossing-over-gap',
              level: 'error',
              row: r + 1,
              columns: [from + 1, to],
              message: `Row ${r + 1}: the crossing in columns ${from + 1}–${to} reaches over a gap; row ${r} leaves no stitch in column ${c + 1}.`,
            },
          ];
      return [];
    });
  });
