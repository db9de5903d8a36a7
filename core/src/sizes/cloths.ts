import type { GroundCloth, PiecePart } from '../chart/piece-document.js';
import type { Stitch } from '../stitches/book.js';
import type { Way } from '../construction/index.js';
import type { Side } from '../stitches/face.js';
import { modulo } from '../values.js';

/** The plain cloths a piece has beside its charts: what each of their cells shows, as the RS looks. */

/** A row of the piece as a cloth meets it: its number in that cloth (from 0), and its side. */
export interface ClothRow {
  n: number;
  side: Side;
  way: Way;
}

interface ClothKind {
  name: string;
  /** Rows after which it begins anew. */
  every: number;
  /** Stitches after which it begins anew, and those with which it ends as it began. */
  of: number;
  ends: number;
  cell: (column: number, row: ClothRow) => Stitch;
}

/** Where a ridge of garter stitch lies. */
const isRidge = ({ n, side, way }: ClothRow): boolean => way.isRidge(n, side);
const even = (n: number): Stitch => (modulo(n, 2) === 0 ? 'k' : 'p');

export const CLOTH_KINDS: Readonly<Record<GroundCloth, ClothKind>> = {
  reverse: { name: 'reverse stocking stitch', every: 1, of: 1, ends: 0, cell: () => 'p' },
  stocking: { name: 'stocking stitch', every: 1, of: 1, ends: 0, cell: () => 'k' },
  garter: { name: 'garter stitch', every: 2, of: 1, ends: 0, cell: (_, row) => (isRidge(row) ? 'p' : 'k') },
  moss: { name: 'moss stitch', every: 2, of: 2, ends: 1, cell: (c, { n }) => even(c + n) },
  'double-moss': {
    name: 'double moss stitch',
    every: 4,
    of: 2,
    ends: 1,
    cell: (c, { n }) => even(c + Math.floor(modulo(n, 4) / 2)),
  },
  rib: { name: 'k1, p1 rib', every: 1, of: 2, ends: 1, cell: (c) => even(c) },
  'wide-rib': {
    name: 'k2, p2 rib',
    every: 1,
    of: 4,
    ends: 2,
    cell: (c) => even(Math.floor(modulo(c, 4) / 2)),
  },
};

/** Whether a cloth of so many stitches begins and ends alike; without edges, whether its end meets its beginning. */
export function comesOut(cloth: GroundCloth, stitches: number, { hasEdges }: Way): boolean {
  const { of, ends } = CLOTH_KINDS[cloth];
  return stitches % of === (hasEdges ? ends % of : 0);
}

/** A ground's cells, from the right; those of a part beyond the middle are counted from the left, so that both sides match. */
export function groundCells(
  cloth: GroundCloth,
  stitches: number,
  row: ClothRow,
  fromLeft: boolean,
): Stitch[] {
  const { cell } = CLOTH_KINDS[cloth];
  return Array.from({ length: stitches }, (_, c) => cell(fromLeft ? stitches - 1 - c : c, row));
}

/**
 * An edge's cells, from the right. A slipped edge slips the first stitch of each row, its float on the wrong side, and works
 * the last as stocking stitch.
 */
export function selvageCells(
  { style, stitches }: Extract<PiecePart, { kind: 'selvage' }>,
  row: ClothRow,
  isLeft: boolean,
): Stitch[] {
  const cells = groundCells(style === 'slipped' ? 'stocking' : style, stitches, row, isLeft);
  const isFirst = row.way.beginsAt(row.side, 'right') === (isLeft ? 'left' : 'right');
  if (style === 'slipped' && isFirst) cells[isLeft ? stitches - 1 : 0] = 'slyb';
  return cells;
}
