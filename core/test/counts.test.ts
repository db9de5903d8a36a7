import { expect } from 'chai';
import fc from 'fast-check';
import {
  checkChart,
  EditError,
  fillCounted,
  placeStitches,
  simpleCrossing,
  startChart,
  unworkStitch,
  workChart,
  workRun,
  workStitch,
  writeAndProve,
  SettingsSchema,
  type Chart,
  type Stitch,
} from '../src/index.js';

const cloth = startChart({ columns: 6, rows: 4, construction: 'flat', ground: 'k' });
const drawn = (c: Chart) => c.rows.map((row) => row.map((s) => (s === 'none' ? '·' : String(s))).join(' '));
const counts = (c: Chart) => workChart(c).map((w) => w.makes);
const errors = (c: Chart) => checkChart(c).filter((f) => f.level === 'error');

describe('a row that wins loops', () => {
  it('opens the columns above it', () => {
    const made = workStitch(cloth, 1, 2, 'yo').chart;
    expect(drawn(made)).to.deep.equal(['k k · k k k k', 'k k yo k k k k', 'k k k k k k k', 'k k k k k k k']);
    expect(counts(made)).to.deep.equal([6, 7, 7, 7]);
    expect(errors(made)).to.deep.equal([]);
  });

  it('stands over all the loops it makes', () => {
    const five = workStitch(cloth, 1, 2, 'kyokyok').chart;
    expect(drawn(five)[1]).to.equal('k k kyokyok k k k');
    expect(five.width).to.equal(10);
    expect(counts(five)).to.deep.equal([6, 10, 10, 10]);
    expect(drawn(workStitch(cloth, 1, 2, 'kfb').chart)[2], 'the faces it makes').to.equal('k k k p k k k');
  });

  it('gives them back when the increase is taken away', () => {
    for (const id of ['yo', 'm1lp', 'kfb', 'kyok', 'kyokyok'])
      expect(unworkStitch(workStitch(cloth, 1, 2, id).chart, 1, 2).chart.rows, id).to.deep.equal(cloth.rows);
  });

  it('keeps the repeat around the columns that open in it', () => {
    const framed = { ...cloth, across: { before: 2, after: 2, times: 3, least: 1 } };
    expect(workStitch(framed, 1, 2, 'yo').chart.across).to.include({ before: 2, after: 2 });
    expect(workStitch(framed, 1, 0, 'yo').chart.across).to.include({ before: 3, after: 2 });
    expect(unworkStitch(workStitch(framed, 1, 5, 'yo').chart, 1, 5).chart.across).to.deep.equal(
      framed.across,
    );
  });
});

describe('a row that loses loops', () => {
  it('closes the columns above it, on the side away from its lean', () => {
    const right = workStitch(cloth, 1, 2, 'k2tog').chart;
    expect(drawn(right)).to.deep.equal(['k k k k k k', 'k k · k2tog k k', 'k k · k k k', 'k k · k k k']);
    expect(drawn(workStitch(cloth, 1, 2, 'ssk').chart)[1]).to.equal('k k ssk · k k');
    expect(drawn(workStitch(cloth, 1, 2, 'cdd').chart)[1]).to.equal('k k · cdd · k');
    expect(errors(right)).to.deep.equal([]);
  });

  it('opens them again when the decrease is taken away, in row 1 too', () => {
    for (const id of ['k2tog', 'ssk', 'cdd', 'p3tog', 'k5tog'])
      for (const r of [0, 1]) {
        const made = workStitch(cloth, r, 0, id).chart;
        const at = made.rows[r]!.indexOf(id);
        const back = unworkStitch(made, r, at).chart;
        expect(counts(back), id).to.deep.equal([6, 6, 6, 6]);
        expect(errors(back)).to.deep.equal([]);
      }
  });

  // Plain lace keeps its width (common practice, no source), whichever of the two is set first.
  it('frees the column that an increase beside it opened', () => {
    const lace = ['k k k k k k', 'k k yo k2tog k k', 'k k k k k k', 'k k k k k k'];
    const opened = workStitch(cloth, 1, 2, 'yo').chart;
    expect(opened.width).to.equal(7);
    const made = workStitch(opened, 1, 3, 'k2tog');
    expect(drawn(made.chart)).to.deep.equal(lace);
    expect(errors(made.chart)).to.deep.equal([]);
    const left = workRun(cloth, 1, 1, ['ssk', 'yo']).chart;
    expect(drawn(left)[1]).to.equal('k ssk yo k k k');
    expect(counts(left)).to.deep.equal([6, 6, 6, 6]);
  });

  it('uses its gaps again before it opens new columns', () => {
    const eyelet = workStitch(workStitch(cloth, 1, 2, 'k2tog').chart, 1, 2, 'yo').chart;
    expect(drawn(eyelet)).to.deep.equal(['k k k k k k', 'k k yo k2tog k k', 'k k k k k k', 'k k k k k k']);
  });

  it('is worked with one loop less when an increase below it is taken away', () => {
    const made = workStitch(workStitch(cloth, 0, 2, 'yo').chart, 2, 2, 'k2tog').chart;
    const less = unworkStitch(made, 0, 2).chart;
    expect(less.rows[2]).to.include('k');
    expect(less.rows[2]).not.to.include('k2tog');
    expect(counts(less)).to.deep.equal([6, 6, 6, 6]);
  });
});

