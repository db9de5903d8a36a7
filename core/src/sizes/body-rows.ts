import { expandRow } from '../chart/frame.js';
import type { Piece, Size } from '../chart/piece.js';
import { bookOf, LIMITS, type Row } from '../chart/schema.js';
import { constructionOf } from '../construction/construction.js';
import { countOver, lengthFor } from '../measures/gauge.js';
import type { Stitch, StitchBook } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { borderRows } from './border.js';
import { groundCells, selvageCells, type ClothRow } from './cloths.js';
import { isBeyondMiddle, isChartPart, type Laid, type LaidPart } from './lay-out.js';
import { PieceFault } from './piece-fault.js';
import { lengthWays, panelRowAt, type LengthWay, type MeetAgain, type PanelUp } from './up.js';

/** The rows of a piece between its borders: how many there are, and what each part works in them. */

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
export function partCells(laid: Laid, i: number, ups: readonly (PanelUp | null)[], row: BodyRow): Row {
  const of = laid.parts[i]!;
  const { part, chart } = of;
  const isLeft = isBeyondMiddle(laid.parts, i);
  if (part.kind === 'selvage') return selvageCells(part, row, isLeft);
  if (part.kind === 'ground') return groundCells(part.cloth, of.stitches, row, isLeft);
  if (!isChartPart(part) || !chart) return [];
  const up = ups[i]!;
  const r = panelRowAt(up, row.number, row.last);
  return r === null ? facesWanted(chartRow(of, up.begins - 1), bookOf(chart)) : chartRow(of, r - 1);
}

/** Rows of the parts that are put together where no length is wished for: to where all have been begun anew. */
const MOST_BODY = LIMITS.rows - 420;

/** Rows of the borders, with those that lead to and from them where counts are to change. */
export const bordersHigh = ({ bottom, top }: Piece['border']): number =>
  [bottom, top].reduce(
    (sum, border) => sum + (border ? borderRows(border) + (border.changes === 'none' ? 0 : 1) : 0),
    0,
  );

/** The part whose rows are made to come out: the one chosen, or the first panel. */
export const leadOf = ({ parts }: Laid, { length: { lead } }: Piece): LaidPart | null =>
  parts.find((p) => p.part.id === lead && p.chart) ?? parts.find((p) => p.chart) ?? null;

/** The rows of the parts for a wished length. */
export function bodyRows(
  laid: Laid,
  piece: Piece,
  size: Size,
  ups: readonly (PanelUp | null)[],
  meet: MeetAgain,
): { rows: number; way: LengthWay | null; begins: number | null } {
  const rowGauge = (piece.gauge.whole ?? piece.gauge.plain)?.rows;
  const lead = leadOf(laid, piece);
  const panels = ups.filter((u) => u !== null);
  const high = Math.max(
    1,
    ...panels.map(({ rows, start }) => start - 1 + rows.setup + rows.repeat + rows.closing),
  );
  const pass = Math.min(MOST_BODY, meet.every === null ? high : Math.max(high, meet.from - 1 + meet.every));
  if (size.length === null || !rowGauge) return { rows: pass, way: null, begins: null };
  const wish = Math.round(countOver(rowGauge, size.length)) - bordersHigh(piece.border);
  if (!lead) return { rows: Math.min(MOST_BODY, Math.max(1, wish)), way: null, begins: null };
  const up = ups[laid.parts.indexOf(lead)]!;
  const isFlat = constructionOf(piece).hasEdges;
  const wanted = size.length - lengthFor(rowGauge, bordersHigh(piece.border) + up.start - 1);
  const ways = lengthWays(up.rows, rowGauge, Math.max(1000, wanted), isFlat);
  const way = ways.find(({ kind }) => kind === piece.length.way) ?? ways[0]!;
  return {
    rows: Math.min(MOST_BODY, way.rows + up.start - 1),
    way,
    begins: way.kind === 'centred' ? way.begins : null,
  };
}
