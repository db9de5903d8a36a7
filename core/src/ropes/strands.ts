import { startOf } from '../chart/frame.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { rowCrossings, rowFacts, rowUse } from '../chart/rows.js';
import { remembered } from '../remember.js';
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

/** Follows the strands through one row. A row that moves no loop passes the very same list on. */
const follow = remembered(
  (row: Row, { from }: RowWork, below: readonly number[], start: number, book: StitchBook): RowStrands => {
    const straight = from.length === below.length && from.every((f, i) => f === i);
    const after = straight ? below : from.map((i) => (i < 0 ? next++ : (below[i] ?? next++)));
    const roped: number[] = [];
    const met = fromStart(after, start);
    for (const { crossing, loop } of rowCrossings(row, book))
      workedAfter(crossing).forEach((w, i) => {
        if (faceOf(w) === 'knit') roped.push(met[loop + i]!);
      });
    return { after, roped };
  },
);

const castOns = new Map<number, readonly number[]>();

/** The strands of a cast-on; the same list for the same number, so that what is followed can be remembered. */
function castOnStrands(loops: number): readonly number[] {
  let strands = castOns.get(loops);
  if (!strands) castOns.set(loops, (strands = Array.from({ length: loops }, () => next++)));
  return strands;
}

let lastRoped: ReadonlySet<number> = new Set();

/** The set of roped strands; the last one again when nothing in it has changed. */
function ropedStrands(rows: readonly RowStrands[]): ReadonlySet<number> {
  const roped = new Set<number>();
  for (const r of rows) for (const strand of r.roped) roped.add(strand);
  const same = roped.size === lastRoped.size && [...roped].every((s) => lastRoped.has(s));
  if (!same) lastRoped = roped;
  return lastRoped;
}

/** The strands as a round meets them; the same list for the same strands. */
const fromStartKept = remembered((after: readonly number[], start: number) => fromStart(after, start));

const markRow = remembered(
  (row: Row, after: readonly number[], roped: ReadonlySet<number>, width: number, book: StitchBook) => {
    const { starts, span } = rowFacts(row, book);
    const cells = new Uint8Array(Math.max(width, span));
    if (!rowUse(row).has('k')) return cells;
    let loop = 0;
    for (let i = 0; i < row.length; i++) {
      if (row[i] === 'k' && roped.has(after[loop]!)) cells[starts[i]!] = 1;
      loop += makesOf(row[i]!, book);
    }
    return cells;
  },
);

const cellsOf = remembered(
  (
    rows: Chart['rows'],
    jogs: Chart['jogs'],
    construction: Chart['construction'],
    width: number,
    book: StitchBook,
    works: readonly RowWork[],
  ) => {
    const starts = rows.map((_, r) => startOf({ jogs, construction }, r));
    let below = castOnStrands(works[0]!.takes);
    const strands = works.map((work, r) => {
      const followed = follow(rows[r]!, work, below, starts[r]!, book);
      below = followed.after;
      return followed;
    });
    const roped = ropedStrands(strands);
    return rows.map((row, r) =>
      markRow(row, fromStartKept(strands[r]!.after, starts[r]!), roped, width, book),
    );
  },
);

/**
 * The plain knit cells that belong to a rope: each knit stitch is followed upward through the crossings as a
 * strand, and a strand that is crossed as a knit stitch anywhere is a cord along its whole length.
 */
export function cordCells(chart: Chart): CordCells {
  return cellsOf(chart.rows, chart.jogs, chart.construction, chart.width, bookOf(chart), workChart(chart));
}
