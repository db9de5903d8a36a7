import type { Row } from '../../chart/schema.js';
import { isCrossing, type Stitch } from '../../stitches/book.js';
import { crossing, type Crossing } from '../../stitches/crossing.js';
import type { Worked } from '../../stitches/face.js';
import { between, knits, Loom, meet, other, purls, travel, type SetAt } from './loom.js';
import { GROUND, GUTTER, LEAN, motif, STITCHES } from './motif.js';

/** Ropes that travel over ground, one stitch every second row. */

const REST = { label: 'Rows of rest at the widest', least: 0, most: 12, usual: 2, step: 2 };

export const diamond = motif({
  id: 'diamond',
  name: 'Diamond',
  about: 'Two ropes that part and meet again, over purl ground or moss.',
  numbers: {
    stitches: { ...STITCHES, most: 3 },
    spread: { label: 'Stitches each rope travels', least: 1, most: 8, usual: 3 },
    rest: REST,
    gutter: GUTTER,
  },
  choices: { lean: LEAN, ground: GROUND },
  weave: ({ stitches, spread, rest, gutter, lean, ground }) => {
    const right = gutter + spread;
    const loom = new Loom(between(right, knits(2 * stitches)))
      .plain(2)
      .cross(meet(right, lean, stitches))
      .plain(1);
    for (let i = 0; i < spread; i++)
      loom
        .cross(travel(right - i, 'right', stitches), travel(right + stitches + i, 'left', stitches))
        .plain(1);
    loom.plain(rest);
    for (let i = spread - 1; i >= 0; i--)
      loom
        .cross(travel(right - i - 1, 'left', stitches), travel(right + stitches + i + 1, 'right', stitches))
        .plain(1);
    return { rows: ground === 'moss' ? loom.rows.map((row, r) => mossed(row, r)) : loom.rows };
  },
});

/** Moss inside the ropes: what is purl between them, or comes to lie between them, is knit in every other place. */
function mossed(row: Row, r: number): Row {
  const columns = row.reduce<number[]>(
    (at, s) => [...at, at.at(-1)! + (isCrossing(s) ? s.front.length + s.back.length : 1)],
    [0],
  );
  const isRope = (s: Stitch) => s === 'k' || isCrossing(s);
  const [first, last] = [row.findIndex(isRope), row.findLastIndex(isRope)];
  const moss = (column: number): Worked => ((r + column) % 2 === 0 ? 'k' : 'p');
  return row.map((stitch, i) => {
    const column = columns[i]!;
    if (stitch === 'p') return i > first && i < last ? moss(column) : stitch;
    return isCrossing(stitch) && stitch.back[0] === 'p'
      ? passingMoss(stitch, column, i === first, moss)
      : stitch;
  });
}

/** A rope that leaves a stitch behind inside has it moss there; one that leaves it outside has it purl. */
function passingMoss(
  c: Crossing,
  column: number,
  isRight: boolean,
  moss: (column: number) => Worked,
): Crossing {
  const goesOut = (c.lean === 'right') === isRight;
  if (!goesOut) return c;
  const at = c.lean === 'left' ? column : column + c.front.length;
  return crossing(c.lean, c.front, [moss(at)]);
}

export const lattice = motif({
  id: 'lattice',
  name: 'Travelling lattice',
  about: 'Ropes that travel slantwise all over and go over and under where they meet.',
  numbers: {
    stitches: { ...STITCHES, most: 3 },
    gap: { label: 'Stitches each rope travels', least: 1, most: 6, usual: 2 },
    cells: { label: 'Cells side by side', least: 2, most: 8, usual: 3 },
  },
  choices: { lean: LEAN },
  weave: ({ stitches, gap, cells, lean }) => allOver(stitches, gap, cells, lean, 2),
});

export const basket = motif({
  id: 'basket',
  name: 'Woven basket',
  about: 'Ropes woven all over, close beside each other.',
  numbers: {
    stitches: { ...STITCHES, least: 2, usual: 3 },
    rows: { label: 'Rows from crossing to crossing', least: 4, most: 16, usual: 4, step: 2 },
    cells: { label: 'Cells side by side', least: 2, most: 12, usual: 4 },
  },
  choices: { lean: LEAN },
  weave: ({ stitches, rows, cells, lean }) => allOver(stitches, 0, cells, lean, rows),
});

/**
 * Ropes that meet in the middles of cells, travel, and meet again on the lines between them, there leaning the other way:
 * so each goes over and under. At the edges they turn about. On the lines the repeat begins half a cell later.
 */
function allOver(stitches: number, gap: number, cells: number, lean: string, rows: number) {
  const period = 2 * stitches + 2 * gap;
  const middles = Array.from({ length: cells }, (_, i) => i * period + gap);
  const lines = middles.slice(1).map((m) => m - gap - stitches);
  const faces = Array.from({ length: cells }, () => [
    ...purls(gap),
    ...knits(2 * stitches),
    ...purls(gap),
  ]).flat();
  const apart = (i: number): SetAt[] =>
    middles.flatMap((m) => [travel(m - i, 'right', stitches), travel(m + stitches + i, 'left', stitches)]);
  const together = (i: number): SetAt[] =>
    middles.flatMap((m) => [
      travel(m - gap + i, 'left', stitches),
      travel(m + stitches + gap - i, 'right', stitches),
    ]);
  const loom = new Loom(faces)
    .plain(2)
    .cross(...middles.map((m) => meet(m, lean, stitches)))
    .plain(rows - 1);
  for (let i = 0; i < gap; i++) loom.cross(...apart(i)).plain(rows - 1);
  // Ropes that come from afar stand beside each other before they cross, here as in the middles.
  if (gap) loom.plain(2);
  const straddling = loom.rows.length;
  loom.cross(...lines.map((l) => meet(l, other(lean), stitches))).plain(rows - 1);
  for (let i = 0; i < gap; i++) loom.cross(...together(i)).plain(rows - 1);
  return {
    rows: gap ? loom.rows : loom.rows.slice(0, -2),
    repeat: { before: 0, after: (cells - 1) * period },
    jogs: { [straddling]: stitches + gap },
  };
}
