import { expect } from 'chai';
import fc from 'fast-check';
import {
  checkChart,
  ChartSchema,
  deleteRows,
  EditError,
  expandPiece,
  insertRows,
  invertSteps,
  readPattern,
  setAcross,
  setConstruction,
  setJog,
  setUp,
  SettingsSchema,
  simpleCrossing,
  startChart,
  startDesign,
  spanOf,
  takesOf,
  unfold,
  workChart,
  writeAndProve,
  bookOf,
  type Chart,
  type Stitch,
  stitchBook,
} from '../src/index.js';
import { applySteps } from '../src/chart/steps.js';
import { anyChart } from './arbitrary.js';

const settings = SettingsSchema.parse({});
const k = (n: number): Stitch[] => Array<Stitch>(n).fill('k');
const p = (n: number): Stitch[] => Array<Stitch>(n).fill('p');
const left3 = simpleCrossing('left', 3, 3);
const right3 = simpleCrossing('right', 3, 3);
const left2 = simpleCrossing('left', 2, 2);
const right2 = simpleCrossing('right', 2, 2);

/** A chart of rows from the bottom, each from the right. */
function chart(rows: Stitch[][], more: Partial<Chart> = {}): Chart {
  const width = more.width ?? 0;
  return ChartSchema.parse({
    ...startChart({ columns: width, rows: 1, construction: 'flat', ground: 'p' }),
    rows,
    ...more,
  });
}

const rowOf = (c: Chart, row: number) => writeAndProve(c, settings).rows[row - 1]!.words;
const errors = (c: Chart) => checkChart(c).filter((f) => f.level === 'error');

/** The woven lattice: ropes of three cross left on the repeat, and four rows later right, half a repeat on. */
const lattice = () =>
  chart(
    [
      ...[0, 1].map(() => ['k', ...k(12), 'k'] as Stitch[]),
      ['k', left3, left3, 'k'],
      ...[0, 1, 2].map(() => ['k', ...k(12), 'k'] as Stitch[]),
      ['k', ...k(3), right3, ...k(3), 'k'],
      ['k', ...k(12), 'k'],
    ],
    {
      width: 14,
      across: { before: 1, after: 7, times: 3, least: 1 },
      up: { setup: 0, closing: 0, times: 2 },
    },
  );

