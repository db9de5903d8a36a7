import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  crossing,
  crossingsNamed,
  EditError,
  expandPiece,
  mirrorCrossing,
  nameOf,
  namingOf,
  readPattern,
  SCHOOLS,
  SettingsSchema,
  showTwists,
  simpleCrossing,
  startOn,
  writeAndProve,
  type Chart,
  type Crossing,
  type Stitch,
} from '../src/index.js';
import { twistOf, TWIST_METHODS } from '../src/stitches/twist.js';
import { type Start } from '../src/workroom/start-cloth.js';
import { anyWay } from './arbitrary.js';
import { chart, k, L, p } from './panels.js';

/** Words as a master writes them (custom: common practice, no source), and what they are read as. */

const settings = (over: object = {}) => SettingsSchema.parse(over);
const wordsOf = (c: object, over: object = {}): string => {
  const { text, checked, problems } = writeAndProve(ChartSchema.parse(c), settings(over));
  expect(problems.map((one) => one.message)).to.deep.equal([]);
  expect(checked).to.be.true;
  return text;
};
const rowOf = (text: string, head: string): string =>
  new RegExp(`^${head.replace(/[()]/g, '\\$&')}: (.*?)\\.(?: \\(|$)`, 'm').exec(text)?.[1] ??
  `no ${head} in ${text}`;
const flat = { construction: 'flat', firstRow: 'RS', school: 'front-back' } as const;

describe('a row of one stitch', () => {
  it('is told by one word, whatever its multiple, on both sides', () => {
    for (const across of [null, { before: 1, after: 1, times: 4 }, { before: 0, after: 3, times: 2 }]) {
      const garter = wordsOf({ width: 13, rows: [k(13), p(13)], across });
      expect([rowOf(garter, 'Row 1 (RS)'), rowOf(garter, 'Row 2 (WS)')]).to.deep.equal(['knit', 'knit']);
      const stocking = wordsOf({ width: 13, rows: [k(13), k(13)], across });
      expect([rowOf(stocking, 'Row 1 (RS)'), rowOf(stocking, 'Row 2 (WS)')]).to.deep.equal(['knit', 'purl']);
    }
    expect(rowOf(wordsOf({ width: 4, construction: 'round', rows: [p(4)] }), 'Round 1')).to.equal('purl');
  });

  it('is no such row where another stitch stands in it', () => {
    expect(rowOf(wordsOf({ width: 5, rows: [[...k(4), 'ktbl']] }), 'Row 1 (RS)')).to.equal('k4, k1 tbl');
  });
});

describe('ribs and runs', () => {
  const round = (row: Stitch[]) => rowOf(wordsOf(chart([row], { construction: 'round' })), 'Round 1');
  const rib = (times: number): Stitch[] => Array.from({ length: times }, () => ['k', 'p'] as Stitch[]).flat();

  it('are told whole between the runs beside them, with as much on one side as on the other', () => {
    expect(round([...k(6), ...rib(4), ...k(6)])).to.equal('k6, [k1, p1] 4 times, k6');
    expect(round([...p(5), ...rib(4), ...p(4)])).to.equal('p5, [k1, p1] 4 times, p4');
  });

  it('that adjoin are one, over the line of the repeat too', () => {
    expect(round([...p(2), ...p(6), ...p(1), ...k(3)])).to.equal('p9, k3');
    const text = wordsOf({
      width: 16,
      construction: 'round',
      rows: [[...p(4), ...k(4), ...p(4), ...k(4)]],
      across: { before: 0, after: 8, times: 3 },
    });
    expect(rowOf(text, 'Round 1')).to.equal('*p4, k4; rep from * to end');
  });

  it('are told "twice" where they are two', () => {
    expect(round([...p(3), L, ...p(3), L, ...k(2)])).to.equal('[p3, 2/2 LC] twice, k2');
  });

  it('of any row come back as the row they were', () => {
    const cell = fc.constantFrom<Stitch[]>(['k'], ['p'], ['k', 'p'], ['k', 'p', 'k', 'p'], k(3), p(2), [L]);
    fc.assert(
      fc.property(fc.array(cell, { minLength: 1, maxLength: 14 }), (cells) => {
        const row = cells.flat();
        const c = chart([row], { construction: 'round' });
        const { text, checked } = writeAndProve(c, settings());
        expect(checked).to.be.true;
        const read = readPattern(text, { ...flat, construction: 'round' });
        expect(expandPiece(read.chart!)[0]!.stitches).to.deep.equal(expandPiece(c)[0]!.stitches);
      }),
    );
  });
});

