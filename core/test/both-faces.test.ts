import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyToChart,
  ChartSchema,
  checkChart,
  crossing,
  isCrossing,
  onOtherSide,
  readPattern,
  ribBlock,
  setBothFaces,
  setConstruction,
  SettingsSchema,
  sidesAlike,
  sideOf,
  simpleCrossing,
  seenBehind,
  workChart,
  writeAndProve,
  type Chart,
  type Stitch,
  type Worked,
} from '../src/index.js';
import { isOneFaced } from '../src/stitches/book.js';
import { EditError } from '../src/chart/edit.js';
import { anyChart, anyEdit, THOROUGH } from './arbitrary.js';

const settings = SettingsSchema.parse({});
const rib4: Worked[] = ['k', 'p', 'k', 'p'];
const many = <T>(n: number, of: T): T[] => Array<T>(n).fill(of);

/** Garter by hand: knit on every row. */
const garter = (n: number, r: number): Stitch[] => many(n, r % 2 ? 'p' : 'k');

/** 6 edge stitches of garter, a ribbed rope crossed 4/4 to the right every 8 rows, 6 edge stitches: worked by hand. */
const rope = (over: Partial<Record<keyof Chart, unknown>> = {}): Chart =>
  ChartSchema.parse({
    width: 20,
    bothFaces: true,
    ground: 'k',
    rows: Array.from({ length: 8 }, (_, r) => [
      ...garter(6, r),
      ...(r === 0 ? [crossing('right', rib4, rib4)] : [...rib4, ...rib4]),
      ...garter(6, r),
    ]),
    ...over,
  });

const ids = (chart: Chart) => checkChart(chart).map(({ id }) => id);

describe('a cloth both of whose faces count', () => {
  it('is written by sides, its ribbed rope by its name (common practice, no source: worked by hand)', () => {
    const { text, checked, castOn } = writeAndProve(rope(), settings);
    expect([checked, castOn]).to.deep.equal([true, 20]);
    expect(text).to.contain('Worked flat, both sides count.');
    expect(text).to.contain('Row 1 (side 1): k6, 4/4 RC in rib, k6.');
    expect(text).to.contain('Row 2 and all side-2 rows: k6, [k1, p1] 4 times, k6.');
    expect(text).to.contain(
      '4/4 RC in rib: sl 4 to cable needle, hold in back, [k1, p1] twice, [k1, p1] twice from cable needle.',
    );
    expect(text).not.to.match(/\b[RW]S\b/);
  });

  it('looks the same from both sides where all that moves is ribbed and all that rests is garter', () => {
    expect(sidesAlike(rope())).to.equal(true);
    const slanting = rope().rows.map((row, r) =>
      r === 4 ? [...garter(4, 0), crossing('left', rib4, ['k', 'k']), ...rib4, ...garter(6, 0)] : row,
    );
    expect(sidesAlike({ ...rope(), rows: slanting })).to.equal(false);
    expect(sidesAlike(rope({ bothFaces: false }))).to.equal(false);
  });

  it('is read back with its sides, from our words and from others that number them', () => {
    const chart = rope();
    const { text } = writeAndProve(chart, settings);
    const read = readPattern(text, { construction: 'flat', firstRow: 'RS' });
    expect(read.problems).to.deep.equal([]);
    expect([read.chart?.rows, read.chart?.bothFaces]).to.deep.equal([chart.rows, true]);
    const others = `Cast on 8 sts.
Row 1 (Side 1): k2, 2/2 LC in rib, k2.
Row 2 (Side 2): k2, [k1, p1] twice, k2.`;
    const told = readPattern(others, { construction: 'flat', firstRow: 'RS', school: 'front-back' });
    expect(told.problems.filter(({ level }) => level === 'error')).to.deep.equal([]);
    expect(told.chart?.bothFaces).to.equal(true);
    expect(told.chart?.rows[0]?.find(isCrossing)).to.equal(crossing('left', ['k', 'p'], ['k', 'p']));
  });

  it('may be crossed on either side, by whole ribs', () => {
    const onWs = rope({
      rows: [garter(20, 0), [...garter(6, 1), crossing('right', rib4, rib4), ...garter(6, 1)]],
    });
    expect(ids(onWs)).not.to.include('wrong-side-crossing');
    expect(ids({ ...onWs, bothFaces: false })).to.include('wrong-side-crossing');
    const odd = rope({
      rows: [[...garter(7, 0), simpleCrossing('right', 3, 3), ...garter(7, 0)], garter(20, 1)],
    });
    const found = checkChart(odd).filter(({ id }) => id === 'odd-group');
    expect(found.map(({ level, row, columns }) => [level, row, columns])).to.deep.equal([
      ['caution', 1, [8, 13]],
    ]);
    expect(ids({ ...odd, bothFaces: false })).not.to.include('odd-group');
    // Of an odd group that is ribbed one thing is told, not two.
    const ribbed = rope({
      rows: [
        [...garter(7, 0), crossing('right', ['k', 'p', 'k'], ['k', 'p', 'k']), ...garter(7, 0)],
        garter(20, 1),
      ],
    });
    expect(ids(ribbed).filter((id) => id.startsWith('odd'))).to.deep.equal(['odd-group']);
  });

  it('tells of what is seen on one side only', () => {
    const bobbled = rope().rows.map((row, r) => (r === 4 ? row.with(2, 'mb') : row));
    const note = checkChart({ ...rope(), rows: bobbled }).find(({ id }) => id === 'one-faced');
    expect([note?.level, note?.row, note?.columns]).to.deep.equal(['note', 5, [3, 3]]);
  });

  it('is a setting that a chart keeps until it is worked in a way that has none', () => {
    const one = setBothFaces(rope({ bothFaces: false }), true).chart;
    expect(one.bothFaces).to.equal(true);
    expect(setConstruction(one, { ...one, construction: 'round' }).chart.bothFaces).to.equal(true);
    expect(ChartSchema.parse({ width: 1, rows: [['k']] }).bothFaces).to.equal(false);
  });
});

