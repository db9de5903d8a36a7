import { EditError, andThen, type Edit } from '../chart/edit.js';
import { placeStitches } from '../chart/edits.js';
import { linesAcross, startOf } from '../chart/frame.js';
import { indexAt, rowFacts, takesOfAll } from '../chart/rows.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { rowTitle } from '../construction/index.js';
import { isCrossing, type Stitch } from '../stitches/book.js';
import {
  crossing,
  crossingSize,
  flipCrossing,
  stitchesBefore,
  workedAfter,
  type Crossing,
} from '../stitches/crossing.js';
import { WORKED, type Face, type Worked } from '../stitches/face.js';
import { castOnNeedle, fromStart, workChart } from './needle.js';

/** Mends of one crossing: turned over, moved by some columns or rows, its faces given back. Rows and columns from 0. */

/** The crossing that begins at a cell. @throws EditError where none does */
export function crossingAt(chart: Chart, r: number, column: number): Crossing {
  const book = bookOf(chart);
  const row: Row = chart.rows[r] ?? [];
  const i = indexAt(row, column, book);
  const stitch = row[i];
  if (stitch === undefined || !isCrossing(stitch) || rowFacts(row, book).starts[i] !== column)
    throw new EditError(`No crossing begins in column ${column + 1} of row ${r + 1}.`);
  return stitch;
}

/** Turns crossings over: what lay behind lies in front, and every loop ends where it did. @throws EditError */
export function turnOver(chart: Chart, places: readonly { row: number; column: number }[]): Edit {
  return places.reduce(
    (edit, { row, column }) =>
      andThen(edit, (c) => placeStitches(c, row, column, [flipCrossing(crossingAt(c, row, column))])),
    { chart, steps: [] } as Edit,
  );
}

/** The faces with which the loops of a crossing enter its row, from the right. */
export function entersWith(chart: Chart, r: number, column: number, loops: number): Face[] {
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  const below = r > 0 ? workChart(chart)[r - 1]!.loops : castOnNeedle(row, book);
  const met = fromStart(below, startOf(chart, r));
  const first = takesOfAll(row.slice(0, indexAt(row, column, book)), book);
  return met.slice(first, first + loops).map(({ face }) => face);
}

const plain = (face: Face): Worked => (face === 'knit' ? 'k' : 'p');

/** Whether the cells from a column leftwards are all plain stitches of one loop and one column. */
export function isPlain(chart: Chart, r: number, column: number, columns: number): boolean {
  const book = bookOf(chart);
  const row = chart.rows[r];
  if (!row || column < 0 || column + columns > rowFacts(row, book).span) return false;
  return Array.from({ length: columns }, (_, i) => row[indexAt(row, column + i, book)]!).every((s) =>
    (WORKED as readonly Stitch[]).includes(s),
  );
}

/** @throws EditError where a line of the repeat would run through a crossing set there */
function refuseOverLines(chart: Chart, r: number, column: number, size: number): void {
  if (linesAcross(chart, r).some((line) => line > column && line < column + size))
    throw new EditError(
      `There the crossing would lie across a line of the repeat in ${rowTitle(chart, r + 1).toLowerCase()}.`,
    );
}

/**
 * Moves a crossing along its row by some columns, to the left where positive. The plain stitches it gives up go on as
 * they present.
 *
 * @throws EditError where something else than plain stitches is in the way
 */
export function moveAlong(chart: Chart, r: number, column: number, by: number): Edit {
  const cross = crossingAt(chart, r, column);
  const size = crossingSize(cross);
  const beside = by > 0 ? column + size : column + by;
  if (!isPlain(chart, r, beside, Math.abs(by)))
    throw new EditError(
      `${rowTitle(chart, r + 1)} has no plain stitches beside the crossing for it to move over.`,
    );
  refuseOverLines(chart, r, column + by, size);
  const faces = entersWith(chart, r, column, size).map(plain);
  return by > 0
    ? placeStitches(chart, r, column, [...faces.slice(0, by), cross])
    : placeStitches(chart, r, column + by, [cross, ...faces.slice(size + by)]);
}

/**
 * Moves a crossing to another row: up where positive. The rows between show its loops uncrossed, or crossed, as they
 * now are.
 *
 * @throws EditError where the rows between have anything but plain stitches there
 */
export function moveUp(chart: Chart, r: number, column: number, by: number): Edit {
  const cross = crossingAt(chart, r, column);
  const size = crossingSize(cross);
  const to = r + by;
  const between = by > 0 ? [r + 1, to] : [to, r - 1];
  for (let q = between[0]!; q <= between[1]!; q++)
    if (!isPlain(chart, q, column, size) || startOf(chart, q) !== startOf(chart, r))
      throw new EditError(
        `${rowTitle(chart, q + 1)} has no plain stitches there for the crossing to move over.`,
      );
  refuseOverLines(chart, to, column, size);
  const entering = entersWith(chart, r, column, size).map(plain);
  const after = workedAfter(cross);
  const faces = by > 0 ? entering : after;
  let edit = placeStitches(chart, to, column, [cross]);
  for (let q = by > 0 ? r : to + 1; q < (by > 0 ? to : r + 1); q++)
    edit = andThen(edit, (c) => placeStitches(c, q, column, faces));
  return edit;
}

/** Gives the stitches of a crossing the faces with which its loops enter, where `isToo` says so of a loop. */
export function restoreFaces(
  chart: Chart,
  r: number,
  column: number,
  isToo: (loop: number) => boolean,
): Edit {
  const cross = crossingAt(chart, r, column);
  const faces = entersWith(chart, r, column, crossingSize(cross));
  const groups: Record<'front' | 'centre' | 'back', Worked[]> = { front: [], centre: [], back: [] };
  stitchesBefore(cross).forEach(({ group, worked }, i) =>
    groups[group].push(isToo(i) ? plain(faces[i] ?? 'knit') : worked),
  );
  return placeStitches(chart, r, column, [crossing(cross.lean, groups.front, groups.back, groups.centre)]);
}
