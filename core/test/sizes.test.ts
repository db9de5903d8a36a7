import { expect } from 'chai';
import fc from 'fast-check';
import { unit } from 'mathjs';
import {
  averaged,
  countOver,
  fitWidth,
  lengthOf,
  lengthText,
  needleText,
  OVER,
  weightsAt,
  YARN_WEIGHTS,
  type Gauge,
} from '../src/index.js';
import { drawIn, growth, lengthFor } from '../src/measures/gauge.js';
import { measureOf } from '../src/measures/length.js';
import { NEEDLE_SIZES } from '../src/measures/trade.js';
import { type FitPart } from '../src/sizes/fit.js';

describe('lengths', () => {
  it('are those of a units library: mathjs', () => {
    for (const n of [0.25, 1, 4, 18.75, 48, 120.5])
      for (const [a, b] of [
        ['in', 'cm'],
        ['cm', 'in'],
        ['mm', 'in'],
        ['in', 'mm'],
      ] as const)
        expect(measureOf(lengthOf(n, a), b)).to.be.closeTo(unit(n, a).toNumber(b), 1e-4);
  });

  it('come back exactly from the unit they were given in, and are rounded only in print', () => {
    for (let tenths = 1; tenths < 3000; tenths++) {
      expect(measureOf(lengthOf(tenths / 10, 'cm'), 'cm')).to.equal(tenths / 10);
      expect(measureOf(lengthOf(tenths / 4, 'in'), 'in')).to.equal(tenths / 4);
    }
    expect(lengthText(lengthOf(48, 'cm'), 'cm')).to.equal('48 cm');
    expect(lengthText(lengthOf(48, 'cm'), 'in')).to.equal('19 in');
    expect(lengthText(lengthOf(18.75, 'in'), 'in')).to.equal('18¾ in');
    expect(lengthText(lengthOf(0.25, 'in'), 'in')).to.equal('¼ in');
    expect(lengthText(0, 'in')).to.equal('0 in');
    expect(lengthText(lengthOf(10, 'in'), 'cm')).to.equal('25.4 cm');
  });
});

describe('gauge', () => {
  const over10 = (count: number): Gauge => ({ count, over: OVER.cm });

  it('tells stitches of a width and widths of stitches', () => {
    expect(countOver(over10(22), lengthOf(48, 'cm'))).to.be.closeTo(105.6, 1e-9);
    expect(lengthFor(over10(22), 110)).to.equal(lengthOf(50, 'cm'));
    // Four inches are 10.16 cm: a gauge over them is not one over 10 cm.
    expect(countOver(over10(100), OVER.in)).to.be.closeTo(101.6, 1e-9);
  });

  it('of several readings is all that was counted over all that was measured; one that is far off is asked about', () => {
    const cm = (count: number, over: number): Gauge => ({ count, over: lengthOf(over, 'cm') });
    const even = averaged([cm(22, 10), cm(11, 5), cm(33.5, 15)]);
    expect(even.gauge).to.deep.equal({ count: 66.5, over: lengthOf(30, 'cm') });
    expect(even.far).to.deep.equal([]);
    expect(even.spread).to.be.closeTo((33.5 / 15 - 2.2) / (66.5 / 30), 1e-9);
    expect(averaged([cm(22, 10), cm(25, 10), cm(22, 10), cm(22, 10)]).far).to.deep.equal([1]);
    // An odd one does not have all the others asked about; of two nobody knows which is odd.
    expect(averaged([cm(20, 10), cm(26, 10), cm(26, 10)]).far).to.deep.equal([0]);
    expect(averaged([cm(26, 10), cm(26, 10), cm(20, 10), cm(26, 10)]).far).to.deep.equal([2]);
    expect(averaged([cm(20, 10), cm(26, 10)]).far).to.deep.equal([0, 1]);
    expect(averaged([cm(22, 10)])).to.deep.include({ spread: 0, far: [] });
  });

  it('of plain and cabled swatches gives the draw-in; before and after washing, how it grows', () => {
    // 20 stitches plain and 25 cabled in 10 cm: a fifth is drawn in.
    expect(drawIn(over10(20), over10(25))).to.be.closeTo(0.2, 1e-12);
    expect(drawIn(over10(20), over10(20))).to.equal(0);
    expect(growth(over10(24), over10(20))).to.be.closeTo(0.2, 1e-12);
    expect(growth(over10(20), over10(25))).to.be.closeTo(-0.2, 1e-12);
  });
});

