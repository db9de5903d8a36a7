import { expandRow } from '../chart/frame.js';
import { bookOf, type Row } from '../chart/schema.js';
import type { Stitch, StitchBook } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { groundCells, selvageCells, type ClothRow } from '../sizes/cloths.js';
import { isBeyondMiddle, type Laid, type LaidPart } from './lay-out.js';
import { PieceFault } from './fault.js';
import { isChartPart } from './standing.js';
import { panelRowAt } from './up.js';

/** The rows of a piece between its borders: what each part works in them. */

/** The cells, in a row's own columns, of the loops that it wants to find: as they present on the right side. */
export function facesWanted(row: Row, book: StitchBook): Stitch[] {
  const cells: Stitch[] = [];
  // Loops for which a stitch has no column of its own wait for the next that is free.
  let waiting: Stitch[] = [];
  for (const stitch of row) {
    const { takes, span, faces, continues } = book.facts(stitch);
    const wanted = Array.from({ length: takes }, (_, i): Stitch => {
      if (faces === 'below') return 'k';
      const made = continues.indexOf(i);
      return (faces[made < 0 ? 0 : made] ?? 'knit') === 'knit' ? 'k' : 'p';
    });
    waiting = [...waiting, ...wanted];
    for (let c = 0; c < span; c++) cells.push(waiting.shift() ?? NO_STITCH);
  }
  if (waiting.length) throw new PieceFault('Its first row takes more stitches than it has columns.');
  return cells;
}

/** One row of a part's chart, its repeat worked so often. */
function chartRow({ chart, times, part, name }: LaidPart, r: number): Row {
  const row = expandRow(chart!, r, times);
  if (!row) throw new PieceFault(`Row ${r + 1} of ${name} cannot be cut at its repeat.`, part.id);
  return row;
}

/** What is asked of a row of the piece above its border. */
export interface BodyRow extends ClothRow {
  /** From 1. */
  number: number;
  last: number;
}

/** The cells of one part in a row of the piece, from the right. */
export function partCells(laid: Laid, i: number, row: BodyRow): Row {
  const of = laid.parts[i]!;
  const { part, chart } = of;
  const isLeft = isBeyondMiddle(laid.parts, i);
  if (part.kind === 'selvage') return selvageCells(part, row, isLeft);
  if (part.kind === 'ground') return groundCells(part.cloth, of.stitches, row, isLeft);
  if (!isChartPart(part) || !chart) return [];
  const up = of.going!;
  const r = panelRowAt(up, row.number, row.last);
  return r === null ? facesWanted(chartRow(of, up.begins - 1), bookOf(chart)) : chartRow(of, r - 1);
}
