import { expect } from 'chai';
import {
  boundsOf,
  ChartSchema,
  newPlate,
  paintFinely,
  simpleCrossing,
  YARNS,
  yarnPaths,
  type Chart,
  type KnittedCloth,
  type Plate,
} from '../src/index.js';
import { knitted } from './cloths.js';

/** How cloth is lit: figures measured on pictures of it, painted as well as can be. */

const cloth = (width: number, rows: number, at: (r: number, c: number) => 'k' | 'p'): Chart =>
  ChartSchema.parse({
    width,
    rows: Array.from({ length: rows }, (_, r) => Array.from({ length: width }, (_, c) => at(r, c))),
  });

/** Cloths that show each face by itself and both in every way they stand beside each other. */
const GROUNDS: Record<string, Chart> = {
  knit: cloth(18, 22, () => 'k'),
  purl: cloth(18, 22, () => 'p'),
  garter: cloth(18, 22, (r) => (r % 2 ? 'p' : 'k')),
  moss: cloth(18, 22, (r, c) => ((r + c) % 2 ? 'p' : 'k')),
  rib: cloth(18, 22, (_, c) => (c % 2 ? 'p' : 'k')),
};

/** The middle of a cloth, so many pixels a stitch. */
function middle(
  made: KnittedCloth,
  scale: number,
  width: number,
  height: number,
  yarn = YARNS.fleece,
): Plate {
  const { left, right, top, bottom } = boundsOf(made);
  const plate = newPlate(Math.round(width), Math.round(height));
  const [x, y] = [(left + right) / 2, (top + bottom) / 2];
  const view = { width: plate.width, height: plate.height, scale, x, y, side: 'RS' as const };
  paintFinely(plate, yarnPaths(made.fabric, made.lie), view, yarn);
  return plate;
}

const lightAt = ({ rgba }: Plate, i: number): number =>
  0.299 * rgba[4 * i]! + 0.587 * rgba[4 * i + 1]! + 0.114 * rgba[4 * i + 2]!;

/** By how many grey levels what lies over stands out from what lies under, in ropes that lean one way. */
function standsOut(lean: 'left' | 'right', n: number, scale: number): number {
  const stitches = Array<'k'>(2 * n).fill('k');
  const chart = ChartSchema.parse({
    width: 2 * n + 6,
    rows: Array.from({ length: 24 }, (_, r) => [
      ...['p', 'p', 'p'],
      ...(r % 6 === 3 ? [simpleCrossing(lean, n, n)] : stitches),
      ...['p', 'p', 'p'],
    ]),
  });
  const made = knitted(chart);
  const { overs, wales } = made.fabric;
  const over = new Set(overs.map((one) => wales[one.over]!.parent));
  const under = new Set(overs.map((one) => wales[one.under]!.parent));
  const { left, right, top, bottom } = boundsOf(made);
  const plate = middle(made, scale, (right - left) * scale, (top - bottom) * scale);
  const [front, back] = [[0, 0] as [number, number], [0, 0] as [number, number]];
  plate.loop.forEach((loop, i) => {
    const of = over.has(loop) ? front : under.has(loop) ? back : null;
    if (!of) return;
    of[0] += lightAt(plate, i);
    of[1]++;
  });
  return front[0] / front[1] - back[0] / back[1];
}

describe('the light on cloth', () => {
  it('has ropes that lean left stand out as those that lean right, within a fifth', () => {
    for (const scale of [24, 40]) {
      const of = (lean: 'left' | 'right') => standsOut(lean, 2, scale) + standsOut(lean, 3, scale);
      const [left, right] = [of('left'), of('right')];
      expect(Math.min(left, right) / Math.max(left, right), `at ${scale}: ${left}, ${right}`).to.be.above(
        0.8,
      );
      expect(Math.min(left, right) / 2, `at ${scale}`).to.be.above(10);
    }
  });

  it('shows yarn in its own colour: plain cloth is on the mean nearly as bright, and none of it black', () => {
    for (const [name, chart] of Object.entries(GROUNDS))
      for (const scale of [10, 24]) {
        const plate = middle(knitted(chart), scale, 8 * scale, 8 * scale);
        const own = 0.299 * 238 + 0.587 * 229 + 0.114 * 210;
        const seen = [...plate.loop].flatMap((loop, i) => (loop < 0 ? [] : [lightAt(plate, i) / own]));
        seen.sort((a, b) => a - b);
        const mean = seen.reduce((sum, v) => sum + v, 0) / seen.length;
        expect(mean, `${name} at ${scale}`).to.be.within(name === 'knit' ? 0.85 : 0.8, 1);
        expect(seen[Math.floor(seen.length / 20)], `${name} at ${scale}, its darkest`).to.be.above(0.3);
      }
  });

  it('lets nothing through where yarns nearly touch, and shows holes that are wide', () => {
    const plate = middle(knitted(GROUNDS.knit!), 30, 240, 240, YARNS.peat);
    const clear = [...plate.loop].filter((_, i) => plate.rgba[4 * i + 3]! < 128).length;
    expect(clear / plate.loop.length).to.be.below(0.006);
    const lace = ChartSchema.parse({
      width: 18,
      rows: Array.from({ length: 22 }, (_, r) =>
        r % 4 === 1
          ? [
              ...Array<string>(6).fill('k'),
              'yo',
              'k2tog',
              ...Array<string>(2).fill('k'),
              'yo',
              'k2tog',
              ...Array<string>(6).fill('k'),
            ]
          : Array<string>(18).fill('k'),
      ),
    });
    const open = middle(knitted(lace), 30, 240, 240);
    const holes = [...open.loop].filter((_, i) => open.rgba[4 * i + 3]! < 40).length;
    expect(holes / open.loop.length).to.be.above(0.01);
  });
});