describe('a plain stitch in the place of an increase', () => {
  it('takes it away, and sets nothing where its column stays as a gap', () => {
    const eaten = workStitch(workStitch(cloth, 0, 0, 'yo').chart, 1, 0, 'ssk').chart;
    const plain = workStitch(eaten, 0, 0, 'k').chart;
    expect(counts(plain)).to.deep.equal([6, 6, 6, 6]);
    expect(errors(plain)).to.deep.equal([]);
    expect(workStitch(workStitch(cloth, 0, 2, 'yo').chart, 0, 2, 'k').chart.rows).to.deep.equal(cloth.rows);
  });
});

describe('a block filled over increases and decreases', () => {
  it('takes them away with the columns they opened', () => {
    const made = workStitch(workStitch(cloth, 1, 1, 'kyok').chart, 2, 0, 'ssk').chart;
    const filled = fillCounted(
      made,
      { rows: { from: 0, to: 3 }, columns: { from: 0, to: made.width - 1 } },
      'p',
    ).chart;
    expect(drawn(filled)).to.deep.equal(Array(4).fill('p p p p p p'));
    expect(errors(filled)).to.deep.equal([]);
  });
});

describe('what cannot be done', () => {
  const crossed = placeStitches(cloth, 2, 1, [simpleCrossing('left', 2, 2)]).chart;
  for (const [what, act, why] of [
    [
      'opens a place that a crossing covers',
      () => workStitch(crossed, 1, 3, 'yo').chart,
      'Row 3 works one stitch across this place',
    ],
    [
      'takes a loop a crossing needs',
      () => workStitch(crossed, 1, 1, 'k2tog').chart,
      'Row 3 crosses a stitch that would be gone',
    ],
    [
      'decreases more than there is',
      () => workStitch(cloth, 1, 4, 'k3tog').chart,
      'takes 3 stitches; row 2 has 2',
    ],
    ['increases into a crossing', () => workStitch(crossed, 2, 2, 'kfb').chart, 'worked into plain stitches'],
    ['works in a row there is not', () => workStitch(cloth, 9, 0, 'yo').chart, 'no row 10'],
  ] as const)
    it(`says why and changes nothing: what ${what}`, () => {
      expect(act).to.throw(EditError, why);
    });
});

describe('a decrease whose own column lost its loop', () => {
  it('is taken away with as many loops as it took', () => {
    let chart: Chart = { ...cloth, across: { before: 2, after: 1, times: 2, least: 1 } };
    const acts: [number, Stitch][] = [
      [0, 'ssp'],
      [3, 'cdd'],
      [0, 'cdd'],
      [3, 'cdd'],
    ];
    for (const [row, stitch] of acts) {
      chart = workRun(chart, row, 0, [stitch]).chart;
      expect(errors(chart).filter((f) => f.id === 'count-law')).to.deep.equal([]);
    }
  });
});

describe('any mixture of increases and decreases', () => {
  const unit = fc.double({ min: 0, max: 0.999, noNaN: true });
  const stitch = fc.constantFrom<Stitch>(
    'k',
    'p',
    'yo',
    'm1l',
    'kfb',
    'kyok',
    'k2tog',
    'ssk',
    'cdd',
    'ssp',
    'none-away',
  );
  it('keeps every row filling the chart and knittable, and its words proved', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(unit, unit, stitch), { maxLength: 14 }), (acts) => {
        let chart: Chart = { ...cloth, across: { before: 2, after: 1, times: 2, least: 1 } };
        for (const [x, y, s] of acts) {
          const [r, c] = [Math.floor(y * chart.rows.length), Math.floor(x * chart.width)];
          if (s !== 'none-away' && chart.rows[r]!.includes('none') && ['k', 'p'].includes(s as string))
            continue;
          try {
            chart = s === 'none-away' ? unworkStitch(chart, r, c).chart : workRun(chart, r, c, [s]).chart;
          } catch (error) {
            if (!(error instanceof EditError)) throw error;
          }
          const wrong = errors(chart).filter(
            (f) => f.id === 'row-short' || f.id === 'row-long' || f.id === 'count-law',
          );
          expect(
            wrong.map((f) => f.message),
            `${String(s)} at ${r}, ${c}`,
          ).to.deep.equal([]);
        }
        const proof = writeAndProve(chart, SettingsSchema.parse({}));
        expect(proof.checked).to.equal(errors(chart).length === 0);
      }),
      { numRuns: 300 },
    );
  });
});