describe('the multiple', () => {
  it('is in lowest form, with the least it may be worked on, and the repeats counted by it', () => {
    const rope = [...p(2), ...k(4)];
    const text = wordsOf({
      width: 14,
      rows: [[...rope, ...rope, ...p(2)]],
      across: { before: 0, after: 8, times: 3 },
    });
    expect(text).to.include('Multiple of 6 sts plus 2');
    expect(text).to.match(/Cast on 26 sts \(4 repeats\)/);
  });
});

describe('rows that are alike', () => {
  const plain = [...k(4), ...p(2)];
  const rowsFor = (n: number, odd: readonly number[]) =>
    Array.from({ length: n }, (_, r): Stitch[] =>
      odd.includes(r) ? [...k(3), ...p(3)] : r % 4 === 2 ? [L, ...p(2)] : plain,
    );

  it('share a line but for those that are others', () => {
    expect(wordsOf({ width: 6, rows: rowsFor(16, []) })).to.include('Row 2 and all WS rows: k2, p4.');
    expect(wordsOf({ width: 6, rows: rowsFor(16, [9]) })).to.include('Row 2 and all WS rows but 10: k2, p4.');
    const two = wordsOf({ width: 6, rows: rowsFor(16, [9, 15]) });
    expect(two).to.include('Row 2 and all WS rows but 10 and 16: k2, p4.');
    // Short enough to be told again.
    expect(two).to.match(/^Row 16 \(WS\): k3, p3\./m);
    const rounds = rowsFor(16, [9]).map((row, r) => (r % 2 ? row : [L, ...p(2)]));
    const round = wordsOf({ width: 6, construction: 'round', rows: rounds });
    expect(round).to.include('Round 2 and all even rounds but 10: k4, p2.');
  });

  it('come back as the rows they were, whichever are others', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(15), { maxLength: 5 }), anyWay(), (odd, construction) => {
        const c = ChartSchema.parse({ width: 6, construction, rows: rowsFor(16, odd) });
        const { text, checked } = writeAndProve(c, settings());
        expect(checked, text).to.be.true;
        const read = readPattern(text, { ...flat, construction });
        expect(read.problems.filter((f) => f.level === 'error')).to.deep.equal([]);
        expect(read.chart!.rows).to.deep.equal(c.rows);
      }),
    );
  });
});

describe('rows worked to a length', () => {
  const rows = [
    [...p(2), ...k(4), ...p(2)],
    [...p(2), ...k(4), ...p(2)],
    [...p(2), L, ...p(2)],
    [...p(2), ...k(4), ...p(2)],
  ];
  const up = { setup: 0, closing: 0, times: 5 };
  const open = { style: { length: 'open' } };
  const body = `Cast on 8 sts.
Row 1 (RS): p2, k4, p2.
Row 2 and all WS rows: k2, p4, k2.
Row 3: p2, 2/2 LC, p2.
Row 4: k2, p4, k2.
`;
  const read = (foot: string) => readPattern(body + foot, flat);

  it('are told so, with the row they end with, and read back', () => {
    expect(wordsOf({ width: 8, rows, up }, open)).to.include(
      'Work rows 1–4 over and over to the length wished',
    );
    const text = wordsOf({ width: 8, rows, up: { ...up, end: 2 } }, open);
    expect(text).to.include('over and over to the length wished, ending with row 2.');
    expect(read(/^Work rows.*$/m.exec(text)![0]).chart!.up).to.deep.equal({
      setup: 0,
      closing: 0,
      times: 1,
      end: 2,
    });
    expect(wordsOf({ width: 8, rows, up: { ...up, end: 2 } })).to.include(
      'Work rows 1–4 a total of 5 times, then rows 1–2 once.',
    );
  });

  it('or so often, the last of them ended early, are read as they say', () => {
    const whole = { setup: 0, closing: 0 };
    for (const [foot, wanted] of [
      ['Work rows 1–4 3 times, ending the last with row 2.', { ...whole, times: 2, end: 2 }],
      ['Repeat rows 1–4 twice more, ending the last repeat with row 2.', { ...whole, times: 2, end: 2 }],
      ['Rep rows 1-4 for pattern, ending with row 2.', { ...whole, times: 1, end: 2 }],
      ['Repeat rows 1–4 until it measures 20 cm, ending with row 3.', { ...whole, times: 1, end: 3 }],
      ['Repeat rows 1–4 3 times, ending with row 4.', { ...whole, times: 4 }],
    ] as const)
      expect(read(foot).chart!.up, foot).to.deep.equal(wanted);
    expect(read('Repeat rows 1–4 3 times, ending with row 9.').problems.map((f) => f.id)).to.include(
      'plan-left-aside',
    );
  });
});

