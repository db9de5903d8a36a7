import { PieceSchema, readPattern, startDesign, type Chart, type Design, type Piece } from '../src/index.js';

/** A piece for tests: two ropes that mirror each other and diamonds between them, on purl, in two sizes. */

export function charted(text: string, id: string, more: Partial<Chart> = {}): Chart {
  const { chart, problems } = readPattern(text, {
    construction: 'flat',
    firstRow: 'RS',
    school: 'front-back',
  });
  if (!chart || problems.length) throw new Error(problems[0]?.message);
  return { ...chart, id, part: 'panel', ...more };
}

export const rope = charted(
  `Cast on 8 sts.
Row 1 (RS): p2, k4, p2.
Row 2 and all WS rows: work the stitches as they present.
Row 3: p2, 2/2 LC, p2.
Row 4: work the stitches as they present.`,
  'rope',
);

export const diamond = charted(
  `Cast on 12 sts.
Row 1 (RS): p4, 2/2 LC, p4.
Row 2 and all WS rows: work the stitches as they present.
Row 3: p3, 2/1 RPC, 2/1 LPC, p3.
Row 5: p3, 2/1 LPC, 2/1 RPC, p3.
Row 6: work the stitches as they present.`,
  'diamond',
);

/** A wave that may be repeated across: a multiple of 6 stitches. */
export const wave: Chart = {
  ...charted(
    `Cast on 6 sts.
Row 1 (RS): k4, p2.
Row 2: work the stitches as they present.
Row 3: 2/2 RC, p2.
Row 4: work the stitches as they present.`,
    'wave',
  ),
  across: { before: 0, after: 0, times: 1, least: 1 },
};

export const design: Design = {
  ...startDesign('00000000-0000-4000-8000-000000000011', 'Cornice front', rope),
  charts: [rope, diamond, wave],
};

export const plain = {
  stitches: { count: 20, over: 100_000 },
  rows: { count: 28, over: 100_000 },
  swatch: null,
};

const ground = (id: string) => ({ id, kind: 'ground', cloth: 'reverse', stitches: 7, pair: 'outer' });

export const piece = (more: object = {}): Piece =>
  PieceSchema.parse({
    gauge: { plain },
    parts: [
      { id: 'right', kind: 'selvage', stitches: 1, style: 'garter' },
      ground('g1'),
      { id: 'p1', kind: 'panel', chart: 'rope' },
      { id: 'p2', kind: 'panel', chart: 'diamond' },
      { id: 'p3', kind: 'panel', chart: 'rope', isMirrored: true },
      ground('g2'),
      { id: 'left', kind: 'selvage', stitches: 1, style: 'garter' },
    ],
    border: { bottom: { kind: 'wide-rib', rows: 8, changes: 'ropes' }, top: { kind: 'rib', rows: 4 } },
    sizes: [
      { id: 's', name: 'S', measure: 220_000, length: 500_000 },
      { id: 'm', name: 'M', measure: 250_000, length: 560_000, counts: { g1: 10, g2: 10 } },
    ],
    ...more,
  });