describe('jogged rows (common practice, no source)', () => {
  it('a crossing over the repeat line is mended by letting its row begin later', () => {
    const [found, ...more] = errors(lattice());
    expect(more).to.have.length(0);
    expect(found).to.include({ id: 'crossing-over-repeat-line', row: 7 });
    expect(found!.message).to.contain('begin 3 stitches later');
    const design = { ...startDesign('5c0ee000-0000-4000-8000-000000000009', 'x', lattice()) };
    const mended = applySteps(design, found!.fix!.steps).charts[0]!;
    expect(mended.jogs).to.deep.equal({ 6: 3 });
    expect(errors(mended)).to.have.length(0);
  });

  it('the woven lattice is written as the trade does, and proved', () => {
    const woven = setJog(lattice(), 6, 3).chart;
    const { checked, problems, text } = writeAndProve(woven, settings);
    expect(problems).to.deep.equal([]);
    expect(checked).to.equal(true);
    expect(text).to.contain('Multiple of 6 sts plus 2, at least 14.');
    expect(text).to.contain('Cast on 26 sts (4 repeats).');
    // A tail that is only the repeat again joins it.
    expect(rowOf(woven, 3)).to.equal('k1, *3/3 LC; rep from * to last st, k1');
    expect(rowOf(woven, 7)).to.equal('k4, *3/3 RC; rep from * to last 4 sts, k4');
  });

  it('is read back with its shifted row', () => {
    const woven = setJog(lattice(), 6, 3).chart;
    const { text } = writeAndProve(woven, settings);
    const { chart: read, problems } = readPattern(text, {
      construction: 'flat',
      firstRow: 'RS',
      school: 'front-back',
    });
    expect(problems).to.deep.equal([]);
    expect(read!.jogs).to.deep.equal({ 6: 3 });
    expect([3, 5].map((n) => expandPiece(read!, n, 1))).to.deep.equal(
      [3, 5].map((n) => expandPiece(woven, n, 1)),
    );
  });

  it('is worked as so many copies drawn by hand', () => {
    const woven = setJog(lattice(), 6, 3).chart;
    const [third, seventh] = [2, 6].map((r) => expandPiece(woven, 3, 1)[r]!.stitches);
    expect(third).to.deep.equal(['k', left3, left3, left3, left3, 'k']);
    expect(seventh).to.deep.equal([...k(4), right3, right3, right3, ...k(4)]);
  });

  it('cells of eight and two begin every other crossing row half a repeat later', () => {
    const cells = chart(
      [
        ['k', ...k(16), 'k'],
        ['k', ...k(16), 'k'],
        ['k', right2, left2, right2, left2, 'k'],
        ['k', ...k(16), 'k'],
        ['k', ...k(16), 'k'],
        ['k', ...k(16), 'k'],
        ['k', ...k(4), right2, left2, ...k(4), 'k'],
        ['k', ...k(16), 'k'],
      ],
      { width: 18, across: { before: 1, after: 9, times: 2, least: 1 }, jogs: { 6: 4 } },
    );
    expect(rowOf(cells, 3)).to.equal('k1, *2/2 RC, 2/2 LC; rep from * to last st, k1');
    expect(rowOf(cells, 7)).to.equal('k5, *2/2 RC, 2/2 LC; rep from * to last 5 sts, k5');
    const { checked, text } = writeAndProve(cells, settings);
    expect(checked).to.equal(true);
    expect(text).to.contain('Multiple of 8 sts plus 2, at least 18.');
  });

  it('drifting twists move by one stitch in every right-side row', () => {
    const twist = simpleCrossing('left', 1, 1);
    const rows = Array.from({ length: 8 }, (_, r): Stitch[] =>
      r % 2 ? k(12) : [...k(r / 2), twist, ...k(2), twist, ...k(6 - r / 2)],
    );
    const drifting = chart(rows, {
      width: 12,
      across: { before: 0, after: 8, times: 2, least: 1 },
      jogs: { 2: 1, 4: 2, 6: 3 },
    });
    expect(errors(drifting)).to.have.length(0);
    expect(writeAndProve(drifting, settings).checked).to.equal(true);
    expect(rowOf(drifting, 7)).to.equal('k3, *1/1 LC, k2; rep from * to last st, k1');
  });

  it('the twist basket of four is all repeat, and its shifted row ends with half a twist less', () => {
    const basket = chart(
      [k(8), p(8), [left2, left2], p(8).map((): Stitch => 'k'), [...k(2), right2, ...k(2)], k(8)],
      {
        width: 8,
        across: { before: 0, after: 4, times: 2, least: 1 },
        jogs: { 4: 2 },
      },
    );
    expect(rowOf(basket, 3)).to.equal('*2/2 LC; rep from * to end');
    expect(rowOf(basket, 5)).to.equal('k2, *2/2 RC; rep from * to last 2 sts, k2');
    const { checked, text } = writeAndProve(basket, settings);
    expect(checked).to.equal(true);
    expect(text).to.contain('Multiple of 4 sts, at least 8.');
  });

  it('what cannot be is refused in one sentence, and nothing changes', () => {
    const woven = lattice();
    const refused = (jog: number, why: string, of = woven) =>
      expect(() => setJog(of, 6, jog)).to.throw(EditError, why);
    refused(6, 'the repeat is 6 columns wide');
    refused(-2, 'only 1 column stands beyond the repeat at its right');
    refused(3, 'no repeat across is set', setAcross(woven, null).chart);
    expect(() => setJog(woven, 40, 1)).to.throw(EditError, 'the chart has 8 rows');
    const jogged = setJog(woven, 6, 3).chart;
    expect(setAcross(jogged, null).chart.jogs).to.deep.equal({});
    expect(setConstruction(jogged, { ...jogged, construction: 'round' }).chart.jogs).to.deep.equal({});
    expect(() => setAcross(jogged, { before: 1, after: 2, times: 2, least: 1 })).to.throw(
      EditError,
      'only 2 columns stand beyond',
    );
  });

  it('the words are refused where a shift is not in them', () => {
    const woven = setJog(lattice(), 6, 3).chart;
    const { pattern } = writeAndProve(woven, settings);
    expect(pattern.rows.find((line) => line.numbers.includes(7))!.body).to.have.property('type', 'items');
    const straight = writeAndProve({ ...woven, jogs: {} }, settings);
    expect(straight.checked).to.equal(false);
  });
});

