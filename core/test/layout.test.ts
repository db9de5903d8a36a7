import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  checkChart,
  EditError,
  NO_STITCH,
  readPattern,
  SettingsSchema,
  simpleCrossing,
  startChart,
  stitchBook,
  workChart,
  workRun,
  writeAndProve,
  writeChart,
  type Chart,
  type Stitch,
  StyleSchema,
} from '../src/index.js';
import { layoutRows } from '../src/chart/layout.js';

const P = (text: string): Stitch[] => [...text];
const laid = (...rows: Stitch[][]) =>
  layoutRows(rows, stitchBook()).rows.map((r) => r.map((s) => (s === NO_STITCH ? '·' : String(s))).join(' '));

describe('laying rows without gaps onto a grid', () => {
  it('leaves a row that keeps its count as it is', () => {
    expect(laid(P('kkpp'), P('ppkk'))).to.deep.equal(['k k p p', 'p p k k']);
  });

  it('opens columns where loops are won, in the rows below too', () => {
    expect(laid(P('kk'), ['k', 'yo', 'k'], P('kkk'))).to.deep.equal(['k · k', 'k yo k', 'k k k']);
    expect(laid(P('kp'), ['kyok', 'p'], P('kkkp'))).to.deep.equal(['k · · p', 'kyok p', 'k k k p']);
  });

  it('leaves gaps where loops are lost, on the side away from the lean', () => {
    expect(laid(P('kkk'), ['k', 'k2tog'], P('kk'))).to.deep.equal(['k k k', 'k · k2tog', 'k · k']);
    expect(laid(P('kkk'), ['ssk', 'k'], P('kk'))).to.deep.equal(['k k k', 'ssk · k', 'k · k']);
  });

  it('uses the gaps again before it opens more', () => {
    expect(laid(P('kkk'), ['k', 'ssk'], ['k', 'k', 'yo'])).to.deep.equal(['k k k', 'k ssk ·', 'k k yo']);
  });

  // Plain lace keeps its width (common practice, no source).
  it('lets an increase take the column that the decrease beside it frees', () => {
    expect(laid(P('kkkk'), ['k', 'yo', 'k2tog', 'k'], P('kkkk'))).to.deep.equal([
      'k k k k',
      'k yo k2tog k',
      'k k k k',
    ]);
    expect(laid(P('kkkk'), ['k', 'ssk', 'yo', 'k'], P('kkkk'))).to.deep.equal([
      'k k k k',
      'k ssk yo k',
      'k k k k',
    ]);
    expect(laid(P('kkkkk'), ['yo', 'cdd', 'yo', 'k', 'k'])).to.deep.equal(['k k k k k', 'yo cdd yo k k']);
  });

  it('keeps a crossing in adjoining columns', () => {
    const { rows, width } = layoutRows(
      [P('kkkk'), ['k2tog', 'k', 'k'], [simpleCrossing('left', 1, 1), 'k']],
      stitchBook(),
    );
    expect(width).to.equal(4);
    expect(rows[2]!.filter((s) => s !== NO_STITCH)).to.deep.equal([simpleCrossing('left', 1, 1), 'k']);
  });
});

describe('rows whose counts change, written and read', () => {
  const settings = SettingsSchema.parse({});
  const unit = fc.double({ min: 0, max: 0.999, noNaN: true });
  const stitch = fc.constantFrom<Stitch>('p', 'yo', 'm1r', 'kfb', 'kyok', 'k2tog', 'ssk', 'cdd', 'p2tog');

  /** A chart worked by the editor, so that its counts hold whatever was asked for. */
  const anyCounted = fc.array(fc.tuple(unit, unit, stitch), { minLength: 1, maxLength: 10 }).map((acts) =>
    acts.reduce<Chart>(
      (c, [x, y, s]) => {
        try {
          return workRun(c, Math.floor(y * c.rows.length), Math.floor(x * c.width), [s]).chart;
        } catch (error) {
          if (error instanceof EditError) return c;
          throw error;
        }
      },
      startChart({ columns: 9, rows: 4, construction: 'flat', ground: 'k' }),
    ),
  );

  it('come back with the same stitches in every row', () => {
    fc.assert(
      fc.property(anyCounted, (drawn) => {
        fc.pre(!checkChart(drawn).some((f) => f.level === 'error'));
        const { text } = writeChart(drawn, settings);
        const { chart, problems } = readPattern(text, {
          construction: 'flat',
          firstRow: 'RS',
          school: 'front-back',
        });
        expect(problems).to.deep.equal([]);
        const worked = (c: Chart) => c.rows.map((row) => row.filter((s) => s !== NO_STITCH));
        expect(worked(chart!)).to.deep.equal(worked(drawn));
        expect(workChart(chart!).map((w) => w.makes)).to.deep.equal(workChart(drawn).map((w) => w.makes));
        expect(writeAndProve(chart!, settings)).to.include({ checked: true });
      }),
      { numRuns: 200 },
    );
  });

  it('give the count wherever it changes and the multiple row by row', () => {
    const chart = ChartSchema.parse({
      width: 5,
      rows: [
        ['k', 'k', 'none', 'k', 'k'],
        ['k', 'k', 'yo', 'k', 'k'],
        ['k', 'k', 'k', 'k', 'k'],
        ['k', 'k', 'k2tog', 'none', 'k'],
        ['k', 'k', 'k', 'none', 'k'],
      ],
      across: { before: 1, after: 1, times: 4 },
    });
    const { text, rows } = writeChart(chart, {
      ...settings,
      style: StyleSchema.parse({ counts: 'changes' }),
    });
    expect(text).to.contain('Multiple of 2 sts, at least 4; of 3 plus 2 after row 2; of 2 after row 4.');
    expect(rows.map((r) => r.count)).to.deep.equal([10, 14, 14, 10, 10]);
    expect(rows.map((r) => / \(\d+ sts\)$/.test(r.text))).to.deep.equal([false, true, false, true, false]);
  });
});
