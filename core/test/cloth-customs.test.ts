import { expect } from 'chai';
import { extentOf, type Chart } from '../src/index.js';
import { cloth, GARTER, knitted, PLAIN, ropes } from './cloths.js';

/**
 * How cloth is known to lie against plain cloth of as many stitches and rows, unstretched. The constants of the springs were fitted to
 * this table as a whole. Every row is common practice, no source.
 */
/** Ribs wide enough for their middle to lie as ribs do. */
const ribs = (n: number): Chart => cloth(24, 24, (c) => (c % (2 * n) < n ? 'k' : 'p'));
const MOSS = cloth(24, 24, (c, r) => ((c + r) % 2 ? 'p' : 'k'));

interface Custom {
  chart: Chart;
  of: 'wide' | 'high';
  /** Between what it lies. */
  from: number;
  to: number;
}

const CUSTOMS: Record<string, Custom> = {
  'plain cloth is as wide as its stitches': { chart: PLAIN, of: 'wide', from: 0.99, to: 1.01 },
  '1 × 1 rib is about seven tenths': { chart: ribs(1), of: 'wide', from: 0.65, to: 0.75 },
  '2 × 2 rib draws in as much': { chart: ribs(2), of: 'wide', from: 0.6, to: 0.75 },
  'garter is as wide': { chart: GARTER, of: 'wide', from: 0.96, to: 1.04 },
  // A plain row is 0.74 of a stitch: two thirds of that is half a stitch.
  'a garter row is about half a stitch high': { chart: GARTER, of: 'high', from: 0.62, to: 0.74 },
  'moss is hardly narrower': { chart: MOSS, of: 'wide', from: 0.97, to: 1.08 },
  '2/2 every 4 rows draws in by 15 to 25 %': { chart: ropes(2, 4, 2), of: 'wide', from: 0.75, to: 0.85 },
  '3/3 every 6 rows likewise': { chart: ropes(3, 6, 2), of: 'wide', from: 0.72, to: 0.85 },
};

const lies = (chart: Chart, of: 'wide' | 'high'): number => extentOf(knitted(chart))![of];

describe('cloth as it is known to lie (common practice, no source)', () => {
  for (const [name, { chart, of, from, to }] of Object.entries(CUSTOMS))
    it(name, () => expect(lies(chart, of)).to.be.within(from, to));

  it('2 × 2 rib is no wider than 1 × 1, unstretched', () => {
    expect(lies(ribs(2), 'wide')).to.be.below(lies(ribs(1), 'wide'));
  });

  it('tighter crossings draw in more, each rope by itself', () => {
    for (const [half, spaced] of [
      [2, [4, 6, 8, 0]],
      [3, [4, 6, 8, 12, 0]],
      [4, [6, 8, 12, 0]],
    ] as const) {
      const widths = spaced.map((every) => lies(ropes(half, every, 2, 36), 'wide'));
      widths
        .slice(1)
        .forEach((w, i) =>
          expect(w, `${half}/${half} every ${spaced[i + 1]}`).to.be.above(widths[i]! - 0.002),
        );
      expect(widths.at(-1)! - widths[0]!, `${half}/${half}`).to.be.above(0.02);
    }
  });

  it('wider ropes draw in more than narrower ones crossed as often', () => {
    for (const every of [4, 6]) {
      const widths = [2, 3, 4]
        .filter((half) => every >= half)
        .map((half) => lies(ropes(half, every, 2, 3 * every + 12), 'wide'));
      widths.slice(1).forEach((w, i) => expect(w, `${i + 3} every ${every}`).to.be.below(widths[i]! - 0.002));
    }
  });

  it('is measured alike however many ropes there are', () => {
    for (const [half, every] of [
      [2, 4],
      [3, 6],
    ] as const) {
      const widths = [1, 2, 3, 5, 8, 12, 20].map((many) => lies(ropes(half, every, many, 36), 'wide'));
      expect(Math.max(...widths) - Math.min(...widths), `${half}`).to.be.below(0.01);
    }
  });

  it('leads a rope over in several rows: no more than two thirds of its way in the row of the crossing', () => {
    for (const half of [3, 4]) {
      const { fabric, lie } = knitted(ropes(half, 8, 2, 24));
      const { wales, stem, crown } = fabric;
      let [own, all] = [0, 0];
      for (const { moved, parent, child } of wales) {
        const [below, above] = [wales[stem[parent]!], wales[crown[child]!]];
        const [from, to] = [below && wales[stem[below.parent]!], above && wales[crown[above.child]!]];
        if (!moved || !from || !to) continue;
        own += Math.abs(lie[3 * child]! - lie[3 * parent]!);
        all += Math.abs(lie[3 * to.child]! - lie[3 * from.parent]!);
      }
      expect(own / all, `${half}`).to.be.below(0.67);
    }
  });

  it('crossed in every row, or every second, it is narrow, and no thread', () => {
    for (const half of [1, 2, 3, 4])
      for (const every of [1, 2]) {
        const lie = extentOf(knitted(ropes(half, every, 2, 24)))!;
        expect(lie.wide, `${half} every ${every}`).to.be.within(0.4, 0.75);
        expect(lie.high, `${half} every ${every}`).to.be.within(0.8, 1.3);
      }
  });
});
