import { startOf } from '../chart/frame.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { rowCrossings, rowFacts, rowUse } from '../chart/rows.js';
import { keptWhereSame, memory, ofEvery, remembered, rowByRow, sameInputs, upwards } from '../remember.js';
import { fromStart, workChart, type RowWork } from '../needle/needle.js';
import { makesOf, type StitchBook } from '../stitches/book.js';
import { workedAfter } from '../stitches/crossing.js';
import { faceOf } from '../stitches/face.js';

/** For each row (from the bottom) and each column (from the right, from 0): 1 where a straight cord shows. */
export type CordCells = readonly Uint8Array[];

/** Which strand each loop after a row belongs to, and the strands that the row crosses as knit stitches. */
interface RowStrands {
  after: readonly number[];
  roped: readonly number[];
}

let next = 0;

/** The strands that begin in a row: the same ones however often the row is followed. */
const begunIn = remembered((_row: Row, _r: number, n: number): readonly number[] =>
  Array.from({ length: n }, () => next++),
);

const kept = keptWhereSame<Row, RowStrands>(
  (a, b) => sameInputs(a.after, b.after) && sameInputs(a.roped, b.roped),
);

/** Follows the strands through one row. A row that moves no loop passes the very same list on. */
function follow(
  row: Row,
  r: number,
  { from }: RowWork,
  below: readonly number[],
  start: number,
  book: StitchBook,
): RowStrands {
  const straight = from.length === below.length && from.every((f, i) => f === i);
  const begun = straight ? [] : begunIn(row, r, from.length);
  const after = straight ? below : from.map((f, i) => below[f] ?? begun[i]!);
  const roped: number[] = [];
  const met = fromStart(after, start);
  for (const { crossing, loop } of rowCrossings(row, book))
    workedAfter(crossing).forEach((w, i) => {
      if (faceOf(w) === 'knit') roped.push(met[loop + i]!);
    });
  return kept(row, { after, roped });
}

/** The strands of a cast-on; the same list for the same number, so that what is followed can be remembered. */
const castOnStrands = ofEvery((loops: number): readonly number[] =>
  Array.from({ length: loops }, () => next++),
);

let lastRows: readonly RowStrands[] = [];
let lastRoped: ReadonlySet<number> = new Set();

/** The set of roped strands; the last one again when nothing in it has changed. */
function ropedStrands(rows: readonly RowStrands[]): ReadonlySet<number> {
  const before = lastRows;
  lastRows = rows;
  // Most rows are as they were, and one that is another mostly crosses the same strands, or none.
  if (
    rows.length === before.length &&
    rows.every((row, r) => row === before[r] || sameInputs(row.roped, before[r]!.roped))
  )
    return lastRoped;
  const roped = new Set<number>();
  for (const r of rows) for (const strand of r.roped) roped.add(strand);
  const same = roped.size === lastRoped.size && [...roped].every((s) => lastRoped.has(s));
  if (!same) lastRoped = roped;
  return lastRoped;
}

function markRow(
  row: Row,
  met: readonly number[],
  garter: readonly boolean[],
  roped: ReadonlySet<number>,
  width: number,
  book: StitchBook,
) {
  const { starts, span } = rowFacts(row, book);
  const cells = new Uint8Array(Math.max(width, span));
  if (!rowUse(row).has('k')) return cells;
  let loop = 0;
  for (let i = 0; i < row.length; i++) {
    if (row[i] === 'k' && roped.has(met[loop]!) && !garter[loop]) cells[starts[i]!] = 1;
    loop += makesOf(row[i]!, book);
  }
  return cells;
}

const NOWHERE: readonly boolean[] = [];
const garters = memory<readonly boolean[]>();

/**
 * For each loop after a row, whether it is of garter: knit between two purls that it continues and that continue it. Ground that ropes
 * travel over is crossed as knit, and is no rope for that.
 */
function garterIn(works: readonly RowWork[], r: number): readonly boolean[] {
  const [below, here, above] = [works[r - 1], works[r]!, works[r + 1]];
  if (!below && !above) return NOWHERE;
  return garters(here, [below?.loops, above], () => {
    const isPurlAbove = new Set<number>();
    above?.from.forEach((from, i) => {
      if (above.loops[i]!.face === 'purl') isPurlAbove.add(from);
    });
    const of = here.loops.map(
      ({ face }, i) =>
        face === 'knit' &&
        (!below || below.loops[here.from[i]!]?.face === 'purl') &&
        (!above || isPurlAbove.has(i)),
    );
    return of.includes(true) ? of : NOWHERE;
  });
}

/** A row's strands, with which of its loops are garter. */
interface RowDrawn extends RowStrands {
  garter: readonly boolean[];
}
const drawn = memory<RowDrawn>();

const strandsAlong = upwards<RowWork, RowStrands>();
const cellsAlong = rowByRow<RowDrawn, Uint8Array>();

function followed(chart: Chart): readonly RowStrands[] {
  const { rows, jogs, construction, width } = chart;
  const book = bookOf(chart);
  return strandsAlong(
    workChart(chart),
    [jogs, construction, width, book],
    ({ element: work, carried, r }) => {
      const below = carried?.after ?? castOnStrands(work.takes);
      return follow(rows[r]!, r, work, below, startOf(chart, r), book);
    },
  );
}

/** For each row, the strand of each loop after it, from the right: a strand keeps its number through all crossings. */
export const strandsOf = (chart: Chart): readonly (readonly number[])[] =>
  followed(chart).map(({ after }) => after);

/**
 * The plain knit cells that belong to a rope: each knit stitch is followed upward through the crossings as a
 * strand, and a strand that is crossed as a knit stitch anywhere is a cord along its whole length.
 */
export function cordCells(chart: Chart): CordCells {
  const { rows, jogs, construction, width } = chart;
  const book = bookOf(chart);
  const around = [jogs, construction, width, book];
  const strands = followed(chart);
  const roped = ropedStrands(strands);
  const works = workChart(chart);
  const elements = strands.map((row, r) => {
    const garter = garterIn(works, r);
    return drawn(row, [garter], () => ({ ...row, garter }));
  });
  return cellsAlong(elements, [...around, roped], ({ element: { after, garter }, r }) => {
    const start = startOf(chart, r);
    return markRow(rows[r]!, fromStart(after, start), fromStart(garter, start), roped, width, book);
  });
}
