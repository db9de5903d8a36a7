import { expect } from 'chai';
import {
  ChartSchema,
  readPattern,
  readPatterns,
  rowFromWords,
  SettingsSchema,
  simpleCrossing,
  type ReadOptions,
  type Stitch,
} from '../src/index.js';
import { RowWordsError } from '../src/words/row-words.js';

const flat: ReadOptions = { construction: 'flat', firstRow: 'RS' };
const read = (text: string, options: Partial<ReadOptions> = {}) => readPattern(text, { ...flat, ...options });
const P = (text: string): Stitch[] => [...text];

describe('reading written rows', () => {
  it('says why no repeat is taken where the repeats of the rows do not stand above each other', () => {
    const { chart, problems } = read(
      'Cast on 12 sts.\nRow 1: *k3, yo; rep from * to end.\nRow 2: *p2; rep from * to end.',
    );
    expect(chart!.across).to.equal(null);
    expect(problems.map((p) => p.id)).to.deep.equal(['repeat-not-taken']);
  });

  it('goes on behind a set-up row, and begins a new pattern where numbers begin again', () => {
    const text =
      'Cuff\n\nSet-up row (WS): k2, p4, k2.\nRow 1: p2, C4F, p2.\nRow 2: k2, p4, k2.\n\nHand\n\nRow 1: k8.\nRow 2: p8.';
    const sections = readPatterns(text, { construction: 'flat', firstRow: 'RS' });
    expect(sections.map((s) => [s.title, s.reading.chart?.rows.length])).to.deep.equal([
      ['Cuff', 3],
      ['Hand', 2],
    ]);
  });

  it('refuses more words than a pattern has before any is read', () => {
    const { chart, problems } = read(`Row 1: ${'k1, '.repeat(4000)}k1\n`.repeat(11));
    expect(chart).to.equal(null);
    expect(problems.map((p) => p.message)).to.deep.equal([
      'The text has 44000 words between commas; at most 40000 are read. Give one pattern at a time.',
    ]);
  });

  it('takes the manners patterns are printed in', () => {
    const { chart, problems } = read(`
      A line for the pleasure of it.
      CO 16 sts.
      Row 1 (RS): K2, [p2, k2] 3 times, p2.
      Row 2 and all WS rows: knit the knits and purl the purls.
      Rows 3, 5: *k2, p2; repeat from * across.
      Row 6: work the stitches as they present.
    `);
    // Row 1 is counted out, and works on no other number of stitches: there is no repeat to take.
    expect(problems.map((p) => [p.id, p.level])).to.deep.equal([['repeat-not-taken', 'note']]);
    expect(chart!.across).to.equal(null);
    expect(chart!.rows.map((r) => r.join(''))).to.deep.equal(Array(6).fill('kkppkkppkkppkkpp'));
  });

  // Manners met in printed patterns: common practice, no source.
  for (const [what, text, rows] of [
    [
      'whole rows by one word',
      'Using the larger needles, cast on 3 sts.\nRow 1: Knit.\nRow 2: Purl all sts.',
      ['kkk', 'kkk'],
    ],
    [
      'rows numbered with ordinals, the side after the colon',
      'CO 4\n1st row: (RS) K2, P2.\n2nd row: K2, P2.',
      ['kkpp', 'kkpp'],
    ],
    [
      'brackets to a place',
      'Cast on 7.\nRow 1: k1, [p1, k1] to end.\nRow 2: p1, [k1, p1] to last 2 sts, p2.',
      ['kpkpkpk', 'kkkpkpk'],
    ],
    ['a repeat that ends with', 'Cast on 10.\nRow 1: *k2, p2; rep from *, ending with, k2.', ['kkppkkppkk']],
    ['a full stop before the repeat', 'Cast on 6.\nRow 1: *K1, P1. Repeat from * to end.', ['kpkpkp']],
    ['a number of times more', 'Cast on 6.\nRow 1: *k1, p1, rep from * 2 more times.', ['kpkpkp']],
    ['counts without brackets', 'Row 1: k2, yo, k1. 4 sts.\nRow 2: p4 – 4 sts.', ['k k yo k', 'kkkk']],
    [
      'slips that do not speak of the yarn',
      'Cast on 3.\nRow 1: k1, sl 1, k1.\nRow 2: p1, sl1, p1.',
      ['k slyb k', 'k slyb k'],
    ],
  ] as const)
    it(`takes ${what}`, () => {
      const { chart, problems } = read(text);
      expect(problems).to.deep.equal([]);
      const across = chart!.across;
      const rowTexts = chart!.rows.map((row) => {
        const [b, e] = across ? [across.before, chart!.width - across.after] : [0, 0];
        const times = across?.times ?? 1;
        const all = across
          ? [...row.slice(0, b), ...Array(times).fill(row.slice(b, e)).flat(), ...row.slice(e)]
          : row;
        return all.join(all.some((s) => String(s).length > 1) ? ' ' : '');
      });
      expect(rowTexts).to.deep.equal(rows);
    });

  it('takes lines that hold for all rows like them, the last row too', () => {
    const even = read('Round 1: k4.\nRound 2 and all even rounds: p4.\nRound 3: k2, p2.', {
      construction: 'round',
    });
    expect(even.problems).to.deep.equal([]);
    expect(even.chart!.rows.map((r) => r.join(''))).to.deep.equal(['kkkk', 'pppp', 'kkpp', 'pppp']);
    const alternate = read('Row 1: k4.\nRow 2 and every alternate row: p4.\nRow 5: k4.\nRow 3: k4.');
    expect(alternate.chart!.rows).to.have.length(6);
    const planned = read(
      'Row 1: k4.\nRow 2 and all WS rows: p4.\nRow 3: k4.\nWork rows 1–4 a total of 3 times.',
    );
    expect(planned.chart!.up).to.deep.equal({ setup: 0, closing: 0, times: 3 });
  });

  it('finds the smallest cast-on when none is stated', () => {
    const { chart } = read('Row 1: k1, *p2, k3; rep from * to last 3 sts, p2, k1.');
    expect(chart!.across).to.deep.equal({ before: 1, after: 3, times: 1, least: 1 });
    expect(chart!.width).to.equal(9);
  });

  it('joins rows broken over lines, and reads ranges and "as row n"', () => {
    const { chart, problems } = read('Rows 1-2: k4,\n  p2.\nRow 3: as row 1.', { construction: 'round' });
    expect(problems).to.deep.equal([]);
    expect(chart!.rows).to.deep.equal([P('kkkkpp'), P('kkkkpp'), P('kkkkpp')]);
  });

  it('lays out rows whose counts change, columns opening where loops are won', () => {
    const { chart, problems } = read(
      'Cast on 6 sts.\nRound 1: *k1, yo, k1; rep from * to end.\nRound 2: *k1, k2tog; rep from * to end.',
      { construction: 'round' },
    );
    expect(problems).to.deep.equal([]);
    expect(chart!.rows).to.deep.equal([
      ['k', 'yo', 'k'],
      ['k', 'none', 'k2tog'],
    ]);
    expect(chart!.across).to.include({ times: 3 });
  });

  it('reads crossings by name, in words, and from the key', () => {
    const text =
      'Row 1: p1, 2/2 LC, (sl 1 to cn, hold in back, k2, p1 from cn), p1.\nRow 2: k1, p2, k1, p4, k1.\nRow 3: p1, Fold, k3, p1.\n\nKey\nFold: sl 1 to cable needle, hold in front, k3, k1 from cable needle.';
    const { chart, problems } = read(text);
    expect(problems).to.deep.equal([]);
    expect(chart!.rows[0]).to.deep.equal([
      'p',
      simpleCrossing('left', 2, 2),
      simpleCrossing('right', 2, 1, 'p'),
      'p',
    ]);
    expect(chart!.rows[2]![1]).to.deep.equal(simpleCrossing('left', 1, 3));
  });

  const only = (text: string, options: Partial<ReadOptions> = {}) =>
    read(text, options).problems.map((p) => [p.id, p.row, p.message]);
  for (const [what, text, id, message] of [
    [
      'stitches left over',
      'Cast on 24.\nRow 1: *k3, p3; rep from * to last 6 sts, k2, p3.',
      'row-leaves-stitches',
      'Row 1 works 23 of 24 stitches: 1 is left over at the end.',
    ],
    [
      'stitches that are not there',
      'Cast on 4.\nRow 1: k5.',
      'row-overruns',
      'Row 1 works more than the 4 stitches on the needle: at "k5" only 4 are left.',
    ],
    [
      'a repeat that does not come out',
      'Cast on 11.\nRow 1: *k3; rep from * to end.',
      'repeat-uneven',
      'Row 1 does not come out: after 3 repeats 2 stitches are left, too few for another.',
    ],
    [
      'a name nobody knows',
      'Row 1: k2, wobble, k2.',
      'unknown-name',
      'Row 1: "wobble" is not a stitch or crossing known here.',
    ],
    [
      'a total that may be divided in more ways',
      'Row 1: k2, C5F, k2.',
      'ambiguous-name',
      'does not say how its stitches are divided',
    ],
    [
      'numbers whose school decides',
      'Row 1: k2, 1/3 LC, k2.',
      'ambiguous-name',
      'worked first / worked second',
    ],
    [
      'a line that is not understood',
      'Row 1: k2, (p2.',
      'not-understood',
      'The bracket "(" that opens here is not closed.',
    ],
    ['a row left out', 'Row 1: k2.\nRow 3: k2.', 'row-missing', 'Row 2 is not written.'],
    ['a row written twice', 'Row 1: k2.\nRow 1: p2.', 'row-twice', 'written twice'],
    ['a side that cannot be', 'Row 1 (RS): k2.\nRow 2 (RS): k2.', 'wrong-side', 'worked on the WS'],
    ['a count that is not so', 'Row 1: k2. (3 sts)', 'count-differs', 'says 3 stitches; the needle holds 2'],
    [
      'one name with two meanings',
      'Row 1: k2.\nKey\nFold: sl 1 to cn, hold in front, k1, k1 from cn.\nFold: sl 1 to cn, hold in back, k1, k1 from cn.',
      'same-name',
      'two different meanings',
    ],
    [
      'steps that do not add up',
      'Row 1: k2.\nKey\nFold: sl 2 to cn, hold in front, k1, k1 from cn.',
      'bad-steps',
      'slip 2 to the cable needle but work 1',
    ],
    [
      'a circle of references',
      'Row 1: as row 2.\nRow 2: as row 1.',
      'row-missing',
      'Row 1 is as row 2, which is not written out.',
    ],
    ['no rows at all', 'Hello.', 'no-rows', 'No written row was found'],
    ['more rows than a chart holds', 'Row 5000: k1.', 'too-many-rows', 'at most 1200 rows'],
  ] as const)
    it(`says so of ${what}`, () => {
      const found = only(text).find((p) => p[0] === id);
      expect(found, JSON.stringify(only(text))).not.to.equal(undefined);
      expect(found![2]).to.contain(message);
    });

  it('does not need to ask when the school is given', () => {
    expect(only('Row 1: k2, 1/3 LC, k2.', { school: 'worked-order' })).to.deep.equal([]);
  });

  it('shows a row that cannot be worked as plain ground, and keeps the others', () => {
    const { chart, problems } = read('Cast on 4.\nRow 1: k4.\nRow 2: p5.\nRow 3: k4.');
    expect(problems.map((p) => p.row)).to.deep.equal([2]);
    expect(chart!.rows.map((r) => r.join(''))).to.deep.equal(['kkkk', 'pppp', 'kkkk']);
  });

  const many = (n: number, words: string) =>
    Array.from({ length: n }, (_, i) => `Row ${i + 1}: ${words}`).join('\n');
  for (const [what, text, id] of [
    ['brackets without end', `Row 1: ${'['.repeat(9000)}`, 'not-understood'],
    ['a needle that doubles in every row', many(400, '*k1, yo; rep from * to end.'), 'too-much-work'],
    ['a crossing of a thousand million stitches', 'Row 1: 999999999/999999999 LC.', 'unknown-name'],
    ['a total of as many', 'Row 1: C999999999F.', 'unknown-name'],
    ['brackets that work nothing', 'Row 1: [k0] 999999999 times.', 'not-understood'],
    [
      'brackets in brackets that work nothing',
      'Row 1: [[[k0] 9999 times] 9999 times] 9999 times.',
      'too-much-work',
    ],
    [
      'a cast-on of more than is worked',
      'Cast on 5000.\nRow 1: *k1, p1; rep from * to end.',
      'cast-on-too-large',
    ],
    ['rows written thousands of times', Array(4000).fill('Rows 1-1200: k1.').join('\n'), 'too-many-rows'],
  ] as const)
    it(`is bounded by what a chart may hold: ${what}`, () => {
      const { problems } = readPattern(text, { construction: 'flat', firstRow: 'RS' });
      expect(problems[0]!.id).to.equal(id);
      expect(JSON.stringify(problems).length).to.be.below(20_000);
    });

  const told = (text: string) => read(text).problems.map((p) => p.message);

  it('tells in the language’s own words what is wrong with a row', () => {
    expect(told('Rows 3-1: k1.')[0]!).to.equal('Row 3: Rows 3–1 are not a range.');
    expect(told('Row 1234567: k1.')[0]!).to.equal('Row 1234567: "1234567…" is too large a number.');
  });

  // A centre group lies behind both ropes: steps that lay it elsewhere, or leave it open, are not read as that.
  it('asks where a centre group lies when the steps do not say it', () => {
    const row = (second: string) =>
      told(
        `Cast on 5.\nRow 1: (sl 2 to cable needle, hold in back, sl 1 to second cable needle, hold in ${second}, k2, p1 from second cable needle, k2 from cable needle).`,
      );
    expect(row('back behind the other')).to.deep.equal([]);
    expect(row('back')[0]!).to.contain('say which lies deeper');
    expect(row('back in front of the other')[0]!).to.contain('lies between the ropes');
    expect(row('front')[0]!).to.contain('would lie over a rope');
  });

  it('is not led into endless work', () => {
    for (const text of [
      'Row 1: *yo; rep from * to end.',
      'Cast on 5.\nRow 1: *yo; rep from * to end.',
      'Row 1: [[k99999] 9999 times] 9999 times.',
      'Rows 1-99999: k1.',
      `Row 1: ${'['.repeat(400)}k1${'] twice'.repeat(400)}.`,
      `Row 1: ${'['.repeat(60)}k1.`,
    ])
      expect(only(text).length, text).to.be.greaterThan(0);
  });
});

