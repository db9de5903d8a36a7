import { between, knits, Loom, meet, other } from './loom.js';
import { GUTTER, LEAN, motif, ROWS, STITCHES } from './motif.js';

/** Ropes that stand by themselves between purls. */

export const rope = motif({
  id: 'rope',
  name: 'Rope',
  about: 'Two strands that twist about each other, always the same way.',
  numbers: { stitches: STITCHES, rows: ROWS, gutter: GUTTER },
  choices: { lean: LEAN },
  weave: ({ stitches, rows, gutter, lean }) => ({
    rows: new Loom(between(gutter, knits(2 * stitches)))
      .plain(2)
      .every(rows, [meet(gutter, lean, stitches)])
      .rows.slice(0, rows),
  }),
});

export const plait = motif({
  id: 'plait',
  name: 'Plait',
  about: 'Three to seven ropes; each goes over and under in turn.',
  numbers: {
    ropes: { label: 'Ropes', least: 3, most: 7, usual: 3 },
    stitches: STITCHES,
    rows: ROWS,
    gutter: GUTTER,
  },
  choices: { lean: LEAN },
  // Neighbours cross in turn: the first with the second, the third with the fourth; then those between, the other way.
  weave: ({ ropes, stitches, rows, gutter, lean }) => {
    const pairs = (from: number, way: string) =>
      Array.from({ length: Math.floor((ropes - from) / 2) }, (_, i) =>
        meet(gutter + (from + 2 * i) * stitches, way, stitches),
      );
    const loom = new Loom(between(gutter, knits(ropes * stitches))).plain(2);
    return { rows: loom.every(rows, pairs(0, lean), pairs(1, other(lean))).rows.slice(0, 2 * rows) };
  },
});

export const wave = motif({
  id: 'wave',
  name: 'Wave',
  about: 'One strand that lies over the other all the way, swaying to and fro.',
  numbers: { stitches: STITCHES, rows: ROWS, gutter: GUTTER },
  choices: { lean: LEAN },
  weave: ({ stitches, rows, gutter, lean }) => ({
    rows: new Loom(between(gutter, knits(2 * stitches)))
      .plain(2)
      .every(rows, [meet(gutter, lean, stitches)], [meet(gutter, other(lean), stitches)])
      .rows.slice(0, 2 * rows),
  }),
});