describe('twists', () => {
  const one = (lean: 'left' | 'right', method: (typeof TWIST_METHODS)[number], side: 'RS' | 'WS') =>
    twistOf(method, lean, side, false);

  /**
   * By the loops: two loops wait, the first and the second. Reached from behind, the second passes under the first;
   * in front, over it. What is worked off first comes to lie first on the other needle (from memory, the hands).
   */
  function byLoops(
    way: 'in-front' | 'from-behind',
    back: 'none' | 'second' | 'both',
    lean: 'left' | 'right',
  ) {
    const tbl = { first: back === 'both', second: back !== 'none' };
    const front = way === 'in-front' ? 'second' : 'first';
    const of = (loop: 'first' | 'second') => (tbl[loop] ? 'ktbl' : 'k');
    return crossing(lean, [of(front)], [of(front === 'first' ? 'second' : 'first')]);
  }

  it('are those that the loops make, by every method', () => {
    for (const [method, lean, way, back] of [
      ['second-first', 'right', 'in-front', 'none'],
      ['second-first', 'left', 'from-behind', 'second'],
      ['left-tbl', 'right', 'in-front', 'none'],
      ['left-tbl', 'left', 'from-behind', 'both'],
      ['both-tbl', 'right', 'in-front', 'both'],
      ['both-tbl', 'left', 'from-behind', 'both'],
    ] as const)
      expect(one(lean, method, 'RS'), `${method} ${lean}`).to.deep.equal(byLoops(way, back, lean));
    // Together and the first again: entered last, the second lies on top, which leans right.
    expect(one('right', 'together', 'RS')).to.deep.equal(crossing('right', ['k'], ['k']));
  });

  it('of every method are proved, in both hands and on both sides, once the chart shows them', () => {
    for (const twist of TWIST_METHODS)
      for (const hand of ['right', 'left-same-fabric', 'left-same-words'] as const)
        for (const lean of ['left', 'right'] as const) {
          const t = crossing(lean, ['k'], ['k']);
          const c = chart([['p', t, 'p'] as Stitch[], ['p', t, 'p'] as Stitch[]]);
          const shown = showTwists(c, twist, hand).chart;
          const { checked, problems } = writeAndProve(shown, settings({ twist, hand }));
          expect(problems, `${twist} ${hand} ${lean}`).to.deep.equal([]);
          expect(checked).to.be.true;
          expect(showTwists(shown, 'cable', hand).chart.rows).to.deep.equal(c.rows);
        }
  });

  it('are called LT and RT, LPT and RPT where a design calls them so, and are never told by their faces then', () => {
    const named = (c: Crossing, twist: string) =>
      nameOf(c, namingOf(settings({ twistNames: 'twist', twist }), { construction: 'flat' }), 'RS');
    expect(named(crossing('left', ['k'], ['k']), 'cable')).to.equal('LT');
    expect(named(crossing('right', ['k'], ['k']), 'cable')).to.equal('RT');
    expect(named(simpleCrossing('left', 1, 1, 'p'), 'cable')).to.equal('LPT');
    expect(named(simpleCrossing('right', 1, 1, 'p'), 'cable')).to.equal('RPT');
    for (const twist of TWIST_METHODS)
      for (const lean of ['left', 'right'] as const) {
        const made = twistOf(twist, lean, 'RS', false);
        expect(named(made, twist), `${twist} ${lean}`).to.equal(lean === 'left' ? 'LT' : 'RT');
        const called = nameOf(made, namingOf(settings({ twist }), { construction: 'flat' }), 'RS');
        expect(called).to.equal(lean === 'left' ? '1/1 LC' : '1/1 RC');
      }
  });

  it('keep their method when they are read', () => {
    for (const [steps, twist] of [
      [
        'knit the second stitch through its back loop from behind, knit the first through the front, slip both off',
        'second-first',
      ],
      [
        'knit the second stitch through its back loop from behind, knit the first through its back loop, slip both off',
        'left-tbl',
      ],
    ] as const) {
      // The right twist is the same by both; the left one tells the methods apart.
      const text = `Cast on 7 sts.
Row 1 (RS): p1, LT, p1, RT, p1.
Key
LT: ${steps}.
RT: knit the second stitch in front of the first, knit the first, slip both off.`;
      const { chart: c, twist: kept, problems } = readPattern(text, flat);
      expect(problems).to.deep.equal([]);
      expect(c!.rows[0]![1]).to.deep.equal(twistOf(twist, 'left', 'RS', false));
      expect(kept).to.equal(twist);
    }
  });
});

