import { wayOf, rowTitle } from '../construction/index.js';
import { cellsIn, EditError, type Edit } from '../chart/edit.js';
import { setAcross, setJog } from '../chart/edits.js';
import { sameStitches } from '../chart/steps.js';
import { moveAlong } from '../needle/mend-crossing.js';
import { acrossOf, linesAcross, repeatColumns, sectionsOf, withJog } from '../chart/frame.js';
import { jogFault } from '../chart/repeat-lines.js';
import { indexAt, rowFacts } from '../chart/rows.js';
import { isCrossing, kindOf, spanOf } from '../stitches/book.js';
import type { Chart } from '../chart/schema.js';
import { rowCheck, type Found } from './finding.js';
import { counted } from '../values.js';

const beginLabel = (chart: Chart, r: number, jog: number): string =>
  `Begin the repeat of ${rowTitle(chart, r + 1).toLowerCase()} ${counted(Math.abs(jog), 'stitch')} ${jog > 0 ? 'later' : 'earlier'}`;

/** The nearest shift of a row with which no stitch lies across its lines; null where there is none. */
function jogBeside(chart: Chart, r: number): number | null {
  if (!wayOf(chart).hasEdges) return null;
  const { start, end } = repeatColumns(chart);
  const reach = end - start - 1;
  for (let by = 1; by <= reach; by++)
    for (const jog of [by, -by]) {
      if (jogFault(chart, r, jog)) continue;
      if (sectionsOf(withJog(chart, r, jog), r)) return jog;
    }
  return null;
}

/** Columns a crossing is moved by to clear a line, nearest first. */
const ASIDE = [-1, 1, -2, 2, -3, 3];

/** The lines of all rows moved to the nearest place where they cross no stitch, and the piece stays as it is. @throws EditError where there is none */
function moveLines(chart: Chart): Edit {
  const across = acrossOf(chart);
  const { start, end } = repeatColumns(chart);
  const places = Array.from({ length: end - start - 1 }, (_, i) => i + 1).flatMap((by) => [by, -by]);
  const moved = (by: number) => ({ ...across, before: across.before + by, after: across.after - by });
  const by = places.find((b) => {
    const now = moved(b);
    if (now.before < 0 || now.after < 0 || !isSamePiece(chart, start, end, b)) return false;
    return chart.rows.every((_, r) => sectionsOf({ ...chart, across: now }, r) !== null);
  });
  if (by === undefined) throw new EditError('Wherever the lines stand, they run through a stitch.');
  return setAcross(chart, moved(by));
}

/** Whether the columns that the lines would leave on one side are those that they would take in on the other. */
function isSamePiece(chart: Chart, start: number, end: number, by: number): boolean {
  const [from, to] = by > 0 ? [start, end] : [start + by, end + by];
  return chart.rows.every((row, r) => {
    if (sectionsOf(chart, r) === null) return true;
    const cells = (at: number) => cellsIn(row, at, Math.abs(by), chart);
    return sameStitches(cells(from), cells(to));
  });
}

/** No stitch lies across a repeat line, where a pass would have to end in its middle. */
export const overRepeatLine = rowCheck(
  { tells: { 'crossing-over-repeat-line': 'Across the repeat line' }, level: 'error' },
  ({ chart, book }, r) => {
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
          message: `${rowTitle(chart, r + 1)}: the ${name} in columns ${from + 1}–${from + spanOf(stitch, book)} lies across the repeat line after column ${line}, so it cannot be written as a repeat.${jog === null ? '' : ` Let its repeat begin ${counted(Math.abs(jog), 'stitch')} ${jog > 0 ? 'later' : 'earlier'}.`}`,
          mend: [
            ...(jog === null
              ? []
              : [{ label: beginLabel(chart, r, jog), edit: (c: Chart) => setJog(c, r, jog) }]),
            { label: 'Move the lines of the repeat clear of it, in all rows', edit: moveLines },
            ...(isCrossing(stitch)
              ? ASIDE.map((by) => ({
                  label: `Move the crossing ${counted(Math.abs(by), 'column')} to the ${by > 0 ? 'left' : 'right'}`,
                  edit: (c: Chart) => moveAlong(c, r, from, by),
                }))
              : []),
          ],
        },
      ];
    });
  },
);