describe('the other side of a chart', () => {
  it('is the same twice over', () => {
    fc.assert(
      fc.property(anyChart(), (chart) => {
        expect(seenBehind(seenBehind(chart))).to.deep.equal(chart);
      }),
      { numRuns: 200 * THOROUGH },
    );
  });

  it('keeps every lean and exchanges front and back, knit and purl', () => {
    const chart = rope({
      rows: [
        [...many<Stitch>(3, 'k'), crossing('left', ['k', 'k', 'k'], ['p', 'p']), ...many<Stitch>(12, 'p')],
      ],
    });
    expect(seenBehind(chart).rows[0]).to.deep.equal([
      ...many<Stitch>(12, 'k'),
      crossing('left', ['k', 'k'], ['p', 'p', 'p']),
      ...many<Stitch>(3, 'p'),
    ]);
  });

  it('shows every loop of the needle with its other face, from its other end', () => {
    fc.assert(
      fc.property(anyChart(), (chart) => {
        // A slip below which nothing is worked keeps a loop that was only cast on, and has no face yet.
        fc.pre(!chart.rows.flat().some((s) => isOneFaced(s) || s === 'slyb' || s === 'slyf'));
        const [own, other] = [workChart(chart), workChart(seenBehind(chart))];
        own.forEach(({ loops }, r) => {
          const seen = [...other[r]!.loops].reverse();
          expect(seen.map(({ face }) => face)).to.deep.equal(
            loops.map(({ face }) => (face === 'knit' ? 'purl' : 'knit')),
          );
          expect(seen.map(({ twisted }) => twisted)).to.deep.equal(loops.map(({ twisted }) => twisted));
        });
      }),
      { numRuns: 200 * THOROUGH },
    );
  });

  it('is worked by the same hands: what a flat row says on one side it says on the other', () => {
    fc.assert(
      fc.property(anyChart(), (chart) => {
        fc.pre(chart.construction === 'flat' && !chart.rows.flat().some(isOneFaced));
        const plain = {
          ...chart,
          across: null,
          jogs: {},
          rows: chart.rows.map((row) => row.filter((s) => !isCrossing(s))),
        };
        const even = ChartSchema.safeParse({ ...plain, width: chart.width });
        fc.pre(even.success);
        const words = (c: Chart) => writeAndProve(c, settings).rows.map(({ words }) => words);
        expect(words(seenBehind(plain))).to.deep.equal(words(plain));
        chart.rows.forEach((_, r) => expect(sideOf(seenBehind(chart), r)).not.to.equal(sideOf(chart, r)));
      }),
      { numRuns: 100 * THOROUGH },
    );
  });

  it('is edited like the chart itself, whose steps lead to what was made', () => {
    fc.assert(
      fc.property(anyChart(), anyEdit, (chart, edit) => {
        let made;
        try {
          made = onOtherSide(edit)(chart);
        } catch (error) {
          if (error instanceof EditError) return;
          throw error;
        }
        expect(made.chart).to.deep.equal(seenBehind(edit(seenBehind(chart)).chart));
        expect(applyToChart(chart, made.steps)).to.deep.equal(made.chart);
      }),
      { numRuns: 300 * THOROUGH },
    );
  });
});

describe('ribbing a block', () => {
  const block = { rows: { from: 0, to: 7 }, columns: { from: 6, to: 13 } };
  const bare = (): Chart =>
    rope({
      rows: rope().rows.map((_, r) => [
        ...garter(6, r),
        ...(r === 0 ? [simpleCrossing('right', 4, 4)] : many<Stitch>(8, 'k')),
        ...garter(6, r),
      ]),
    });

  it('makes one stroke of a plain rope a ribbed one', () => {
    const made = ribBlock(bare(), block);
    expect(made.chart.rows).to.deep.equal(rope().rows);
    expect(applyToChart(bare(), made.steps)).to.deep.equal(made.chart);
    expect(ribBlock(made.chart, block).steps).to.deep.equal([]);
  });

  it('refuses half a rib, and a crossing that would begin within one', () => {
    expect(() => ribBlock(bare(), { ...block, columns: { from: 6, to: 12 } })).to.throw(
      EditError,
      'two columns wide',
    );
    expect(() => ribBlock(bare(), { ...block, columns: { from: 5, to: 14 } })).to.throw(
      EditError,
      'within a rib',
    );
  });
});