describe('tables of the craft-yarn trade (from memory)', () => {
  it('name needles by millimetres, and by their numbers in the US and of old in the UK', () => {
    expect(NEEDLE_SIZES.map(({ mm }) => mm)).to.deep.equal(
      [...NEEDLE_SIZES.map(({ mm }) => mm)].sort((a, b) => a - b),
    );
    for (const [mm, us, uk] of [
      [1.5, '000', null],
      [1.75, '00', '15'],
      [2.75, '2', '12'],
      [3.25, '3', '10'],
      [3.75, '5', '9'],
      [4, '6', '8'],
      [4.5, '7', '7'],
      [5, '8', '6'],
      [6.5, '10½', '3'],
      [8, '11', '0'],
      [10, '15', '000'],
      [12.75, '17', null],
      [15, '19', null],
      [19, '35', null],
      [25, '50', null],
    ] as const)
      expect(NEEDLE_SIZES.find((n) => n.mm === mm)).to.deep.equal({ mm, us, uk });
    expect(needleText(4)).to.equal('4 mm (US 6, UK 8)');
    expect(needleText(3)).to.equal('3 mm (UK 11)');
    expect(needleText(5.25)).to.equal('5.25 mm');
  });

  it('give a range of stitches to each weight of yarn, finer ones more', () => {
    expect(YARN_WEIGHTS.map(({ least, most }) => `${least}–${most}`)).to.deep.equal([
      ...['33–40', '27–32', '23–26', '21–24', '16–20', '12–15', '7–11', '1–6'],
    ]);
    expect(weightsAt(23.6).map(({ name }) => name)).to.deep.equal(['fine', 'light']);
    expect(weightsAt(18).map(({ number }) => number)).to.deep.equal([4]);
    expect(weightsAt(60)).to.deep.equal([]);
  });
});

