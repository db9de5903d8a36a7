import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { rowCrossings, rowFacts, rowUse } from '../chart/rows.js';
import { workChart, type RowWork } from '../needle/needle.js';
import { makesOf, type StitchBook } from '../stitches/book.js';
import { workedAfter } from '../stitches/crossing.js';
import { faceOf } from '../stitches/face.js';

/** For each row (from the bottom) and each column (from the right, from 0): 1 where a straight cord shows. */
export type CordCells = readonly Uint8Array[];

/** Which strand each loop after a row belongs to, and the strands that the row crosses as knit stitches. */
interface RowStrands {
  below: readonly number[];
  after: readonly number[];
  roped: readonly number[];
}

let next = 0;
const followed = new WeakMap<Row, RowStrands & { book: StitchBook }>();

/** Follows the strands through one row. A row that moves no loop passes the very same list on. */
function follow(row: Row, { from }: RowWork, below: readonly number[], book: StitchBook): RowStrands {
  const known = followed.get(row);
  if (known && known.below === below && known.book === book) return known;
  const straight = from.length === below.length && from.every((f, i) => f === i);
  const after = straight ? below : from.map((i) => (i < 0 ? next++ : (below[i] ?? next++)));
  const roped: number[] = [];
  for (const { crossing, loop } of rowCrossings(row, book))
    workedAfter(crossing).forEach((w, i) => {
      if (faceOf(w) === 'knit') roped.push(after[loop + i]!);
    });
  const found = { below, after, roped, book };
  followed.set(row, found);
  return found;
}

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

interface Marked {
  after: readonly number[];
  roped: ReadonlySet<number>;
  width: number;
  cells: Uint8Array;
}
const marked = new WeakMap<Row, Marked>();

function markRow(row: Row, { after }: RowStrands, roped: ReadonlySet<number>, chart: Chart): Uint8Array {
  const known = marked.get(row);
  const book = bookOf(chart);
  const width = Math.max(chart.width, rowFacts(row, book).span);
  if (known && known.after === after && known.roped === roped && known.width === width) return known.cells;
  const cells = new Uint8Array(width);
  if (rowUse(row).has('k')) {
    const { starts } = rowFacts(row, book);
    let loop = 0;
    for (let i = 0; i < row.length; i++) {
      if (row[i] === 'k' && roped.has(after[loop]!)) cells[starts[i]!] = 1;
      loop += makesOf(row[i]!, book);
    }
  }
  marked.set(row, { after, roped, width, cells });
  return cells;
}

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
  let below = castOnStrands(works[0]!.takes);
  const rows = works.map((work, r) => {
    const strands = follow(chart.rows[r]!, work, below, book);
    below = strands.after;
    return strands;
  });
  const roped = ropedStrands(rows);
  const cells = chart.rows.map((row, r) => markRow(row, rows[r]!, roped, chart));
  known.set(chart.rows, cells);
  return cells;
}
