import { constructionOf, rowTitle } from '../construction/construction.js';
import { setJog } from '../chart/edits.js';
import { linesAcross, repeatColumns, sectionsOf, withJog } from '../chart/frame.js';
import { jogFault } from '../chart/lines.js';
import { indexAt, rowFacts } from '../chart/rows.js';
import { isCrossing, kindOf, spanOf } from '../stitches/book.js';
import type { Chart } from '../chart/schema.js';
import { counted, type Found, type RowCheck } from './finding.js';

const beginLabel = (chart: Chart, r: number, jog: number): string =>
  `Begin the repeat of ${rowTitle(chart, r + 1).toLowerCase()} ${counted(Math.abs(jog), 'stitch')} ${jog > 0 ? 'later' : 'earlier'}`;

/** The nearest shift of a row with which no stitch lies across its lines; null where there is none. */
function jogBeside(chart: Chart, r: number): number | null {
  if (!constructionOf(chart).hasEdges) return null;
  const { start, end } = repeatColumns(chart);
  const reach = end - start - 1;
  for (let by = 1; by <= reach; by++)
    for (const jog of [by, -by]) {
      if (jogFault(chart, r, jog)) continue;
      if (sectionsOf(withJog(chart, r, jog), r)) return jog;
    }
  return null;
}

/** No stitch lies across a repeat line, where a pass would have to end in its middle. */
export const overRepeatLine: RowCheck = ({ chart, book }, r) => {
  const row = chart.rows[r]!;
  const lines = [...new Set(linesAcross(chart, r))].filter((c) => c > 0 && c < chart.width);
  return lines.flatMap((line): Found[] => {
    const i = indexAt(row, line, book);
    const from = i < 0 ? line : rowFacts(row, book).starts[i]!;
    if (from === line) return [];
    const stitch = row[i]!;
    const jog = jogBeside(chart, r);
    const name = isCrossing(stitch) ? 'crossing' : kindOf(stitch, book).name;
    return [
      {
        id: 'crossing-over-repeat-line',
        level: 'error',
        row: r + 1,
        columns: [from + 1, from + spanOf(stitch, book)],
        message: `Row ${r + 1}: the ${name} in columns ${from + 1}–${from + spanOf(stitch, book)} lies across the repeat line after column ${line}, so the row cannot be written as a repeat.${jog === null ? '' : ` Let its repeat begin ${counted(Math.abs(jog), 'stitch')} ${jog > 0 ? 'later' : 'earlier'}.`}`,
        ...(jog === null
          ? {}
          : { mend: { label: beginLabel(chart, r, jog), edit: (c) => setJog(c, r, jog) } }),
      },
    ];
  });
};
