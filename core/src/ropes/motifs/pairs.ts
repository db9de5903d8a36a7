import { between, knits, Loom, meet, other } from './loom.js';
import { GUTTER, motif, ROWS, STITCHES, type MotifChoice } from './motif.js';

/** Two pairs of strands that mirror each other. */

const OPENS: MotifChoice = {
  label: 'Opens',
  options: [
    ['up', 'upwards'],
    ['down', 'downwards'],
  ],
};

/** The lean of the pair at the right: strands that go apart open upwards. */
const leanOf = (opens: string) => (opens === 'up' ? 'right' : 'left');

export const horseshoe = motif({
  id: 'horseshoe',
  name: 'Horseshoe',
  about: 'Two ropes that mirror each other, side by side.',
  numbers: { stitches: STITCHES, rows: ROWS, gutter: GUTTER },
  choices: { opens: OPENS },
  weave: ({ stitches, rows, gutter, opens }) => {
    const lean = leanOf(opens);
    return {
      rows: new Loom(between(gutter, knits(4 * stitches)))
        .plain(2)
        .every(rows, [meet(gutter, lean, stitches), meet(gutter + 2 * stitches, other(lean), stitches)])
        .rows.slice(0, rows),
    };
  },
});

export const wishbone = motif({
  id: 'wishbone',
  name: 'Wishbone',
  about: 'Two ropes that part from a plain knit middle.',
  numbers: {
    stitches: STITCHES,
    middle: { label: 'Stitches in the middle', least: 1, most: 8, usual: 4 },
    rows: ROWS,
    gutter: GUTTER,
  },
  choices: { opens: OPENS },
  weave: ({ stitches, middle, rows, gutter, opens }) => {
    const lean = leanOf(opens);
    return {
      rows: new Loom(between(gutter, knits(4 * stitches + middle)))
        .plain(2)
        .every(rows, [
          meet(gutter, lean, stitches),
          meet(gutter + 2 * stitches + middle, other(lean), stitches),
        ])
        .rows.slice(0, rows),
    };
  },
});

export const honeycomb = motif({
  id: 'honeycomb',
  name: 'Honeycomb',
  about: 'Waves that mirror each other and close into cells, beside and above each other.',
  numbers: {
    stitches: STITCHES,
    cells: { label: 'Cells side by side', least: 1, most: 12, usual: 3 },
    rows: ROWS,
    gutter: GUTTER,
  },
  choices: {},
  weave: ({ stitches, cells, rows, gutter }) => {
    const width = 4 * stitches;
    const set = (lean: 'left' | 'right') =>
      Array.from({ length: cells }, (_, i) => [
        meet(gutter + i * width, lean, stitches),
        meet(gutter + i * width + 2 * stitches, other(lean), stitches),
      ]).flat();
    const after = gutter + (cells - 1) * width;
    return {
      rows: new Loom(between(gutter, knits(cells * width)))
        .plain(2)
        .every(rows, set('right'), set('left'))
        .rows.slice(0, 2 * rows),
      repeat: { before: gutter, after },
    };
  },
});

export const crossesAndRings = motif({
  id: 'x-and-o',
  name: 'X and O',
  about: 'Two waves that make a ring, and then a cross.',
  numbers: { stitches: STITCHES, rows: ROWS, gutter: GUTTER },
  choices: {},
  weave: ({ stitches, rows, gutter }) => {
    const set = (lean: 'left' | 'right') => [
      meet(gutter, lean, stitches),
      meet(gutter + 2 * stitches, other(lean), stitches),
    ];
    return {
      rows: new Loom(between(gutter, knits(4 * stitches)))
        .plain(2)
        .every(rows, set('right'), set('left'), set('left'), set('right'))
        .rows.slice(0, 4 * rows),
    };
  },
});
