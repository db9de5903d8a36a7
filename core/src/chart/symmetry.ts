import {
  hasMirror,
  isCrossing,
  kindOf,
  mirrorStitch,
  spanOf,
  type Stitch,
  type StitchBook,
} from '../stitches/book.js';
import { crossing, type Crossing } from '../stitches/crossing.js';
import type { Worked } from '../stitches/face.js';
import { become, EditError, andThen, unchanged, type Edit } from './edit.js';
import { placeStitches } from './edits.js';
import { spanOfAll } from './rows.js';
import { bookOf, type Chart, type Mirror, type Row } from './schema.js';
import type { CellsStep } from './steps.js';

/**
 * The symmetry a chart is drawn by: what is set on one side of its line is set on the other, mirrored, or turned half
 * round about a point. Places of the line count in half columns from the right, and in half rows from the bottom.
 */

/** Sets or lifts the line of symmetry. @throws EditError where it stands outside the chart */
export function setMirror(chart: Chart, mirror: Mirror | null): Edit {
  if (mirror && mirror.axis >= 2 * chart.width)
    throw new EditError(`The mirror line stands beyond the ${chart.width} columns of the chart.`);
  if (mirror?.turn !== undefined && mirror.turn >= 2 * chart.rows.length)
    throw new EditError(
      `The point of the half turn stands beyond the ${chart.rows.length} rows of the chart.`,
    );
  return become(chart, { ...chart, mirror });
}

const reversed = (group: readonly Worked[]) => [...group].reverse();

/**
 * A crossing turned half round: it leans as it did and the same group lies in front, but each is met from its other
 * end.
 */
export const turnedCrossing = (c: Crossing): Crossing =>
  crossing(c.lean, reversed(c.front), reversed(c.back), reversed(c.centre));

/** A stitch as the other side of the line has it. @throws EditError where it has no image there */
function imageOf(stitch: Stitch, isTurned: boolean, book: StitchBook): Stitch {
  if (isCrossing(stitch)) return isTurned ? turnedCrossing(stitch) : mirrorStitch(stitch, book);
  const kind = kindOf(stitch, book);
  // Turned upside down, an increase would be a decrease; and a stitch that leans, leans as it did.
  if (isTurned ? kind.takes !== kind.makes : !hasMirror(stitch, book))
    throw new EditError(`A ${kind.name} has no image on the other side of the line; set it alone.`);
  return isTurned ? stitch : mirrorStitch(stitch, book);
}

/** The images of what a step set: where they stand, and what stands there; null where it would reach beyond the chart. */
function imageOfStep(
  step: CellsStep,
  { axis, turn }: Mirror,
  chart: Chart,
): { row: number; column: number; stitches: Row } | null {
  const book = bookOf(chart);
  const span = spanOfAll(step.now, book);
  const column = axis - step.column - span;
  const row = turn === undefined ? step.row : turn - 1 - step.row;
  if (column < 0 || column + span > chart.width || row < 0 || row >= chart.rows.length) return null;
  return {
    row,
    column,
    stitches: [...step.now].reverse().map((s) => imageOf(s, turn !== undefined, book)),
  };
}

/** Cells from one column up to, not including, another. */
const meet = (a: number, aEnd: number, b: number, bEnd: number) => a < bEnd && b < aEnd;

/**
 * An edit with its image on the other side of the chart's line of symmetry, as one edit. What is set over the line
 * itself stays as it was set; what lies beyond the chart is left off.
 *
 * @throws EditError where a stitch has no image, or the edit wins or loses columns
 */
export function mirrorAlong(edit: Edit, mirror: Mirror | null): Edit {
  if (!mirror || !edit.steps.length) return edit;
  if (edit.steps.some((s) => s.kind === 'rows' || s.kind === 'columns'))
    throw new EditError(
      'This wins or loses rows or columns, and is set on one side only: lift the line of symmetry first.',
    );
  const steps = edit.steps.filter((s): s is CellsStep => s.kind === 'cells');
  const { chart } = edit;
  const book = bookOf(chart);
  return steps.reduce((made, step) => {
    const image = imageOfStep(step, mirror, chart);
    if (!image) return made;
    const end = step.column + spanOfAll(step.now, book);
    let at = image.column;
    return image.stitches.reduce(
      (m, stitch) => {
        const [from, to] = [at, at + spanOf(stitch, book)];
        at = to;
        const isOver = image.row === step.row && meet(from, to, step.column, end);
        return isOver ? m : andThen(m, (c) => placeStitches(c, image.row, from, [stitch]));
      },
      andThen(made, unchanged),
    );
  }, edit);
}