/** The one-by-one weave in the round: twists over every pair of stitches, and in the next round over the pairs between. */
const weave = (): Chart => {
  const [l, r] = [simpleCrossing('left', 1, 1), simpleCrossing('right', 1, 1)];
  return chart([k(2), [l], k(2), [r]], {
    width: 2,
    construction: 'round',
    ground: 'k',
    across: { before: 0, after: 0, times: 10, least: 1 },
    up: { setup: 0, closing: 0, times: 3 },
  });
};

describe('where a round begins (common practice, no source)', () => {
  /** Round 4 begins a stitch later; a fifth lets all begin together again. */
  const woven = () => {
    const shifted = { ...weave(), jogs: { 3: 1 } };
    return insertRows(shifted, 4, [k(2)]).chart;
  };

  it('its marker is moved on and back in the words, and the key says how', () => {
    const w = { ...woven(), up: { setup: 0, closing: 0, times: 3 } };
    expect(errors(w)).to.have.length(0);
    const { checked, problems, text } = writeAndProve(w, settings);
    expect(problems).to.deep.equal([]);
    expect(checked).to.equal(true);
    expect(rowOf(w, 4)).to.equal('move the marker on 1 st, *1/1 RC; rep from * to end');
    expect(rowOf(w, 5)).to.equal('move the marker back 1 st, k to end');
    expect(text).to.contain('move the marker on: slip that many stitches purlwise, yarn in back');
    expect(text).to.contain('move the marker back:');
  });

  it('for left hands on and back change places', () => {
    const left = { ...settings, hand: 'left-same-fabric' as const };
    const written = writeAndProve(woven(), left);
    expect(written.problems).to.deep.equal([]);
    expect(written.rows[3]!.words).to.contain('move the marker back 1 st');
  });

  it('a repeat up that ends with the marker elsewhere cannot be worked again', () => {
    const ends = { ...weave(), jogs: { 3: 1 } };
    expect(errors(ends)).to.deep.include({
      id: 'round-start',
      level: 'error',
      row: 4,
      message:
        'The repeat of rounds 1–4 ends with the round marker 1 stitch from where it began: the next pass would begin elsewhere. Let round 4 begin where the others do.',
    });
  });

  it('moves the strands over the old place of the marker', () => {
    // Six stitches, one twist over the place where the round began: stitches 6 and 1 change places.
    const round = chart([k(6), [...k(4), simpleCrossing('left', 1, 1)], k(6)], {
      width: 6,
      construction: 'round',
      jogs: { 1: 1 },
    });
    expect(workChart(round)[1]!.from).to.deep.equal([5, 1, 2, 3, 4, 0]);
  });

  it('cells stay where they are when a round begins elsewhere', () => {
    const round = chart([['k', 'p', 'p', 'k', 'k', 'p']], { width: 6, construction: 'round' });
    const later = setJog(round, 0, 2).chart;
    expect(later.rows[0]).to.deep.equal(['p', 'k', 'k', 'p', 'k', 'p']);
    expect(setJog(later, 0, 0).chart.rows[0]).to.deep.equal(round.rows[0]);
    const crossed = chart([[left2, 'p', 'p']], { width: 6, construction: 'round' });
    expect(() => setJog(crossed, 0, 1)).to.throw(EditError, 'A stitch lies over the place where round 1');
  });

  it('is read back from the words', () => {
    const w = woven();
    const { text } = writeAndProve(w, settings);
    const { chart: read, problems } = readPattern(text, {
      construction: 'round',
      firstRow: 'RS',
      school: 'front-back',
    });
    expect(problems).to.deep.equal([]);
    expect(read!.jogs).to.deep.equal({ 3: 1 });
    expect(read!.rows).to.deep.equal(w.rows);
  });

  it('is told to outside checks', () => {
    expect(expandPiece(woven(), 2, 1).map(({ start }) => start)).to.deep.equal([
      undefined,
      undefined,
      undefined,
      1,
      undefined,
    ]);
  });
});