describe('names by the total', () => {
  it('say a centre, so that they are not taken for another crossing', () => {
    for (const school of SCHOOLS.filter((s) => s.startsWith('total')))
      for (const lean of ['left', 'right'] as const) {
        const naming = namingOf(settings({ school }), { construction: 'flat' });
        const centred = crossing(lean, ['k', 'k'], ['k', 'k'], ['k', 'k']);
        const plain = simpleCrossing(lean, 3, 3);
        const [a, b] = [nameOf(centred, naming, 'RS')!, nameOf(plain, naming, 'RS')!];
        expect(a).not.to.equal(b);
        expect(a).to.match(/-2\/2\/2$/);
        expect(crossingsNamed(a, school)).to.deep.equal([centred]);
        expect(crossingsNamed(b, school)).to.deep.include(plain);
        expect(crossingsNamed(b, school)).not.to.deep.include(centred);
        const c = chart([
          [...p(2), centred, ...p(2)],
          [...p(2), ...k(6), ...p(2)],
          [...p(2), plain, ...p(2)],
        ]);
        expect(wordsOf(c, { school })).to.include(a);
      }
    expect(mirrorCrossing(simpleCrossing('left', 3, 3))).to.deep.equal(simpleCrossing('right', 3, 3));
  });
});

describe('the cloth a new design begins on', () => {
  const start = (over: Partial<Start>): Chart =>
    startOn({
      columns: 12,
      rows: 8,
      construction: 'flat',
      firstRow: 'RS',
      cloth: 'reverse',
      own: '',
      ...over,
    });

  it('is what its name says, worked from either side, flat and in the round', () => {
    for (const construction of ['flat', 'round'] as const)
      for (const firstRow of ['RS', 'WS'] as const) {
        const shown = (cloth: Start['cloth']) =>
          start({ construction, firstRow, cloth }).rows.map((row) => row.join(''));
        expect(new Set(shown('reverse'))).to.deep.equal(new Set(['p'.repeat(12)]));
        expect(new Set(shown('stocking'))).to.deep.equal(new Set(['k'.repeat(12)]));
        // Garter: knit in every row flat, so ridges of knit and purl as the right side looks.
        const garter = shown('garter');
        expect(new Set(garter)).to.deep.equal(new Set(['k'.repeat(12), 'p'.repeat(12)]));
        garter.forEach((row, r) => expect(row).not.to.equal(garter[r + 1]));
        const text = wordsOf(start({ construction, firstRow, cloth: 'garter' }));
        if (construction === 'flat') expect(text).not.to.match(/\bp\d|purl across/);
        // Moss: no stitch is as the one beside it or the one below.
        const moss = shown('moss');
        moss.forEach((row, r) =>
          [...row].forEach((face, c) => {
            if (c) expect(face).not.to.equal(row[c - 1]);
            if (r) expect(face).not.to.equal(moss[r - 1]![c]);
          }),
        );
        expect(new Set(shown('rib')).size).to.equal(1);
        expect(shown('wide-rib')[0]).to.match(/^(kk|pp|k(?=p)|p(?=k))((?:kk|pp))*/);
      }
    expect(start({ firstRow: 'WS' }).firstRow).to.equal('WS');
    expect(start({ firstRow: 'WS', construction: 'round' }).firstRow).to.equal('RS');
  });

  it('may be rows of her own, worked over and over', () => {
    const own = start({ cloth: 'own', own: 'Row 1: *k2, p1; rep from * to end\n\nRow 2: purl' });
    expect(own.rows.map((row) => row.join('')).slice(0, 4)).to.deep.equal([
      'kkpkkpkkpkkp',
      'kkkkkkkkkkkk',
      'kkpkkpkkpkkp',
      'kkkkkkkkkkkk',
    ]);
    // Begun on the wrong side the first line is a wrong-side row.
    expect(start({ cloth: 'own', firstRow: 'WS', own: 'purl\nknit' }).rows[0]!.join('')).to.equal(
      'k'.repeat(12),
    );
    for (const [text, said] of [
      ['', /one on a line/],
      ['k2, p1', /even number/],
      ['*k5; rep from * to end\npurl', /Row 1 of the ground/],
      ['knit\nquirl', /Row 2 of the ground/],
    ] as const)
      expect(() => start({ cloth: 'own', own: text }), text).to.throw(EditError, said);
  });
});
