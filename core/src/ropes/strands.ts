import { rowFacts } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { workChart } from '../needle/needle.js';
import { isCrossing, makesOf, spanOf } from '../stitches/book.js';
import { workedAfter } from '../stitches/crossing.js';
import { faceOf } from '../stitches/face.js';

/** For each row (from the bottom) and each column (from the right, from 0): 1 where a straight cord shows. */
export type CordCells = readonly Uint8Array[];

const known = new WeakMap<Chart['rows'], CordCells>();

/**
 * The plain knit cells that belong to a rope: each knit stitch is followed upward through the crossings as a
 * strand, and a strand that is crossed as a knit stitch anywhere is a cord along its whole length.
 */
export function cordCells(chart: Chart): CordCells {
  const found = known.get(chart.rows);
  if (found) return found;
  const book = bookOf(chart);
  const works = workChart(chart);
  let next = 0;
  let strands: number[] = Array.from({ length: works[0]!.takes }, () => next++);
  const roped = new Set<number>();
  const byRow = works.map(({ from }, r) => {
    strands = from.map((i) => (i < 0 ? next++ : (strands[i] ?? next++)));
    let loop = 0;
    for (const stitch of chart.rows[r]!) {
      if (isCrossing(stitch))
        workedAfter(stitch).forEach((w, i) => {
          if (faceOf(w) === 'knit') roped.add(strands[loop + i]!);
        });
      loop += makesOf(stitch, book);
    }
    return strands;
  });
  const cells = chart.rows.map((row, r) => {
    const marks = new Uint8Array(Math.max(chart.width, rowFacts(row, book).span));
    let column = 0;
    let loop = 0;
    for (const stitch of row) {
      if (stitch === 'k' && roped.has(byRow[r]![loop]!)) marks[column] = 1;
      column += spanOf(stitch, book);
      loop += makesOf(stitch, book);
    }
    return marks;
  });
  known.set(chart.rows, cells);
  return cells;
}