describe('a last pass that is ended part-way', () => {
  const rope = () =>
    chart([k(4), p(4).map((): Stitch => 'k'), [left2], k(4)], {
      width: 4,
      up: { setup: 0, closing: 0, times: 3, end: 2 },
    });

  it('is in the plan, and is worked', () => {
    const written = writeAndProve(rope(), settings);
    expect(written.text).to.contain('Work rows 1–4 a total of 3 times, then rows 1–2 once.');
    expect(written.checked).to.equal(true);
    expect(
      expandPiece(rope())
        .map(({ row }) => row)
        .slice(-3),
    ).to.deep.equal([4, 1, 2]);
  });

  it('is read: the last two rows do not vanish', () => {
    const text =
      'Cast on 4 sts.\nRow 1: k4.\nRow 2: p4.\nRow 3: 2/2 LC.\nRow 4: p4.\n\nWork rows 1–4 a total of 3 times, then rows 1–2 once.';
    const { chart: read, problems } = readPattern(text, {
      construction: 'flat',
      firstRow: 'RS',
      school: 'front-back',
    });
    expect(problems).to.deep.equal([]);
    expect(read!.up).to.deep.equal({ setup: 0, closing: 0, times: 3, end: 2 });
  });

  const planRead = (plan: string) =>
    readPattern(`Cast on 4 sts.\nRow 1: k4.\nRow 2: p4.\nRow 3: 2/2 LC.\nRow 4: k4.\n${plan}`, {
      construction: 'flat',
      firstRow: 'RS',
      school: 'front-back',
    });

  it('a plan that repeats two stretches of rows is drawn out, and it is said', () => {
    for (const plan of [
      'Work rows 1–2 twice, then rows 3–4 a total of 3 times.',
      'Rep rows 1–2 once more.\nRep rows 3–4 twice more.',
    ]) {
      const { chart: read, problems } = planRead(plan);
      expect(problems.map((q) => q.id)).to.deep.equal(['plan-drawn-out']);
      const [one, two, three, four] = planRead('').chart!.rows;
      expect(read!.rows).to.deep.equal([one, two, one, two, three, four, three, four, three, four]);
      expect(read!.up).to.equal(null);
    }
  });

  it('a plan that turns rows to their other side, or leaves some out, is left aside, and it is said', () => {
    for (const plan of [
      'Work rows 1–1 twice, then rows 2–4 a total of 3 times.',
      'Work rows 1–2 twice, then rows 1–2 a total of 3 times.',
    ])
      expect(
        planRead(plan).problems.map((q) => q.id),
        plan,
      ).to.deep.equal(['plan-left-aside']);
  });

  it('must be a row of the repeat, and leave the needle as the closing rows want it', () => {
    const up = { setup: 1, closing: 1, times: 2 };
    const tall = chart(
      Array.from({ length: 6 }, () => k(4)),
      { width: 4 },
    );
    for (const end of [1, 5, 6])
      expect(() => setUp(tall, { ...up, end }), String(end)).to.throw(EditError, 'cannot end after row');
    expect(errors(setUp(tall, { ...up, end: 3 }).chart)).to.have.length(0);
    expect(errors(setUp(tall, { ...up, end: 2 }).chart).map((f) => f.id)).to.deep.equal(['end-of-pass']);
  });

  it('rows taken from it leave it, end it, or make a whole pass more', () => {
    const base = setUp(
      chart(
        Array.from({ length: 8 }, () => k(4)),
        { width: 4 },
      ),
      { setup: 2, closing: 2, times: 2, end: 4 },
    ).chart;
    expect(deleteRows(base, 2, 2).chart.up).to.deep.equal({ setup: 2, closing: 2, times: 2 });
    expect(deleteRows(base, 4, 2).chart.up).to.deep.equal({ setup: 2, closing: 2, times: 3 });
    expect(deleteRows(base, 3, 1).chart.up).to.deep.equal({ setup: 2, closing: 2, times: 2, end: 3 });
    expect(insertRows(base, 3, [k(4)]).chart.up).to.deep.equal({ setup: 2, closing: 2, times: 2, end: 5 });
  });
});

