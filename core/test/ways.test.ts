import { expect } from 'chai';
import fc from 'fast-check';
import {
  allWays,
  ChartSchema,
  checkChart,
  DocumentError,
  expandPiece,
  knitFabric,
  NO_STITCH,
  PieceSchema,
  readDesign,
  readPattern,
  rowTitle,
  settle,
  SettingsSchema,
  simpleCrossing,
  startDesign,
  unrelaxed,
  wayOf,
  writeAndProve,
  type Chart,
} from '../src/index.js';
import { CHECKS } from '../src/checks/index.js';
import { unprovedWays } from '../src/words/proof/way.js';
import { anyChart, anyWay, THOROUGH } from './arbitrary.js';
import { INSIDE_OUT } from './inside-out.js';

const settings = SettingsSchema.parse({});
const left = simpleCrossing('left', 2, 2);
const rope = (over: object = {}): Chart =>
  ChartSchema.parse({
    width: 8,
    construction: INSIDE_OUT,
    rows: [
      ['p', 'p', left, 'p', 'p'],
      ['p', 'p', 'k', 'k', 'k', 'k', 'p', 'p'],
    ],
    ...over,
  });

describe('the ways of working', () => {
  it('are each known to the proof by its own account', () => {
    expect(unprovedWays()).to.deep.equal([]);
    expect(new Set(allWays().map(({ id }) => id)).size).to.equal(allWays().length);
  });

  it('name only checks that there are', () => {
    const known = CHECKS.flatMap(({ tells }) => Object.keys(tells));
    for (const { checks } of allWays()) expect(known).to.include.members([...checks]);
  });

  it('are the very same for charts whose rows go alike, so that they can be remembered by', () => {
    fc.assert(
      fc.property(anyChart(), (chart) => {
        const again: Chart = { ...chart, rows: [...chart.rows] };
        expect(wayOf(chart)).to.equal(wayOf(again));
        chart.rows.forEach((_, r) => {
          const way = wayOf(chart);
          expect(way.sideAt(r + way.rowsToSameSide)).to.equal(way.sideAt(r));
          if (way.shifts === 'repeat') expect(way.startAt(r)).to.equal(0);
        });
      }),
    );
    const shifted = { construction: 'round' as const, jogs: { 1: 2 } };
    expect(wayOf(shifted)).to.equal(wayOf({ ...shifted }));
    expect(wayOf(shifted)).not.to.equal(wayOf({ ...shifted, jogs: { 1: 3 } }));
  });

  it('are refused by a name that none has', () => {
    const { error } = ChartSchema.safeParse({ width: 1, rows: [['k']], construction: 'sideways' });
    expect(error!.issues[0]!.message).to.include('flat, round');
    // Whatever else it says: what follows from a way is not asked of one there is not.
    for (const construction of ['', '💚', '__proto__', null, 7, {}])
      for (const jogs of [{}, { 0: 1 }]) {
        const bad = {
          width: 2,
          rows: [['k', 'k']],
          jogs,
          across: { before: 0, after: 0, times: 1, least: 1 },
        };
        expect(ChartSchema.safeParse({ ...bad, construction }).success).to.be.false;
        expect(PieceSchema.safeParse({ construction }).success).to.be.false;
      }
  });
});