describe('fit to a width', () => {
  const plain: Gauge = { count: 20, over: OVER.cm };
  const cabled: Gauge = { count: 26, over: OVER.cm };
  const gap = (stitches: number, least: number, most: number, pair?: string, gauge = plain): FitPart => ({
    kind: 'gap',
    stitches,
    least,
    most,
    ...(pair !== undefined && { pair }),
    gauge,
  });

  /** Every way there is, in order. */
  function every(parts: readonly FitPart[], wanted: number) {
    const ways: { off: number; uneven: number; moved: number; castOn: number }[] = [];
    const stitches: number[] = [];
    const pairs = new Map<string, number>();
    const go = (i: number): void => {
      const part = parts[i];
      if (!part) {
        const width = parts.reduce((sum, p, k) => sum + (stitches[k]! * p.gauge.over) / p.gauge.count, 0);
        const uneven = stitches.filter(
          (n, k) => k < stitches.length >> 1 && n !== stitches.at(-1 - k),
        ).length;
        const moved = parts.reduce(
          (sum, p, k) => sum + (p.kind === 'gap' ? Math.abs(stitches[k]! - p.stitches) : 0),
          0,
        );
        const castOn = stitches.reduce((a, b) => a + b, 0);
        // Half a micrometre is rounded up, in whatever order its fractions were summed.
        ways.push({ off: Math.round(width + 1e-6) - wanted, uneven, moved, castOn });
        return;
      }
      if (part.kind === 'fixed') {
        stitches[i] = part.stitches;
        return go(i + 1);
      }
      for (let n = part.least; n <= part.most; n++) {
        const key = part.pair === undefined ? null : `${part.kind} ${part.pair}`;
        const shared = key === null ? undefined : pairs.get(key);
        if (shared !== undefined && shared !== n) continue;
        if (key !== null && shared === undefined) pairs.set(key, n);
        stitches[i] = part.kind === 'gap' ? n : part.plus + n * part.of;
        go(i + 1);
        if (key !== null && shared === undefined) pairs.delete(key);
      }
    };
    go(0);
    return ways.sort(
      (a, b) =>
        Math.abs(a.off) - Math.abs(b.off) || a.uneven - b.uneven || a.moved - b.moved || a.castOn - b.castOn,
    );
  }

  it('finds the nearest: gaps that mirror each other, a filling by whole repeats', () => {
    const parts: FitPart[] = [
      { kind: 'fixed', stitches: 2, gauge: plain },
      gap(4, 2, 8, 'outer'),
      { kind: 'filling', of: 8, plus: 2, least: 1, most: 20, gauge: cabled },
      gap(4, 2, 8, 'outer'),
      { kind: 'fixed', stitches: 2, gauge: plain },
    ];
    const { solutions, isWhole } = fitWidth(parts, lengthOf(48, 'cm'));
    expect(isWhole).to.be.true;
    expect(solutions).to.have.length(5);
    const [best] = solutions;
    expect(best!.castOn).to.equal(4 + 2 * best!.gaps[0]! + 2 + 8 * best!.repeats[0]!);
    expect(best!.gaps[0]).to.equal(best!.gaps[1]);
    expect(best!.uneven).to.equal(0);
    expect(Math.abs(best!.off)).to.be.lessThan(lengthOf(1, 'cm') / 2);
  });

  it('is what trying every way finds, on random pieces', () => {
    const gauges = fc.constantFrom(plain, cabled, { count: 17.5, over: OVER.in });
    const bounds = fc.tuple(fc.nat(6), fc.nat(5)).map(([least, more]) => ({ least, most: least + more }));
    const pair = fc.constantFrom(undefined, undefined, 'a', 'b');
    const part: fc.Arbitrary<FitPart> = fc.oneof(
      fc.record({ kind: fc.constant('fixed' as const), stitches: fc.nat(9), gauge: gauges }),
      fc.tuple(fc.nat(9), bounds, pair, gauges).map(([stitches, b, p, gauge]): FitPart => ({
        kind: 'gap',
        stitches,
        ...b,
        ...(p && { pair: p }),
        gauge,
      })),
      fc
        .tuple(fc.integer({ min: 1, max: 9 }), fc.nat(4), bounds, pair, gauges)
        .map(([of, plus, b, p, gauge]): FitPart => ({
          kind: 'filling',
          of,
          plus,
          ...b,
          ...(p && { pair: p }),
          gauge,
        })),
    );
    fc.assert(
      fc.property(
        fc.array(part, { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 0, max: 60 }),
        (parts, cm) => {
          const wanted = lengthOf(cm, 'cm');
          const all = every(parts, wanted);
          const { solutions } = fitWidth(parts, wanted, 4);
          const told = solutions.map(({ off, uneven, moved, castOn }) => ({ off, uneven, moved, castOn }));
          expect(told).to.deep.equal(all.slice(0, 4));
        },
      ),
      { numRuns: 400 },
    );
  });

  it('weighs a hundred thousand ways without trying each, and ends where there are too many', () => {
    const parts = Array.from({ length: 9 }, (_, i) => gap(10, 0, 40, undefined, i % 2 ? plain : cabled));
    const { solutions, isWhole } = fitWidth(parts, lengthOf(45, 'cm'));
    expect(isWhole).to.be.a('boolean');
    expect(solutions[0]!.off).to.be.within(-2000, 2000);
    const paired = parts.map((part, i) => ({ ...part, pair: `${Math.min(i, 8 - i)}` }));
    expect(fitWidth(paired, lengthOf(45, 'cm')).isWhole).to.be.true;
  });

  it('has no way where the bounds of a pair do not meet', () => {
    expect(fitWidth([gap(2, 1, 3, 'a'), gap(6, 5, 7, 'a')], 100_000).solutions).to.deep.equal([]);
  });
});