describe('the frame against copies drawn by hand', () => {
  const plain = fc.constantFrom<Stitch>('k', 'p', 'ktbl');
  const cells = fc.oneof(plain, fc.constantFrom<Stitch>(left2, right2));
  const rowArb = (width: number) =>
    fc.array(cells, { minLength: width, maxLength: width }).map((some) => {
      const row: Stitch[] = [];
      let left = width;
      for (const s of some) {
        const n = takesOf(s, stitchBook());
        if (n <= left) {
          row.push(s);
          left -= n;
        }
      }
      return [...row, ...k(left)];
    });

  it('at n repeats a row is its head, n repeats from its own line, and its tail', () => {
    fc.assert(
      fc.property(
        rowArb(16),
        fc.integer({ min: -4, max: 4 }),
        fc.integer({ min: 1, max: 4 }),
        (row, jog, n) => {
          const c = chart([row], { width: 16, across: { before: 4, after: 6, times: n, least: 1 } });
          const jogged = jog ? { ...c, jogs: { 0: jog } } : c;
          const at: Stitch[] = row.flatMap((s) =>
            typeof s === 'object' ? [s, ...Array<Stitch>(3).fill('')] : [s],
          );
          const whole = (list: Stitch[]) => list.filter((s) => s !== '');
          const [a, b] = [4 + jog, 10 + jog];
          fc.pre(at[a] !== '' && at[b] !== '');
          const copies = Array.from({ length: n }, () => whole(at.slice(a, b))).flat();
          expect(expandPiece(jogged)[0]!.stitches).to.deep.equal([
            ...whole(at.slice(0, a)),
            ...copies,
            ...whole(at.slice(b)),
          ]);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('rows put in and taken out carry their shifts, and taking back restores all', () => {
    const design = (c: Chart) => startDesign('5c0ee000-0000-4000-8000-000000000009', 'x', c);
    const base = setUp(
      setAcross(
        chart(
          Array.from({ length: 10 }, () => k(9)),
          { width: 9 },
        ),
        { before: 3, after: 3, times: 2, least: 1 },
      ).chart,
      { setup: 2, closing: 2, times: 2, end: 5 },
    ).chart;
    fc.assert(
      fc.property(
        fc.dictionary(
          fc.integer({ min: 0, max: 9 }).map(String),
          fc.integer({ min: -2, max: 2 }).filter((j) => j !== 0),
        ),
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 1, max: 4 }),
        fc.boolean(),
        (jogs, at, count, isIn) => {
          const c: Chart = { ...base, jogs };
          const edit = isIn
            ? insertRows(c, at, Array<Stitch[]>(count).fill(k(9)))
            : deleteRows(c, at, Math.min(count, 10 - at));
          const after = applySteps(design(c), edit.steps);
          expect(after.charts[0]).to.deep.equal(edit.chart);
          const kept = Object.entries(jogs).flatMap(([r, jog]) => {
            const row = Number(r);
            if (isIn) return [[row >= at ? row + count : row, jog]];
            return row >= at && row < at + count ? [] : [[row >= at + count ? row - count : row, jog]];
          });
          expect(edit.chart.jogs).to.deep.equal(Object.fromEntries(kept));
          expect(applySteps(after, invertSteps(edit.steps)).charts[0]).to.deep.equal(c);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('a chart with its repeats drawn out', () => {
  it('shows what is worked, and every drawn cell leads to the one it stands for', () => {
    fc.assert(
      fc.property(
        anyChart(),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 3 }),
        (c, times, passes) => {
          const tall = c.rows.length > 2 ? setUp(c, { setup: 1, closing: 1, times: 2 }).chart : c;
          const drawn = unfold(tall, times, passes);
          const piece = expandPiece(tall, times, passes);
          expect(drawn.chart.rows).to.deep.equal(piece.map((r) => r.stitches));
          const book = bookOf(tall);
          const columnsOf = (row: readonly Stitch[]) =>
            row.flatMap((s) => Array.from({ length: spanOf(s, book) }, (_, i) => [s, i] as const));
          drawn.chart.rows.forEach((row, d) => {
            const r = drawn.rowOf(d);
            const cells = columnsOf(tall.rows[r]!);
            columnsOf(row).forEach((cell, column) => {
              const home = drawn.columnOf(r, column);
              expect(cell).to.deep.equal(cells[home]);
              expect(drawn.drawnColumns(r, home)).to.include(column);
            });
          });
          tall.rows.forEach((_, r) => expect(drawn.rowOf(drawn.drawnRow(r))).to.equal(r));
        },
      ),
      { numRuns: 200 },
    );
  });
});
