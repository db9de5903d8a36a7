import { startOf, timesOf, withRepeats, type Met } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { constructionOf } from '../construction/construction.js';
import { isCrossing, kindOf, takesOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { NO_STITCH, type StitchKind } from '../stitches/kinds.js';
import { modulo } from '../values.js';
import { fromStart } from '../needle/needle.js';
import type { Found, Knitted, RowCheck } from './finding.js';

/** What an increase is drawn out of besides the loops it takes. */
const outOf = (stitch: Stitch, book: StitchBook): StitchKind['outOf'] =>
  isCrossing(stitch) ? undefined : kindOf(stitch, book).outOf;

/** The next stitch from a place in a row, gaps passed over. */
function beside(met: readonly Met[], i: number, way: 1 | -1): Met | undefined {
  let k = i + way;
  while (met[k]?.stitch === NO_STITCH) k += way;
  return met[k];
}

/**
 * An increase needs what it is made of: a lifted one the stitch below its neighbour, a make-one a bar between two
 * stitches. The neighbour is looked for over the repeat lines too.
 */
export const toWorkInto: RowCheck = (knitted, r) => {
  const { chart, book } = knitted;
  const row = chart.rows[r]!;
  if (!rowFacts(row, book).runs.some(({ stitch }) => outOf(stitch, book))) return [];
  const met = withRepeats(chart, r, Math.min(timesOf(chart), 2));
  const found = new Map<number, Found>();
  const tell = (stitch: Stitch, column: number, why: string) =>
    found.set(column, {
      id: 'nothing-to-work-into',
      level: 'error',
      row: r + 1,
      columns: [column, column],
      message: `Row ${r + 1}: the ${kindOf(stitch as string, book).name} in column ${column} ${why}.`,
    });
  met.forEach(({ stitch, from }, i) => {
    const out = outOf(stitch, book);
    if (out === 'bar') {
      // In the round the last stitch lies beside the first.
      if (constructionOf(chart).hasEdges && !(beside(met, i, -1) && beside(met, i, 1)))
        tell(stitch, from, 'stands at the edge: there is no bar beside the last stitch to lift');
    } else if (out) {
      const neighbour = beside(met, i, out === 'right' ? -1 : 1);
      if (!neighbour || takesOf(neighbour.stitch, book) === 0)
        tell(stitch, from, `has no stitch on its ${out} to lift`);
      else if (r === 0) tell(stitch, from, 'has no row below it to lift from');
    }
  });
  for (const { stitch, column } of liftsOverNew(knitted, r))
    if (!found.has(column)) tell(stitch, column, 'lifts over a stitch that was only made in the row below');
  return [...found.values()];
};

/**
 * Lifted increases whose neighbour's loop was made in the row below: nothing lies under it. A neighbour that is
 * still to be worked is the next loop of the needle; one that was worked is where a crossing has brought it.
 */
function liftsOverNew({ chart, book, works }: Knitted, r: number): { stitch: Stitch; column: number }[] {
  if (r === 0) return [];
  const row = chart.rows[r]!;
  const start = startOf(chart, r);
  const below = fromStart(works[r - 1]!.from, start);
  const n = below.length || 1;
  const here = fromStart(works[r]!.from, start).map((f) => (f < 0 ? f : modulo(f - start, n)));
  const { starts } = rowFacts(row, book);
  let taken = 0;
  let made = 0;
  return row.flatMap((stitch, i) => {
    const out = outOf(stitch, book);
    const neighbours = out === 'right' ? [taken - 1, here[made - 1]!] : [taken, here[made + 1]!];
    taken += takesOf(stitch, book);
    made += book.facts(stitch).makes;
    const isLifted = out === 'left' || out === 'right';
    return isLifted && neighbours.some((loop) => below[loop] === -1)
      ? [{ stitch, column: starts[i]! + 1 }]
      : [];
  });
}
