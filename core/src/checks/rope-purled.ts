import { EditError, andThen, unchanged, type Edit } from '../chart/edit.js';
import { placeStitches } from '../chart/edits.js';
import { startOf } from '../chart/frame.js';
import { indexAt, loopColumns } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { restoreFaces } from '../needle/mend-crossing.js';
import { workChart } from '../needle/needle.js';
import type { Roped } from '../ropes/roped.js';
import { loopsOf, samePassage, type Stand } from '../ropes/stand.js';
import { faceIn, isOfRope, standIn, type Meeting } from '../ropes/trace.js';
import { crossingSize, LARGEST_GROUP } from '../stitches/crossing.js';
import { modulo } from '../values.js';
import { ropeRowCheck, type Found } from './finding.js';
import { counted } from '../values.js';

interface Cell {
  row: number;
  column: number;
}

/** The cells of a loop from the row below one downwards to another, as the chart has them; its place is counted after the row below. */
function cellsDown({ drawn, rowOf, columnOf }: Roped, place: number, r: number, to: number): Cell[] {
  const works = workChart(drawn);
  const cells: Cell[] = [];
  let at = place;
  for (let q = r - 1; q >= to && at >= 0; q--) {
    const row = drawn.rows[q]!;
    const columns = loopColumns(row, bookOf(drawn));
    const column = columns[modulo(at - startOf(drawn, q), columns.length || 1)];
    if (column === undefined) break;
    cells.push({ row: rowOf(q), column: columnOf(rowOf(q), column) });
    at = works[q]!.from[at] ?? -1;
  }
  return cells.reverse();
}

/** Cells knit again. @throws EditError where one of them is no plain purl */
const knitAgain = (chart: Chart, cells: readonly Cell[]): Edit =>
  cells.reduce((edit, { row, column }) => {
    const cell = chart.rows[row]![indexAt(chart.rows[row]!, column, bookOf(chart))];
    if (cell !== 'p') throw new EditError('It is no plain purl that breaks the rope here.');
    return andThen(edit, (c) => placeStitches(c, row, column, ['k']));
  }, unchanged(chart));

/** Stitches of ropes purled from one row on, told by that row; each is followed down from the row that shows it. */
function tell(roped: Roped, r: number, loops: readonly { place: number; purled: number }[]): Found[] {
  const byRow = new Map<number, Cell[][]>();
  for (const { place, purled } of loops) {
    const cells = cellsDown(roped, place, r, purled);
    const row = cells[0]?.row;
    if (row !== undefined) byRow.set(row, [...(byRow.get(row) ?? []), cells]);
  }
  return [...byRow].map(([row, found]) => {
    const columns = found.map(([lowest]) => lowest!.column + 1);
    const [from, to] = [Math.min(...columns), Math.max(...columns)];
    const cells = found.flat();
    return {
      id: 'rope-purled',
      level: 'caution',
      row: row + 1,
      columns: [from, to],
      message: `Row ${row + 1} purls ${counted(found.length, 'stitch')} of a rope in ${from === to ? `column ${from}` : `columns ${from}–${to}`}: a bump breaks the rope there.`,
      mend: {
        label: `Knit ${found.length === 1 ? 'it' : 'them'} in row ${row + 1}`,
        edit: (c) => knitAgain(c, cells),
      },
    };
  });
}

/** The stitches beside a place that crossed together with the one there, itself among them. */
const mates = (stands: readonly Stand[], place: number): Stand[] =>
  stands
    .slice(Math.max(0, place - LARGEST_GROUP), place + LARGEST_GROUP)
    .filter(({ last }) => last && samePassage(last, stands[place]!.last));

/** A crossing whose purls lie over stitches of a rope wipes them out. */
function wipedOut(roped: Roped, r: number, meeting: Meeting): Found[] {
  const { onPurl, crossing, column } = meeting;
  const loops = loopsOf(crossing);
  const isWiped = (i: number) =>
    loops[i]!.shows === 'purl' && isOfRope(standIn(meeting, i), faceIn(meeting, i), r, onPurl);
  const wiped = loops.filter((_, i) => isWiped(i)).length;
  const row = roped.rowOf(r);
  const at = roped.columnOf(row, column);
  const [from, to] = [at + 1, at + crossingSize(crossing)];
  return [
    {
      id: 'rope-purled',
      level: 'caution',
      row: row + 1,
      columns: [from, to],
      message: `Row ${row + 1}: the crossing in columns ${from}–${to} purls ${counted(wiped, 'stitch')} of a rope; the rope is lost there.`,
      mend: {
        label: `Knit ${wiped === 1 ? 'it' : 'them'} in the crossing`,
        edit: (c) => restoreFaces(c, row, at, isWiped),
      },
    },
  ];
}

/**
 * A rope's stitches are knit from its first crossing to its last. One of them purled while the others are knit, all of
 * them purled between two crossings, or purled by a crossing laid over them: each breaks the rope.
 */
export const ropePurled = ropeRowCheck(
  { tells: { 'rope-purled': 'Rope purled' }, level: 'caution' },
  ({ roped }, r) => {
    const { after, meetings, knitsAgain } = roped.rows[r]!;
    const found = meetings.flatMap((meeting) => (meeting.wipesOut ? wipedOut(roped, r, meeting) : []));
    if (r === 0) return found;
    const loops: { place: number; purled: number }[] = [];
    // Purled in part, and knit again in this row.
    if (knitsAgain)
      after.forEach(({ back, purled }, place) => {
        if (back === r && mates(after, place).some((mate) => mate.purled === null))
          loops.push({ place: workChart(roped.drawn)[r]!.from[place]!, purled: purled! });
      });
    // Purled as a whole, or up to this very row, and crossed again.
    const below = roped.rows[r - 1]!.after;
    for (const meeting of meetings) {
      if (!meeting.wasPurled) continue;
      loopsOf(meeting.crossing).forEach(({ group, shows }, i) => {
        const { purled, back } = standIn(meeting, i);
        const place = modulo(meeting.first + i + startOf(roped.drawn, r), below.length || 1);
        const isTold = back !== null && mates(below, place).some((mate) => mate.purled === null);
        if (shows === 'knit' && meeting.ropes[group] && purled !== null && !isTold)
          loops.push({ place, purled });
      });
    }
    return loops.length ? [...found, ...tell(roped, r, loops)] : found;
  },
);