describe('a way that only the tests have', () => {
  const words = () => writeAndProve(rope(), settings);

  it('is written as its hands work it: from the left, the other faces, front and back changed over', () => {
    const { text, checked } = words();
    expect(checked).to.be.true;
    expect(text).to.include('Worked in the round inside out.');
    // Worked by hand: seen from inside the rope is purled on a knit ground; its back group is met first.
    expect(text).to.include('Round 1: k2, 2/2 LC, k2. (8 sts)');
    expect(text).to.include('Round 2: k2, p4, k2. (8 sts)');
    expect(text).to.match(/2\/2 LC.*: sl 2 to cable needle, hold in front, p2, p2 from cable needle\./);
    expect(text).not.to.match(/\((?:RS|WS)\):.*k2, p4/);
  });

  it('is read back, by its name or by what was asked for', () => {
    const { text } = words();
    for (const [said, construction] of [
      [text, 'flat'],
      [text.replace('Worked in the round inside out.', 'Knit inside out.'), 'round'],
      [text.replace('Worked in the round inside out.\n', ''), INSIDE_OUT],
    ] as const) {
      const { chart, problems } = readPattern(said, { construction, firstRow: 'RS', school: 'front-back' });
      expect(problems.filter((p) => p.level !== 'note')).to.deep.equal([]);
      expect(chart!.construction).to.equal(INSIDE_OUT);
      expect(chart!.rows).to.deep.equal(rope().rows);
    }
    // A right-side row is one that this way has not.
    const { problems } = readPattern(text.replace('Round 1:', 'Round 1 (RS):'), {
      construction: INSIDE_OUT,
      firstRow: 'RS',
      school: 'front-back',
    });
    expect(problems.map((p) => p.id)).to.include('construction-differs');
  });

  it('has the checks it says and no others: crossings where they are seen from behind are its custom', () => {
    expect(checkChart(rope()).map((f) => f.id)).not.to.include('wrong-side-crossing');
    expect(checkChart(rope({ construction: 'flat', firstRow: 'WS' })).map((f) => f.id)).to.include(
      'wrong-side-crossing',
    );
    const astray = rope({ jogs: { 1: 2 }, up: { setup: 0, closing: 0, times: 2 } });
    expect(checkChart(astray).map((f) => f.id)).to.include('round-start');
    const odd = rope({ up: { setup: 0, closing: 1, times: 2 } });
    expect(checkChart(odd).map((f) => f.id)).not.to.include('odd-row-repeat');
  });

  it('is a tube of cloth, alike to that of the round: it is only seen from its other side', () => {
    const [inside, round] = [INSIDE_OUT, 'round' as const].map((construction) => {
      const fabric = knitFabric(rope({ construction }));
      const lie = unrelaxed(fabric);
      for (const _ of settle({ fabric, lie }));
      return [...lie];
    });
    expect(inside).to.deep.equal(round);
  });
});

describe('any way of working', () => {
  it('works every stitch of a sound chart and no other, in rows that are called as it calls them', () => {
    fc.assert(
      fc.property(anyChart(), anyWay(), (drawn, construction) => {
        const chart = { ...drawn, construction, jogs: {} };
        const { row } = wayOf(chart);
        expect(rowTitle(chart, 3).toLowerCase()).to.equal(`${row} 3`);
        fc.pre(!checkChart(chart).some((f) => f.level === 'error'));
        const piece = expandPiece(chart);
        piece.forEach(({ side }, r) => expect(side).to.equal(wayOf(chart).sideAt(r)));
        const { text, checked } = writeAndProve(chart, settings);
        expect(checked, text).to.be.true;
        const read = readPattern(text, { construction: 'flat', firstRow: 'RS' });
        expect(read.problems.filter((p) => p.level !== 'note')).to.deep.equal([]);
        expect(expandPiece(read.chart!).map((r) => r.stitches.filter((s) => s !== NO_STITCH))).to.deep.equal(
          piece.map((r) => r.stitches.filter((s) => s !== NO_STITCH)),
        );
      }),
      { numRuns: 60 * THOROUGH },
    );
  });

  it('is refused by its name where it is not known, and what was to be read stays as it was', () => {
    const design = startDesign('5c0ee000-0000-4000-8000-0000000000ff', 'Of another day', rope());
    const strange = { ...design, charts: [{ ...design.charts[0]!, construction: 'sideways' }] };
    const before = JSON.stringify(strange);
    expect(() => readDesign(strange)).to.throw(DocumentError, 'a way that is not known here ("sideways")');
    expect(JSON.stringify(strange)).to.equal(before);
  });
});