describe('a row written on the bench', () => {
  const settings = SettingsSchema.parse({});
  const chart = ChartSchema.parse({
    width: 7,
    rows: [P('ppkkkkp'), ['p', 'p', 'k2tog', 'none', 'k', 'k', 'p'], ['p', 'p', 'k', 'none', 'k', 'k', 'p']],
  });

  it('becomes the row of the chart, its gaps where they were', () => {
    expect(rowFromWords(chart, 0, 'p1, [k1, p1] 3 times', settings)).to.deep.equal(P('pkpkpkp'));
    expect(rowFromWords(chart, 2, 'Row 3: k6', settings)).to.deep.equal([
      'k',
      'k',
      'k',
      'none',
      'k',
      'k',
      'k',
    ]);
    expect(rowFromWords(chart, 0, 'p2, 2/2 LC, p1.', settings)[2]).to.equal(simpleCrossing('left', 2, 2));
  });

  for (const [words, why] of [
    ['k5', 'works 5 of 7 stitches'],
    ['k8', 'more than the 7 stitches'],
    ['k3, jump', 'not a stitch'],
    ['k3 (', 'that opens here is not closed'],
    ['k3 & p', 'was not understood'],
    ['as row 9', 'has no row 9'],
    ['kfb, k6', 'fill 8 columns'],
  ] as const)
    it(`is refused when it is "${words}"`, () => {
      expect(() => rowFromWords(chart, 0, words, settings)).to.throw(RowWordsError, why);
    });
});
