import {
  lengthOf,
  PieceSchema,
  ROUND,
  simpleCrossing,
  startChart,
  type Chart,
  type Piece,
  type Stitch,
} from '@cordelina/core';
import { demoSwatches } from './swatches.js';

/** Plaits of three ropes, side by side all round. */
export function snowline(): Chart {
  const rope: Stitch[] = ['k', 'k', 'k'];
  const [first, second] = [simpleCrossing('right', 3, 3), simpleCrossing('left', 3, 3)];
  const row = (plait: readonly Stitch[]): Stitch[] => ['p', 'p', ...plait, 'p'];
  return {
    ...startChart({ columns: 12, rows: 8, construction: ROUND.id, ground: 'p' }),
    name: 'Plaits',
    rows: Array.from({ length: 8 }, (_, r) =>
      row(r === 2 ? [first, ...rope] : r === 6 ? [...rope, second] : [...rope, ...rope, ...rope]),
    ),
    across: { before: 0, after: 0, times: 12, least: 2 },
    up: { setup: 0, closing: 0, times: 3 },
  };
}

/** The Snowline cowl: a hem, a band, the plaits, a band, and a casing with its cord. */
export function snowlinePiece(chart: Chart): Piece {
  const [diamonds, plain] = demoSwatches();
  const band = { every: 5, rounds: 3 };
  const hem = { kind: 'hem', changes: 'none', join: 'joined', band };
  return PieceSchema.parse({
    name: 'Cowl',
    fits: 'neck',
    construction: ROUND.id,
    parts: [
      {
        id: 'plaits',
        kind: 'filling',
        chart: chart.id,
        repeats: 12,
        least: 2,
        gauge: { stitches: { count: 25, over: lengthOf(10, 'cm') }, swatch: diamonds!.id },
      },
    ],
    gauge: {
      plain: {
        stitches: { count: 50, over: lengthOf(25, 'cm') },
        rows: { count: 27, over: lengthOf(10, 'cm') },
        swatch: plain!.id,
      },
    },
    needle: 4,
    border: {
      bottom: { ...hem, rows: 6 },
      top: { ...hem, rows: 5, cord: true, eyelets: 'ends' },
    },
    yarn: { swatch: diamonds!.id, grams: 34 / (44 * 52), metres: 190, margin: 0.1, pieces: 1 },
    sizes: [
      {
        id: 'one',
        name: 'One size',
        measure: lengthOf(57, 'cm'),
        ease: 0,
        length: lengthOf(24, 'cm'),
        counts: {},
      },
    ],
  });
}
