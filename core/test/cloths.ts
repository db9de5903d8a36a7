import {
  ChartSchema,
  crossing,
  isCrossing,
  knitFabric,
  behindCrossing,
  simpleCrossing,
  type Chart,
  type KnittedCloth,
  type Proportions,
  type Stitch,
} from '../src/index.js';
import { settled } from '../src/fabric/settle.js';

/** Cloths that tests knit: each cell by its column and row, or ropes side by side. */

export const cloth = (width: number, height: number, cell: (c: number, r: number) => Stitch): Chart =>
  ChartSchema.parse({
    width,
    rows: Array.from({ length: height }, (_, r) => Array.from({ length: width }, (_, c) => cell(c, r))),
  });

export const PLAIN = cloth(24, 24, () => 'k');
export const rib = (n: number): Chart => cloth(6 * n, 24, (c) => (c % (2 * n) < n ? 'k' : 'p'));
export const GARTER = cloth(24, 24, (_, r) => (r % 2 ? 'k' : 'p'));

/** Ropes of 2 × `half` knit stitches, crossed every so many rows (0 for never), two purls beside each. */
export function ropes(half: number, every: number, count = 3, height = 24): Chart {
  const one = (r: number): Stitch[] =>
    every && r % every === Math.floor(every / 2)
      ? [simpleCrossing('left', half, half)]
      : Array<Stitch>(2 * half).fill('k');
  return ChartSchema.parse({
    width: count * (2 * half + 2) + 2,
    rows: Array.from({ length: height }, (_, r) => [
      'p',
      'p',
      ...Array.from({ length: count }, () => [...one(r), 'p', 'p']).flat(),
    ]),
  });
}

export const knitted = (chart: Chart, proportions?: Proportions): KnittedCloth =>
  settled(knitFabric(chart), proportions);

const OTHER: Record<string, Stitch> = { k: 'p', p: 'k', ktbl: 'ptbl', ptbl: 'ktbl' };

/** A chart of plain stitches and crossings as its other side looks. */
export function otherSideOf(chart: Chart): Chart {
  const seen = (s: Stitch): Stitch => (isCrossing(s) ? behindCrossing(s) : OTHER[s]!);
  return { ...chart, rows: chart.rows.map((row) => row.map(seen).reverse()) };
}

/** A lattice: ropes of three cross all over, every other time half a rope further. */
export const LATTICE = ChartSchema.parse({
  width: 24,
  rows: Array.from({ length: 24 }, (_, r) => {
    const knit = (n: number) => Array<Stitch>(n).fill('k');
    const across = (lean: 'left' | 'right', n: number) =>
      Array.from({ length: n }, () => crossing(lean, ['k', 'k', 'k'], ['k', 'k', 'k']));
    if (r % 8 === 2) return across('left', 4);
    if (r % 8 === 6) return [...knit(3), ...across('right', 3), ...knit(3)];
    return knit(24);
  }),
});
