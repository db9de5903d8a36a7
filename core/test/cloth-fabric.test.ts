import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  clothSvg,
  drawClosedRopes,
  dyed,
  extentOf,
  knitFabric,
  ORDINARY,
  simpleCrossing,
  smallPicture,
  startChart,
  startOf,
  takesWholeGround,
  unfold,
  wayOf,
  workChart,
  yarnPaths,
  type YarnPaths,
  type Chart,
  type KnittedCloth,
  type Stitch,
} from '../src/index.js';
import { seenFrom } from '../src/fabric/knitted-as.js';
import { fromStart } from '../src/needle/needle.js';
import type { Fabric } from '../src/fabric/fabric.js';
import { LOOP } from '../src/fabric/row-knit.js';
import { settled } from '../src/fabric/settle.js';
import { anyChart, anyUnbanded, THOROUGH } from './arbitrary.js';
import { cloth, ropes } from './cloths.js';
import { soundCloth } from './sound-cloth.js';

const chartOf = (width: number, rows: Stitch[][], more: object = {}): Chart =>
  ChartSchema.parse({ width, rows, ...more });

/** The loops that stand under one, as places of the needle below: what the needle itself says. */
function parentsByNeedle(chart: Chart, r: number): (readonly number[])[] {
  const works = workChart(chart);
  return works[r]!.from.map((f) => (f < 0 ? [] : [f]));
}

