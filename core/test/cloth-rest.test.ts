import { expect } from 'chai';
import fc from 'fast-check';
import {
  carriedOver,
  energyOf,
  extentOf,
  fitCloth,
  fittingCloth,
  restingWidth,
  knitFabric,
  ORDINARY,
  placeStitches,
  settle,
  settleNear,
  simpleCrossing,
  springsOf,
  unrelaxed,
  yarnPaths,
  type Chart,
  type KnittedCloth,
} from '../src/index.js';
import { anyChart, THOROUGH } from './arbitrary.js';
import { cloth, knitted, LATTICE, PLAIN, rib, ropes } from './cloths.js';

const wide = (chart: Chart) => extentOf(knitted(chart))!.wide;
const high = (chart: Chart) => extentOf(knitted(chart))!.high;

describe('cloth at rest', () => {
  it('feels in each coordinate what its energy does there', () => {
    fc.assert(
      fc.property(anyChart(), fc.integer({ min: 0, max: 1e6 }), (chart, seed) => {
        const fabric = knitFabric(chart);
        const springs = springsOf(fabric);
        const lie = unrelaxed(fabric).map((x, i) => x + 0.3 * Math.sin(seed + 7 * i));
        const gradient = new Float64Array(lie.length);
        energyOf(springs, lie, gradient);
        const other = new Float64Array(lie.length);
        const step = 1e-5;
        for (let n = 0; n < 12; n++) {
          const i = n === 0 ? lie.length - 1 : (seed * 31 + n * 101) % lie.length;
          const at = (by: number) =>
            energyOf(
              springs,
              lie.map((x, k) => (k === i ? x + by : x)),
              other,
            );
          expect(gradient[i]).to.be.closeTo((at(step) - at(-step)) / (2 * step), 1e-3);
        }
      }),
      { numRuns: 20 * THOROUGH },
    );
  });

  it('falls in energy at every step, comes to rest, and does so the same each time', () => {
    for (const chart of [ropes(3, 6), LATTICE, rib(2)]) {
      const run = () => {
        const fabric = knitFabric(chart);
        const made: KnittedCloth = { fabric, lie: unrelaxed(fabric) };
        const energies = [...settle(made)].map(({ energy }) => energy);
        return { made, energies };
      };
      const [one, two] = [run(), run()];
      one.energies.slice(1).forEach((e, i) => expect(e).to.be.lessThan(one.energies[i]!));
      expect(one.energies.length).to.be.lessThan(400);
      expect([...two.made.lie]).to.deep.equal([...one.made.lie]);
    }
  });

  it('keeps its connections: no loop is torn from the one it is drawn through, nor from the next', () => {
    fc.assert(
      fc.property(anyChart(), (chart) => {
        const { fabric, lie } = knitted(chart);
        const width = fabric.isTube ? lie[3 * fabric.size]! : 0;
        const far = (a: number, b: number, turns: number) =>
          Math.hypot(
            lie[3 * b]! + turns * width - lie[3 * a]!,
            lie[3 * b + 1]! - lie[3 * a + 1]!,
            lie[3 * b + 2]! - lie[3 * a + 2]!,
          );
        for (const { a, b, shift, apart } of fabric.courses)
          if (a !== b) expect(far(a, b, shift)).to.be.lessThan(1.9 * apart + 0.5);
        for (const { parent, child, shift, apart, moved } of fabric.wales)
          expect(far(parent, child, -shift)).to.be.lessThan(1.2 * apart + 1.1 * Math.abs(moved) + 0.6);
      }),
      { numRuns: 30 * THOROUGH },
    );
  });

  it('leaves plain cloth as wide as its stitches and as high as its rows', () => {
    expect(wide(PLAIN)).to.be.closeTo(1, 0.01);
    expect(high(PLAIN)).to.be.closeTo(1, 0.01);
    // Purl is the same cloth from behind.
    expect(wide(cloth(24, 24, () => 'p'))).to.be.closeTo(1, 0.01);
  });

  it('has courses to wales, and yarn in a loop, as plain cloth does (Munden 1959, from memory)', () => {
    const { fabric, lie } = knitted(PLAIN);
    const ratio = 1 / (ORDINARY.height * extentOf({ fabric, lie })!.high);
    expect(ratio).to.be.within(1.2, 1.45);
    // k_w = loop length × wales per length, 3.8 to 4.2; k_c = loop length × courses per length, 5.0 to 5.5.
    const { points, loop } = yarnPaths(fabric, lie);
    const inner = fabric.needles[12]![12]!;
    let length = 0;
    for (let i = 1; i + 2 < loop.length; i++) {
      if (loop[i] !== inner) continue;
      const at = (k: number, axis: number) => points[3 * (i + k) + axis]!;
      let from = [0, 1, 2].map((axis) => at(0, axis));
      for (let t = 0.125; t <= 1; t += 0.125) {
        const to = [0, 1, 2].map((axis) => {
          const [a, b, c, d] = [at(-1, axis), at(0, axis), at(1, axis), at(2, axis)];
          return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
        });
        length += Math.hypot(...to.map((x, axis) => x - from[axis]!));
        from = to;
      }
    }
    expect(length).to.be.within(3.8, 4.2);
    expect(length * ratio).to.be.within(5, 5.5);
  });

  it('draws in more the more often ropes are crossed (common practice, no source)', () => {
    const widths = [4, 6, 8, 12, 0].map((every) => wide(ropes(3, every)));
    widths.slice(1).forEach((w, i) => expect(w, `${i}`).to.be.greaterThan(widths[i]! + 0.005));
    // A fifth to two fifths is what six-stitch ropes do.
    expect(widths[1]).to.be.within(0.62, 0.8);
    expect(wide(LATTICE)).to.be.lessThan(0.85);
  });

  it('lets knit ropes stand out before the purl ground, and fronts before backs', () => {
    const { fabric, lie } = knitted(ropes(3, 6));
    const mean = (face: number) => {
      const of = [...fabric.face.keys()].filter(
        (i) => fabric.face[i] === face && fabric.row[i]! > 4 && fabric.row[i]! < 20,
      );
      return of.reduce((sum, i) => sum + lie[3 * i + 2]!, 0) / of.length;
    };
    expect(mean(1) - mean(-1)).to.be.greaterThan(0.5);
    for (const { over, under } of fabric.overs) {
      const [o, u] = [fabric.wales[over]!, fabric.wales[under]!];
      const middle = ({ parent, child }: typeof o) => (lie[3 * parent + 2]! + lie[3 * child + 2]!) / 2;
      expect(middle(o)).to.be.greaterThan(middle(u));
    }
  });

  it('after an edit moves only what is near, to where all of it would come to rest', () => {
    const before = knitted(ropes(3, 6, 6, 60));
    const chart = placeStitches(before.fabric.chart, 30, 26, [simpleCrossing('right', 3, 3)]).chart;
    const fabric = knitFabric(chart);
    const { lie, near } = carriedOver(before, fabric);
    const moving = near!.reduce((sum, n) => sum + n, 0);
    expect(moving).to.be.within(1, 0.4 * fabric.size);
    const held = lie.slice();
    for (const _ of settleNear({ fabric, lie }, near!));
    for (let i = 0; i < fabric.size; i++)
      if (!near![i])
        expect([...lie.subarray(3 * i, 3 * i + 3)]).to.deep.equal([...held.subarray(3 * i, 3 * i + 3)]);
    const nearly = lie.slice();
    for (const _ of settle({ fabric, lie }));
    const moved = lie.reduce((most, x, i) => Math.max(most, Math.abs(x - nearly[i]!)), 0);
    expect(moved).to.be.lessThan(0.15);
  });

  it('begins anew where an edit changes the size of the chart, from where the loops lay', () => {
    const before = knitted(ropes(2, 4, 2, 12));
    const rows = before.fabric.chart.rows;
    const fabric = knitFabric({ ...before.fabric.chart, rows: [...rows, rows[0]!] });
    const { lie, near } = carriedOver(before, fabric);
    expect(near).to.equal(null);
    expect([...lie.subarray(0, 30)]).to.deep.equal([...before.lie.subarray(0, 30)]);
  });

  it('fitted to three invented swatches, plain, ribbed and roped, gives their widths back', () => {
    for (const [ribbed, roped] of [
      [0.68, 0.67],
      [0.8, 0.79],
    ] as const) {
      const samples = [
        { chart: PLAIN, wide: 1 },
        { chart: rib(2), wide: ribbed },
        { chart: ropes(3, 6), wide: roped },
      ];
      const { proportions, widths } = fitCloth(samples);
      samples.forEach((s, i) => {
        expect(widths[i]).to.be.closeTo(s.wide, 0.01);
        // The width that every room tells of it then.
        expect(restingWidth(s.chart, proportions)).to.equal(widths[i]);
      });
    }
  }).timeout(60_000);

  it('tells what a fit misses, refuses swatches that contradict each other, and can be left half-way', () => {
    // A rib of half its width and a rope that hardly draws in want two yarns: each is told.
    const asked = [
      { chart: rib(2), wide: 0.5 },
      { chart: ropes(3, 6), wide: 0.9 },
    ];
    const { widths, refused } = fitCloth(asked);
    expect(refused === null || refused.message.includes('draws in by')).to.equal(true);
    expect(widths.some((w, i) => Math.abs(w - asked[i]!.wide) > 0.02)).to.equal(true);
    const twice = fitCloth([
      { chart: ropes(3, 6), wide: 0.75 },
      { chart: ropes(3, 6), wide: 0.87 },
    ]);
    expect(twice.refused?.samples).to.deep.equal([0, 1]);
    expect(fitCloth([{ chart: PLAIN, wide: 0.6 }]).refused?.samples).to.deep.equal([0]);
    const half = fittingCloth(asked);
    expect(half.next().done).to.equal(false);
    expect(half.return(undefined as never).done).to.equal(true);
  });
});
