import { isWorkedAgain, repeatsAcross, startOf, timesOf, withRepeats, type Met } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { wayOf } from '../construction/index.js';
import { isCrossing, kindOf, takesOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { NO_STITCH, type StitchKind } from '../stitches/kinds.js';
import { modulo } from '../values.js';
import { fromStart } from '../needle/needle.js';
import { bookOf, type Row } from '../chart/schema.js';
import { unfold } from '../chart/unfold.js';
import { workChart } from '../needle/needle.js';
import { remembered } from '../remember.js';
import { chartCheck, rowCheck, type Found, type Knitted } from './finding.js';

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
export const toWorkInto = rowCheck(
  { tells: { 'nothing-to-work-into': 'Nothing to work into' }, level: 'error' },
  (knitted, r) => {
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
        if (wayOf(chart).hasEdges && !(beside(met, i, -1) && beside(met, i, 1)))
          tell(stitch, from, 'stands at the edge: there is no bar beside the last stitch to lift');
      } else if (out) {
        const neighbour = beside(met, i, out === 'right' ? -1 : 1);
        if (!neighbour || takesOf(neighbour.stitch, book) === 0)
          tell(stitch, from, `has no stitch on its ${out} to lift`);
        else if (r === 0) tell(stitch, from, 'has no row below it to lift from');
      }
    });
    return [...found.values()];
  },
);

/** What a loop came of: drawn through a stitch (true), made out of nothing (false), or slipped: the loop of the row below it still is. */
type Origin = boolean | number;

/** The origins of the loops after a row, from the right as the needle lies when its marker has come back. */
const originsOf = remembered(
  (row: Row, book: StitchBook, start: number, below: number): readonly Origin[] => {
    const origins: Origin[] = [];
    const { meets } = rowFacts(row, book);
    row.forEach((stitch, at) => {
      const { takes, makes, faces } = book.facts(stitch);
      for (let i = 0; i < makes; i++)
        origins.push(faces === 'below' ? modulo(meets[at]! + i + start, below || 1) : takes > 0);
    });
    return fromStart(origins, -start);
  },
);

/** Whether a loop of the needle after row `r` has a stitch below it: it was drawn through one, however often it was slipped since. */
function hasStitchBelow(
  { chart, works }: Pick<Knitted, 'chart' | 'works'>,
  r: number,
  loop: number,
): boolean {
  const book = bookOf(chart);
  for (let at = loop, q = r; q >= 0; q--) {
    const below = q > 0 ? works[q - 1]!.makes : works[0]!.takes;
    const origin = originsOf(chart.rows[q]!, book, startOf(chart, q), below)[at];
    if (typeof origin !== 'number') return origin ?? true;
    at = origin;
  }
  return false;
}

/**
 * A lifted increase takes up the stitch below its neighbour's loop: there is none where that loop was only made in the row below,
 * or cast on, and has been slipped since. A neighbour that is still to be worked is the next loop of the needle; one that
 * was worked is where a crossing has brought it; which of these it is, the hands say.
 */
export const liftsNothing = chartCheck(
  { tells: { 'nothing-to-work-into': 'Nothing to work into' }, level: 'error' },
  ({ chart: own, book }) => {
    const isLifted = (stitch: Stitch) => ['left', 'right'].includes(outOf(stitch, book) ?? '');
    if (!own.rows.some((row) => rowFacts(row, book).runs.some(({ stitch }) => isLifted(stitch)))) return [];
    // Over the lines of the repeats a neighbour may be another one.
    const { chart, rowOf, columnOf } = unfold(own, repeatsAcross(own) ? 2 : 1, isWorkedAgain(own) ? 2 : 1);
    const works = workChart(chart);
    const told = new Map<string, Found>();
    for (const found of chart.rows.flatMap((row, r): Found[] => {
      if (r === 0 || !rowFacts(row, book).runs.some(({ stitch }) => isLifted(stitch))) return [];
      const start = startOf(chart, r);
      const n = works[r - 1]!.makes || 1;
      const here = fromStart(works[r]!.from, start);
      const { starts, meets } = rowFacts(row, book);
      let made = 0;
      return row.flatMap((stitch, i): Found[] => {
        const out = outOf(stitch, book);
        const next = out === 'right' ? meets[i]! - 1 : meets[i]!;
        const worked = here[out === 'right' ? made - 1 : made + 1] ?? -1;
        made += book.facts(stitch).makes;
        if (!isLifted(stitch)) return [];
        const neighbours = [modulo(next + start, n), ...(worked < 0 ? [] : [worked])];
        if (neighbours.every((loop) => hasStitchBelow({ chart, works }, r - 1, loop))) return [];
        const column = columnOf(rowOf(r), starts[i]!) + 1;
        const number = rowOf(r) + 1;
        return [
          {
            id: 'nothing-to-work-into',
            level: 'error',
            row: number,
            columns: [column, column],
            message: `Row ${number}: the ${kindOf(stitch as string, book).name} in column ${column} lifts over a loop that has no stitch below it.`,
          },
        ];
      });
    }))
      told.set(`${found.row} ${found.columns?.[0]}`, found);
    return [...told.values()];
  },
);