describe('the fabric of a chart', () => {
  it('has the rounds of its bands among its rows, which bind each stitch, and strands that lie before them', () => {
    fc.assert(
      fc.property(anyChart(), (any) => {
        const { chart } = unfold(any, 2, 1);
        const fabric = knitFabric(chart);
        const bands = wayOf(chart).takesBands ? chart.bands : {};
        const rounds = Object.values(bands).reduce((sum, band) => sum + band.rounds, 0);
        expect(fabric.needles).to.have.length(chart.rows.length + rounds + 1);
        expect(fabric.bands.map(({ row, rounds: n }) => [fabric.rowOf[row], n])).to.deep.equal(
          Object.entries(bands).map(([r, band]) => [Number(r), band.rounds]),
        );
        for (const { row, rounds: n } of fabric.bands)
          for (let j = 1; j <= n; j++) {
            const needle = fabric.needles[row + j]!;
            expect(needle).to.have.length(fabric.needles[row]!.length);
            expect([...needle].every((loop) => fabric.face[loop] === 1)).to.equal(true);
          }
        // Without them it is the very cloth of a chart that has none.
        const { chart: knitted } = fabric;
        expect(knitFabric({ ...knitted, bands: {} }).wales.length).to.equal(fabric.wales.length);
      }),
      { numRuns: 60 * THOROUGH },
    );
    const tube = chartOf(
      9,
      Array.from({ length: 4 }, () => Array<Stitch>(9).fill('k')),
      { construction: 'round' },
    );
    const banded: Chart = { ...tube, bands: { 2: { every: 5, rounds: 3 } } };
    const [plain, lying] = [tube, banded].map((chart) => {
      const { fabric, lie } = settled(knitFabric(chart), ORDINARY);
      return yarnPaths(fabric, lie);
    }) as [YarnPaths, YarnPaths];
    // A line for each strand, and one for the yarn of each of its rounds.
    expect(lying.lines.length - plain.lines.length).to.equal(6);
  });

  it('of pairs lies in two yarns, and its other side in the same exchanged', () => {
    const pairs = chartOf(
      4,
      [
        ['k', 'p', 'p', 'k'],
        [simpleCrossing('left', 1, 1, 'p'), 'p', 'k'],
      ],
      {
        construction: 'double',
      },
    );
    const fabric = knitFabric(pairs);
    const inB = (f: typeof fabric, n: number) => [...f.needles[n]!].map((loop) => f.second![loop]);
    expect([inB(fabric, 1), inB(fabric, 2)]).to.deep.equal([
      [0, 1, 1, 0],
      [1, 0, 1, 0],
    ]);
    const { chart: behind, side } = seenFrom(pairs, 'WS');
    expect(side).to.equal('RS');
    expect(inB(knitFabric(behind), 1)).to.deep.equal([1, 0, 0, 1]);
    expect(seenFrom({ ...pairs, construction: 'flat' }, 'WS').side).to.equal('WS');
    expect(knitFabric({ ...pairs, construction: 'flat' }).second).to.equal(null);

    // Both colours are on the picture, and in the lines for other programs.
    const plate = smallPicture(pairs, { width: 60, height: 40 }, dyed({ yarn: 'fleece', second: 'woad' }));
    let [light, blue] = [0, 0];
    for (let i = 0; i < plate.rgba.length; i += 4) {
      if (!plate.rgba[i + 3]) continue;
      if (plate.rgba[i]! > plate.rgba[i + 2]!) light++;
      else blue++;
    }
    expect(Math.min(light, blue)).to.be.greaterThan(200);
    const { fabric: settledOne, lie } = settled(fabric, ORDINARY);
    const view = { width: 60, height: 40, scale: 10, x: 2, y: 1, side: 'RS' } as const;
    const svg = clothSvg(
      yarnPaths(settledOne, lie),
      view,
      dyed({ yarn: 'fleece', second: 'woad' }),
      settledOne,
    );
    expect(new Set(svg.match(/stroke="#[0-9a-f]{6}"/g)).size).to.be.greaterThan(6);
  });

  it('on a whole ground keeps its ground straight and whole, and its ropes before it, continued and crossed as charted', () => {
    const ofRopes = soundCloth.map(({ chart }) => chart).filter(takesWholeGround);
    expect(ofRopes.length).to.be.greaterThan(3);
    for (const chart of ofRopes) {
      const [charted, whole] = [knitFabric(chart), knitFabric(chart, 'whole')];
      const { ties, face, row, column, wales } = whole;
      const isRope = new Set(ties.map(({ rope }) => rope));
      const drawn = (fabric: Fabric, { parent, child }: Fabric['wales'][number]) =>
        `${fabric.row[child]}: ${fabric.column[parent]} to ${fabric.column[child]}`;
      // The ground: every cell of every row, each loop drawn through the one straight below it.
      const ground = wales.filter(({ child }) => !isRope.has(child));
      expect(ground).to.have.length(chart.rows.length * chart.width);
      expect(ground.every((w) => column[w.parent] === column[w.child] && face[w.child] === -1)).to.equal(
        true,
      );
      for (const { rope, ground: behind } of ties)
        expect([row[rope], column[rope], face[rope]]).to.deep.equal([row[behind], column[behind], 1]);
      // The ropes: every stitch that shows knit, drawn through what it is drawn through where the ground makes room.
      const knit = charted.wales.filter(
        ({ parent, child }) =>
          charted.face[child] === 1 && charted.face[parent] === 1 && charted.row[parent]! >= 0,
      );
      const ropes = wales.filter(({ parent, child }) => isRope.has(child) && row[parent]! >= 0);
      expect(ropes.map((w) => drawn(whole, w)).sort()).to.deep.equal(
        knit.map((w) => drawn(charted, w)).sort(),
      );
      const crossed = ({ overs, ...fabric }: Fabric) =>
        overs
          .map(({ over, under }) => [fabric.wales[over]!, fabric.wales[under]!] as const)
          .filter((both) => both.every(({ child }) => fabric.face[child] === 1))
          .map((both) => both.map((w) => drawn({ overs, ...fabric }, w)).join(' over '))
          .sort();
      expect(crossed(whole)).to.deep.equal(crossed(charted));
    }
  });

  it('on a whole ground has its ropes stand before the ground at rest, and draws in less than where that makes room', () => {
    const chart = ropes(2, 6);
    const { fabric, lie } = settled(knitFabric(chart, 'whole'));
    // Two yarns clear each other at 0.43; a knit loop reaches back, and a purl one forward, by as much again at most.
    const before = fabric.ties.map(({ rope, ground }) => lie[3 * rope + 2]! - lie[3 * ground + 2]!);
    expect(Math.min(...before)).to.be.greaterThan(0.43);
    const aside = fabric.ties.map(({ rope, ground }) => Math.abs(lie[3 * rope]! - lie[3 * ground]!));
    expect(Math.max(...aside)).to.be.lessThan(1);
    const width = (cloth: KnittedCloth) => extentOf(cloth)!.wide;
    expect(width({ fabric, lie })).to.be.greaterThan(1.1 * width(settled(knitFabric(chart))));
    const { loop } = yarnPaths(fabric, lie);
    expect(new Set(loop).size).to.equal(fabric.size);
    // What no bed can hold keeps its own ground.
    for (const other of [{ ...chart, construction: 'round' as const }, cloth(4, 4, () => 'p')])
      expect(knitFabric(other, 'whole').ties).to.deep.equal([]);
  });

  it('has as many loops on the needle after each row as the needle has, with their faces', () => {
    fc.assert(
      fc.property(anyUnbanded(), (any) => {
        const { chart } = unfold(any, 2, 2);
        const fabric = knitFabric(chart);
        const works = workChart(chart);
        // Of pairs the loops in front are all knit: two fabrics lie back to back.
        const inPairs = wayOf(chart).loops === 2;
        expect(fabric.needles[0]).to.have.length(works[0]!.takes);
        works.forEach(({ loops }, r) => {
          const needle = fabric.needles[r + 1]!;
          expect(needle).to.have.length(loops.length);
          loops.forEach(({ face }, i) => {
            const cast = fabric.row[needle[i]!] === -1;
            expect(fabric.face[needle[i]!], `row ${r + 1}, loop ${i + 1}`).to.equal(
              face === 'knit' || cast || inPairs ? 1 : -1,
            );
          });
        });
      }),
      { numRuns: 60 * THOROUGH },
    );
  });

  it('draws each loop through the one the needle says, in whatever order rounds begin', () => {
    fc.assert(
      fc.property(anyUnbanded(), (any) => {
        const { chart } = unfold(any, 2, 1);
        const fabric = knitFabric(chart);
        chart.rows.forEach((_, r) => {
          const [below, needle] = [fabric.needles[r]!, fabric.needles[r + 1]!];
          parentsByNeedle(chart, r).forEach(([from], i) => {
            const loop = needle[i]!;
            // A loop that was slipped is still the one it was.
            if (fabric.row[loop] !== r) expect(loop).to.equal(below[from!]);
            else if (from !== undefined)
              expect(fabric.wales[fabric.stem[loop]!]!.parent, `row ${r + 1}`).to.equal(below[from]);
          });
        });
      }),
      { numRuns: 60 * THOROUGH },
    );
  });

  it('joins the loops of a row along the yarn, each to the next, and a round to its beginning', () => {
    fc.assert(
      fc.property(anyUnbanded(), (any) => {
        const { chart } = unfold(any, 2, 1);
        const fabric = knitFabric(chart);
        for (let r = -1; r < chart.rows.length; r++) {
          const start = startOf(chart, Math.max(0, r));
          const order = fromStart([...fabric.needles[r + 1]!], start);
          const made = order.filter((loop) => fabric.row[loop] === r);
          const pairs = fabric.courses.filter(({ a }) => fabric.row[a] === r).map(({ a, b }) => [a, b]);
          const wanted = made.slice(1).map((b, i) => [made[i]!, b]);
          if (fabric.isTube && made.length > 1) wanted.push([made.at(-1)!, made[0]!]);
          expect(pairs).to.deep.equal(wanted);
        }
      }),
      { numRuns: 40 * THOROUGH },
    );
  });

  it('keeps a slipped loop where it is and passes it by, in front or behind', () => {
    const fabric = knitFabric(
      chartOf(3, [
        ['k', 'k', 'k'],
        ['k', 'slyf', 'k'],
        ['k', 'slyb', 'k'],
        ['k', 'k', 'k'],
      ]),
    );
    const [held] = [fabric.needles[1]![1]!];
    expect([fabric.needles[2]![1], fabric.needles[3]![1]]).to.deep.equal([held, held]);
    const passing = fabric.courses.filter(({ apart }) => apart > 1);
    expect(passing.map(({ apart, float }) => [apart, float])).to.deep.equal([
      [2, 1],
      [2, -1],
    ]);
    const above = fabric.wales.find(({ parent }) => parent === held)!;
    expect([above.apart, fabric.row[above.child]]).to.deep.equal([3, 3]);
  });

  it('draws decreases through all they take, what lies on top first', () => {
    const top = (stitch: Stitch, takes: number) => {
      const fabric = knitFabric(
        chartOf(takes, [Array<Stitch>(takes).fill('k'), [stitch, ...Array<Stitch>(takes - 1).fill('none')]]),
      );
      const loop = fabric.needles[2]![0]!;
      const wales = fabric.wales.filter(({ child }) => child === loop).sort((a, b) => a.rank - b.rank);
      return wales.map(({ parent }) => [...fabric.needles[1]!].indexOf(parent));
    };
    // From the right: k2tog leaves the left one on top, ssk the right one, a central decrease the middle one.
    expect(top('k2tog', 2)).to.deep.equal([1, 0]);
    expect(top('ssk', 2)).to.deep.equal([0, 1]);
    expect(top('cdd', 3)[0]).to.equal(1);
    expect(top('k5tog', 5)).to.have.length(5);
  });

  it('makes a yarn over of nothing, a make-one of the bar, a lifted one of the loop below its neighbour', () => {
    const row = (made: Stitch): Stitch[][] => [
      ['k', 'k', 'none', 'k'],
      ['k', 'k', 'none', 'k'],
      ['k', 'k', made, 'k'],
    ];
    const parentsOf = (made: Stitch) => {
      const fabric = knitFabric(chartOf(4, row(made)));
      const loop = fabric.needles[3]![2]!;
      return fabric.wales
        .filter(({ child }) => child === loop)
        .map(({ parent }) => [fabric.row[parent], fabric.column[parent]]);
    };
    expect(parentsOf('yo')).to.deep.equal([]);
    expect(parentsOf('m1l')).to.deep.equal([
      [1, 1],
      [1, 3],
    ]);
    // The left lifted increase lifts the loop below the stitch just worked, the right one that below the next.
    expect(parentsOf('lli')).to.deep.equal([[0, 1]]);
    expect(parentsOf('rli')).to.deep.equal([[0, 3]]);
  });

  it('draws several loops out of one, and a bobble as one', () => {
    const fabric = knitFabric(
      chartOf(5, [['none', 'none', 'p', 'none', 'none'], ['kyokyok'], ['k', 'k', 'mb', 'k', 'k']]),
    );
    const five = [...fabric.needles[2]!];
    expect(five.map((i) => fabric.wales[fabric.stem[i]!]!.parent)).to.deep.equal(
      Array<number>(5).fill(fabric.needles[1]![0]!),
    );
    expect(fabric.kind[fabric.needles[3]![2]!]).to.equal(LOOP.bobble);
  });

  it('gives closed ropes a beginning and an end inside the cloth', () => {
    const ground = startChart({ columns: 24, rows: 30, construction: 'flat', ground: 'p' });
    for (const school of ['between', 'within'] as const) {
      const { chart } = drawClosedRopes(ground, {
        row: 4,
        column: 10,
        lean: 'left',
        spread: 2,
        rest: 1,
        school,
      });
      const { fabric, lie } = settled(knitFabric(chart));
      const last = new Set(fabric.needles.at(-1));
      for (let i = 0; i < fabric.size; i++) {
        const where = `${school}: row ${fabric.row[i]! + 1}, column ${fabric.column[i]! + 1}`;
        // Every loop comes out of another, or the bar, and another is drawn through it.
        if (fabric.row[i]! >= 0)
          expect(
            fabric.wales.some(({ child }) => child === i),
            where,
          ).to.equal(true);
        if (!last.has(i))
          expect(
            fabric.wales.some(({ parent }) => parent === i),
            where,
          ).to.equal(true);
      }
      const knit = [...fabric.face.keys()].filter((i) => fabric.face[i] === 1 && fabric.row[i]! >= 0);
      const x = (i: number) => lie[3 * i]!;
      for (const i of knit) {
        const needle = fabric.needles[fabric.row[i]! + 1]!;
        expect(x(needle[0]!)).to.be.greaterThan(x(i) + 2);
        expect(x(needle.at(-1)!)).to.be.lessThan(x(i) - 2);
      }
    }
  });

  it('is knitted as far as it goes where rows do not add up', () => {
    const fabric = knitFabric(
      chartOf(3, [['k', 'k', 'k'], ['k', 'k2tog', 'k2tog', 'k'], ['k'], ['k', 'k', 'k']]),
    );
    expect(fabric.needles.map((n) => n.length)).to.deep.equal([3, 3, 4, 1, 3]);
    expect([...yarnPaths(fabric, settled(fabric).lie).points].every(Number.isFinite)).to.equal(true);
  });

  it('gives each loop one stretch of yarn, with all of flat work one line', () => {
    const fabric = knitFabric(cloth(7, 6, (c, r) => ((c + r) % 3 ? 'k' : 'p')));
    const { loop, lines } = yarnPaths(fabric, settled(fabric).lie);
    // One line for the cloth, one for the chain it is cast off with.
    expect(lines).to.have.length(3);
    const stretches = new Map<number, number>();
    for (let i = 0; i < lines[1]!; i++)
      if (i === 0 || loop[i] !== loop[i - 1]) stretches.set(loop[i]!, (stretches.get(loop[i]!) ?? 0) + 1);
    expect([...stretches.keys()].sort((a, b) => a - b)).to.deep.equal(
      Array.from({ length: fabric.size }, (_, i) => i),
    );
    expect([...stretches.values()].every((n) => n === 1)).to.equal(true);
  });
});
