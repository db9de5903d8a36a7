import { EditError, andThen, unchanged, type Edit } from '../chart/edit.js';
import { placeStitches } from '../chart/edits.js';
import { indexAt, rowFacts } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { takesTurns, wayOf, sideOf } from '../construction/index.js';
import { crossing } from '../stitches/crossing.js';
import type { Worked } from '../stitches/face.js';
import type { Stitch } from '../stitches/book.js';
import { carryUp } from './carry.js';

/** Knit stitches beside each other in a row: columns from 0, right. */
export interface RopeAt {
  row: number;
  column: number;
  stitches: number;
}

/** A rope drawn where none is begins with so many stitches. */
const NEW_ROPE = 2;
/** Wider runs of knit stitches are ground, not a rope. */
const WIDEST_ROPE = 6;
/** In the round a rope travels every other round, as in flat work on right-side rows. */
const ROUNDS_BETWEEN = 2;

/** The rope that passes through a cell: the run of plain knit cells it stands in; a new one on purl ground. */
export function ropeAt(chart: Chart, row: number, column: number): RopeAt {
  const book = bookOf(chart);
  const cells = chart.rows[row]!;
  const isKnit = (c: number) => cells[indexAt(cells, c, book)] === 'k';
  if (!isKnit(column)) return { row, column, stitches: Math.min(NEW_ROPE, chart.width - column) };
  let [from, to] = [column, column];
  while (isKnit(from - 1)) from--;
  while (isKnit(to + 1)) to++;
  if (to - from + 1 <= WIDEST_ROPE) return { row, column: from, stitches: to - from + 1 };
  throw new EditError('The knit stitches here are wider than a rope. Begin on a rope, or on purl ground.');
}

/** The faces of the cells of a row from a column leftwards, as a row above works them; null where not all are plain. */
function plainFaces(chart: Chart, r: number, column: number, count: number): Worked[] | null {
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  if (column < 0 || column + count > Math.min(chart.width, rowFacts(row, book).span)) return null;
  const faces = Array.from({ length: count }, (_, i) => row[indexAt(row, column + i, book)]);
  return faces.every((s): s is Worked => s === 'k' || s === 'p') ? faces : null;
}

/**
 * A rope carried from where it stands to where a hand draws it: `wanted` gives, for each row above, the column its
 * right edge should come to. On each row that may cross it moves as far as it can, at most its own width, over what
 * lies beside it: purl ground stays purl under it. Where a stitch is in the way it goes on straight.
 *
 * @throws EditError where there is no rope to draw
 */
export function drawRope(chart: Chart, rope: RopeAt, wanted: (row: number) => number | undefined): Edit {
  const { row, stitches } = rope;
  const knit = Array<Stitch>(stitches).fill('k');
  const begun = carryUp(chart, placeStitches(chart, row, rope.column, knit));
  let at = rope.column;
  let last = row;
  let edit = andThen(unchanged(chart), () => begun);
  for (let r = row + 1; r < chart.rows.length; r++) {
    const drawn = wanted(r);
    if (drawn === undefined) break;
    const target = Math.max(0, Math.min(drawn, chart.width - stitches));
    const mayCross = takesTurns(wayOf(chart))
      ? sideOf(chart, r) === 'RS'
      : r - last >= ROUNDS_BETWEEN || last === row;
    const by = Math.min(Math.abs(target - at), stitches);
    if (!mayCross || by === 0) continue;
    const isLeft = target > at;
    const [from, under] = isLeft ? [at, at + stitches] : [at - by, at - by];
    const back = plainFaces(edit.chart, r, under, by);
    if (!back || !plainFaces(edit.chart, r, at, stitches)) continue;
    const front = Array<Worked>(stitches).fill('k');
    const placed = placeStitches(edit.chart, r, from, [crossing(isLeft ? 'left' : 'right', front, back)]);
    const carried = carryUp(edit.chart, placed);
    edit = andThen(edit, () => carried);
    at += isLeft ? by : -by;
    last = r;
  }
  return edit;
}
