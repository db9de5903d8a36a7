import { expect } from 'chai';
import {
  castOnOf,
  checkChart,
  crossingOrder,
  readPattern,
  rowCrossings,
  bookOf,
  SettingsSchema,
  workChart,
  writeAndProve,
  type Chart,
  type ReadOptions,
} from '../src/index.js';
import { multipleOf } from '../src/chart/frame.js';

/**
 * Traditional patterns that every stitch dictionary holds, written from memory in the ordinary manner. Their
 * multiples and row counts are what knitters know them by.
 */

interface Traditional {
  name: string;
  text: string;
  options: ReadOptions;
  multiple: { of: number; plus: number };
  castOn: number;
  rows: number;
}

const flat: ReadOptions = { construction: 'flat', firstRow: 'RS', school: 'front-back' };
const round: ReadOptions = { construction: 'round', firstRow: 'RS', school: 'front-back' };

const PATTERNS: Traditional[] = [
  {
    name: 'two by two rib, flat: multiple of 4 plus 2',
    text: 'Cast on 22.\nRow 1 (RS): *k2, p2; rep from * to last 2 sts, k2.\nRow 2: *p2, k2; rep from * to last 2 sts, p2.',
    options: flat,
    multiple: { of: 4, plus: 2 },
    castOn: 22,
    rows: 2,
  },
  {
    name: 'seed stitch over an even number: multiple of 2',
    text: 'Cast on 12.\nRow 1: *k1, p1; rep from * to end.\nRow 2: *p1, k1; rep from * to end.',
    options: flat,
    multiple: { of: 2, plus: 0 },
    castOn: 12,
    rows: 2,
  },
  {
    name: 'simple four-stitch rope on purl: multiple of 6 plus 2, over 4 rows',
    text: 'Cast on 26.\nRow 1 (RS): p2, *k4, p2; rep from * to end.\nRow 2: k2, *p4, k2; rep from * to end.\nRow 3: p2, *2/2 RC, p2; rep from * to end.\nRow 4: as row 2.',
    options: flat,
    multiple: { of: 6, plus: 2 },
    castOn: 26,
    rows: 4,
  },
  {
    name: 'honeycomb: multiple of 8, over 8 rows',
    text: 'Cast on 32.\nRow 1 (RS): *2/2 RC, 2/2 LC; rep from * to end.\nRow 2 and all WS rows: purl across.\nRow 3: knit across.\nRow 5: *2/2 LC, 2/2 RC; rep from * to end.\nRow 7: knit across.\nRow 8: purl across.',
    options: flat,
    multiple: { of: 8, plus: 0 },
    castOn: 32,
    rows: 8,
  },
  {
    name: 'three-strand plait of nine: a panel of 13, over 8 rows',
    text: 'Cast on 13.\nRow 1 (RS): p2, 3/3 RC, k3, p2.\nRow 2 and all WS rows: k2, p9, k2.\nRow 3: p2, k9, p2.\nRow 5: p2, k3, 3/3 LC, p2.\nRow 7: as row 3.\nRow 8: k2, p9, k2.',
    options: flat,
    multiple: { of: 0, plus: 13 },
    castOn: 13,
    rows: 8,
  },
  {
    name: 'wishbone with a centre group: a panel of 9, in the round',
    text: 'Round 1: p2, 2/1/2 LC, p2.\nRounds 2-4: p2, k5, p2.',
    options: round,
    multiple: { of: 0, plus: 9 },
    castOn: 9,
    rows: 4,
  },
  {
    name: 'feather and fan, 18 stitches: what is lost is won again in the row',
    text: 'Cast on 36.\nRow 1 (RS): *[k2tog] 3 times, [yo, k1] 6 times, [k2tog] 3 times; rep from * to end.\nRow 2: purl across.\nRow 3: knit across.\nRow 4: purl across.',
    options: flat,
    multiple: { of: 18, plus: 0 },
    castOn: 36,
    rows: 4,
  },
  {
    name: 'eyelet row on stocking stitch: multiple of 2 plus 2',
    text: 'Cast on 10.\nRow 1 (RS): k1, *yo, k2tog; rep from * to last st, k1.\nRow 2: purl across.',
    options: flat,
    multiple: { of: 2, plus: 2 },
    castOn: 10,
    rows: 2,
  },
];

function read({ text, options }: Traditional): Chart {
  const { chart, problems } = readPattern(text, options);
  expect(problems).to.deep.equal([]);
  return chart!;
}

describe('traditional patterns', () => {
  for (const pattern of PATTERNS)
    it(`${pattern.name}`, () => {
      const chart = read(pattern);
      expect(multipleOf(chart)).to.deep.equal(pattern.multiple);
      expect(castOnOf(chart)).to.equal(pattern.castOn);
      expect(chart.rows).to.have.length(pattern.rows);
      expect(checkChart(chart).filter((f) => f.level === 'error')).to.deep.equal([]);
      expect(writeAndProve(chart, SettingsSchema.parse({})), 'and written again').to.include({
        checked: true,
      });
    });

  it('the honeycomb opens and closes: every rope is home after one repeat', () => {
    const chart = read(PATTERNS[3]!);
    // Follow the stitches of one repeat through its two crossing rows: RC LC, then LC RC.
    let places = Array.from({ length: 8 }, (_, i) => i);
    for (const row of chart.rows)
      for (const { crossing, loop } of rowCrossings(row, bookOf(chart)))
        places = places.map((p, i) => {
          const inside = i >= loop && i < loop + 4;
          return inside ? places[loop + crossingOrder(crossing)[i - loop]!]! : p;
        });
    expect(places).to.deep.equal([0, 1, 2, 3, 4, 5, 6, 7]);
  });

  it('a three-strand plait needs three repeats of its two crossings to bring every strand home', () => {
    const chart = read(PATTERNS[4]!);
    const order = (rows: Chart['rows'], start: number[]) =>
      rows.reduce(
        (strands, row) =>
          rowCrossings(row, bookOf(chart)).reduce((now, { crossing, loop }) => {
            const moved = crossingOrder(crossing).map((from) => now[loop + from]!);
            return [...now.slice(0, loop), ...moved, ...now.slice(loop + moved.length)];
          }, strands),
        start,
      );
    const home = Array.from({ length: 13 }, (_, i) => i);
    const once = order(chart.rows, home);
    const twice = order(chart.rows, once);
    expect(once).not.to.deep.equal(home);
    expect(twice).not.to.deep.equal(home);
    expect(order(chart.rows, twice)).to.deep.equal(home);
  });

  it('feather and fan keeps its count though stitches come and go', () => {
    const chart = read(PATTERNS[6]!);
    expect(workChart(chart).map((w) => w.makes)).to.deep.equal([18, 18, 18, 18]);
  });
});
