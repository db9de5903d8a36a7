import { fitPiece, lengthOf, PieceSchema, withFit, type Chart, type Piece } from '@cordelina/core';
import { demoSwatches } from './swatches.js';

/** The front of the Cornice vest: a diamond between two plaits, in four sizes, fitted to half of the body. */
export function cornicePiece(charts: readonly Chart[]): Piece {
  const [diamonds, plain] = demoSwatches() as [
    ReturnType<typeof demoSwatches>[0],
    ReturnType<typeof demoSwatches>[0],
  ];
  const cabled = { stitches: { count: 25, over: lengthOf(10, 'cm') }, swatch: diamonds.id };
  const ground = (id: string, pair: string, stitches: number, most: number) => ({
    id,
    kind: 'ground',
    cloth: 'reverse',
    stitches,
    least: 2,
    most,
    pair,
  });
  const piece = PieceSchema.parse({
    name: 'Front',
    fits: 'chest',
    parts: [
      { id: 'right-edge', kind: 'selvage', style: 'garter', stitches: 1 },
      ground('right', 'sides', 14, 40),
      { id: 'right-plait', kind: 'panel', chart: 'plait', gauge: cabled },
      ground('right-gap', 'gaps', 6, 12),
      { id: 'diamond', kind: 'panel', chart: 'diamond', gauge: cabled },
      ground('left-gap', 'gaps', 6, 12),
      { id: 'left-plait', kind: 'panel', chart: 'plait', isMirrored: true, gauge: cabled },
      ground('left', 'sides', 14, 40),
      { id: 'left-edge', kind: 'selvage', style: 'garter', stitches: 1 },
    ],
    gauge: {
      plain: {
        stitches: { count: 50, over: lengthOf(25, 'cm') },
        rows: { count: 27, over: lengthOf(10, 'cm') },
        swatch: plain.id,
      },
    },
    needle: 4,
    border: {
      bottom: { kind: 'wide-rib', rows: 15, changes: 'ropes' },
      top: { kind: 'wide-rib', rows: 6, changes: 'ropes' },
    },
    length: { way: 'whole', lead: 'right-plait' },
    around: 2,
    yarn: { swatch: diamonds.id, grams: 34 / (44 * 52), metres: 190, margin: 0.1, pieces: 1 },
    sizes: [
      ['S', 84, 54],
      ['M', 92, 56],
      ['L', 100, 58],
      ['XL', 110, 60],
    ].map(([name, chest, length]) => ({
      id: String(name).toLowerCase(),
      name,
      measure: lengthOf(Number(chest), 'cm'),
      ease: lengthOf(4, 'cm'),
      length: lengthOf(Number(length), 'cm'),
    })),
  });
  const sizes = piece.sizes.map((size) => {
    const [best] = fitPiece({ charts }, piece, size)!.ways;
    return best ? withFit(piece, size, best) : size;
  });
  return { ...piece, sizes };
}
