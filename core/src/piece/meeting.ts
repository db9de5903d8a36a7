import type { Border, Piece } from '../chart/piece-document.js';
import { rowFacts } from '../chart/rows.js';
import type { Row } from '../chart/schema.js';
import { wayOf } from '../construction/index.js';
import { countOver } from '../measures/gauge.js';
import type { Needle } from '../needle/loop.js';
import { freshNeedle, workRow } from '../needle/needle.js';
import type { Stitch, StitchBook } from '../stitches/book.js';
import type { Face } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { borderCells, borderRows, changesAmong, fewerIn, withGaps, type MeetingLoop } from './border.js';
import type { Laid } from './lay-out.js';
import { PieceFault } from './fault.js';

/** Where borders and the parts' rows meet: the rows below and above, and those that lead from one count to the other. */

/** The loops where a row of the piece is met, from the right: their columns, faces, and which rope they lie in. */
function meetingLoops(
  cells: readonly Stitch[],
  faceOf: (loop: number) => Face,
  ropeColumns: ReadonlySet<number>,
): { loops: MeetingLoop[]; columns: number[] } {
  const loops: MeetingLoop[] = [];
  const columns: number[] = [];
  let rope = -1;
  let inRope = false;
  cells.forEach((cell, column) => {
    if (cell === NO_STITCH) return;
    const face = faceOf(loops.length);
    const isRope = face === 'knit' && ropeColumns.has(column);
    if (isRope && !inRope) rope++;
    inRope = isRope;
    loops.push({ face, rope: isRope ? rope : -1 });
    columns.push(column);
  });
  return { loops, columns };
}

/** The needle before each row, and after the last. */
export function needlesBefore(rows: readonly Row[], book: StitchBook): Needle[] {
  const needles = [freshNeedle(rowFacts(rows[0]!, book).takes)];
  for (const row of rows) needles.push(workRow(row, needles.at(-1)!, book, 0).loops);
  return needles;
}

/** The plain stitches a border as wide as the piece has; null where that is not known. */
function plainIn({ width }: Laid, { gauge }: Piece): number | null {
  const plain = gauge.plain?.stitches;
  return width !== null && plain ? Math.round(countOver(plain, width)) : null;
}

/** Rows of a border, with the one that leads to it or from it; `isSpread` where its changes found no room in the ropes. */
export interface BorderRows {
  rows: Row[];
  count: number;
  isSpread: boolean;
}

export const NO_ROWS: BorderRows = { rows: [], count: 0, isSpread: false };

/** The rows below the parts: the border, and the row that makes its stitches those of the parts. */
export function below(
  piece: Piece,
  laid: Laid,
  base: readonly Stitch[],
  moved: ReadonlySet<number>,
): BorderRows {
  const border = piece.border.bottom;
  const way = wayOf(piece);
  if (!border) return NO_ROWS;
  const cells = base.filter((c) => c !== NO_STITCH);
  const { loops, columns } = meetingLoops(base, (i) => (cells[i] === 'k' ? 'knit' : 'purl'), moved);
  const count = fewerIn(border, loops, plainIn(laid, piece), way);
  const found = changesAmong(loops, count, 1, border.kind === 'runs-on' ? 'ropes' : border.changes, way);
  if ('problem' in found) throw new PieceFault(found.problem);
  const { places: made, isSpread } = found;
  const isMade = new Set(made.map((i) => columns[i]!));
  const isThere = base.map((cell, column) => cell !== NO_STITCH && !isMade.has(column));
  const faces = loops.filter((_, i) => !made.includes(i)).map((l) => l.face);
  const high = borderRows(border, 'bottom');
  const lowest = -(high + (count ? 1 : 0));
  const rows = Array.from({ length: high }, (_, r): Row => {
    const row = { n: r, side: way.sideAt(lowest + r), way };
    return withGaps(borderCells(border, r, faces, row, 'bottom'), isThere);
  });
  if (count) rows.push(base.map((cell, c) => (isMade.has(c) ? (cell === 'k' ? 'm1l' : 'm1lp') : cell)));
  return { rows, count, isSpread };
}

/** The rows above the parts: the row that takes their stitches to the border's, and the border. */
export function above(
  border: Border,
  piece: Piece,
  laid: Laid,
  rows: readonly Row[],
  book: StitchBook,
  moved: ReadonlySet<number>,
): BorderRows {
  const way = wayOf(piece);
  const needle = needlesBefore(rows, book).at(-1)!;
  const last = rows.at(-1)!;
  // The columns of the loops that the last row leaves.
  const base = last.flatMap((stitch): Stitch[] => {
    const { makes, span } = book.facts(stitch);
    return [...Array<Stitch>(makes).fill('k'), ...Array<Stitch>(Math.max(0, span - makes)).fill(NO_STITCH)];
  });
  const { loops, columns } = meetingLoops(base, (i) => needle[i]!.face, moved);
  const count = fewerIn(border, loops, plainIn(laid, piece), way);
  const found = changesAmong(loops, count, 2, border.kind === 'runs-on' ? 'ropes' : border.changes, way);
  if ('problem' in found) throw new PieceFault(found.problem);
  const { places: pairs, isSpread } = found;
  const gone = new Set(pairs.map((i) => columns[i + 1]!));
  const together = new Set(pairs.map((i) => columns[i]!));
  const faceAt = new Map(columns.map((column, i) => [column, loops[i]!.face]));
  const isThere = base.map((cell, column) => cell !== NO_STITCH && !gone.has(column));
  const faces = columns.filter((c) => !gone.has(c)).map((c) => faceAt.get(c)!);
  const made: Row[] = [];
  if (count)
    made.push(
      base.map((cell, c): Stitch => {
        if (cell === NO_STITCH || gone.has(c)) return NO_STITCH;
        const face = faceAt.get(c)!;
        if (together.has(c)) return face === 'knit' ? 'k2tog' : 'p2tog';
        return face === 'knit' ? 'k' : 'p';
      }),
    );
  for (let r = 0; r < borderRows(border, 'top'); r++) {
    const row = { n: r, side: way.sideAt(rows.length + made.length), way };
    made.push(withGaps(borderCells(border, r, faces, row, 'top'), isThere));
  }
  return { rows: made, count, isSpread };
}
