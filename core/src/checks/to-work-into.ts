import { rowFacts, rowUse, timesOf, withRepeats, type Met } from '../chart/rows.js';
import { isCrossing, kindOf, takesOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { Check, Finding } from './finding.js';

const leanOf = (stitch: Stitch, book: StitchBook) =>
  isCrossing(stitch) ? undefined : kindOf(stitch, book).leansOn;
const isMakeOne = (stitch: Stitch): boolean => !isCrossing(stitch) && /^m1[lr]p?$/.test(stitch);

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
export const toWorkInto: Check = ({ chart, book, works }) =>
  chart.rows.flatMap((row, r) => {
    const kinds = [...rowUse(row).keys()];
    if (!kinds.some((s) => leanOf(s, book) ?? isMakeOne(s))) return [];
    const met = withRepeats(row, chart, Math.min(timesOf(chart), 2));
    const found = new Map<number, Finding>();
    const tell = (stitch: Stitch, column: number, why: string) =>
      found.set(column, {
        id: 'nothing-to-work-into',
        level: 'error',
        row: r + 1,
        columns: [column, column],
        message: `Row ${r + 1}: the ${kindOf(stitch as string, book).name} in column ${column} ${why}.`,
      });
    met.forEach(({ stitch, from }, i) => {
      const lean = leanOf(stitch, book);
      if (lean) {
        const neighbour = beside(met, i, lean === 'right' ? -1 : 1);
        if (!neighbour || takesOf(neighbour.stitch, book) === 0)
          tell(stitch, from, `has no stitch on its ${lean} to lift`);
        else if (r === 0) tell(stitch, from, 'has no row below it to lift from');
      }
      // In the round the last stitch lies beside the first.
      if (isMakeOne(stitch) && chart.construction === 'flat' && !(beside(met, i, -1) && beside(met, i, 1)))
        tell(stitch, from, 'stands at the edge: there is no bar beside the last stitch to lift');
    });
    for (const { stitch, column } of liftsOverNew(row, r, { chart, book, works }))
      if (!found.has(column)) tell(stitch, column, 'lifts over a stitch that was only made in the row below');
    return [...found.values()];
  });

/** Lifted increases whose neighbour's loop was made in the row below: nothing lies under it. */
function liftsOverNew(
  row: readonly Stitch[],
  r: number,
  { chart, book, works }: Pick<Parameters<Check>[0], 'chart' | 'book' | 'works'>,
): { stitch: Stitch; column: number }[] {
  if (r === 0) return [];
  const below = works[r - 1]!.from;
  const { starts } = rowFacts(chart.rows[r]!, book);
  let taken = 0;
  return row.flatMap((stitch, i) => {
    const lean = leanOf(stitch, book);
    const loop = lean === 'right' ? taken - 1 : taken;
    taken += takesOf(stitch, book);
    return lean && below[loop] === -1 ? [{ stitch, column: starts[i]! + 1 }] : [];
  });
}
