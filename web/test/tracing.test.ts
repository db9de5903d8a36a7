import { ChartSchema, simpleCrossing, tracedRow, type Guess, type Stitch } from '@cordelina/core';
import { expect } from 'chai';
import {
  doubts,
  guessedChart,
  guessedRow,
  pictured,
  takenOf,
  TracingSchema,
  withShown,
  withTaken,
  type Tracing,
} from '../src/bench/tracing/tracing.js';

const L22 = simpleCrossing('left', 2, 2);
const P = (text: string): Stitch[] => [...text];
const chart = ChartSchema.parse({ width: 6, rows: [P('pkkkkp'), ['p', L22, 'p'], P('pppppp'), P('pppppp')] });

/** A picture of three rows of four cells, whose lower right cell lies on the second row and column. */
const tracing: Tracing = {
  design: 'd',
  chart: 'c',
  picture: new Blob(['x']),
  name: 'found.png',
  corners: [
    { x: 0, y: 0 },
    { x: 40, y: 0 },
    { x: 40, y: 30 },
    { x: 0, y: 30 },
  ],
  grid: { columns: 4, rows: 3 },
  at: { row: 1, column: 1 },
  opacity: 0.8,
  isSeen: true,
  shown: [],
  taken: [],
  touched: 0,
};
const guess = (column: number, stitch: Stitch | null, isSure = true): Guess => ({
  column,
  span: stitch === L22 ? 4 : 1,
  stitch,
  isSure,
});

describe('a picture that is traced', () => {
  it('is kept and read as it is; one that is spoiled is none', () => {
    const read = TracingSchema.parse({ ...tracing, shown: [{ row: 0, column: 0, stitch: L22 }] });
    expect(read.shown[0]!.stitch).to.deep.equal(L22);
    for (const spoiled of [
      { opacity: 7 },
      { grid: { columns: 0, rows: 3 } },
      { picture: 'x' },
      { corners: [] },
    ])
      expect(TracingSchema.safeParse({ ...tracing, ...spoiled }).success).to.equal(false);
  });

  it('reaches only its own rows', () => {
    expect([0, 1, 3, 4].map((row) => pictured(tracing, row))).to.deep.equal([null, 0, 2, null]);
  });

  it('is shown the stitches that stand in it whole, each place once', () => {
    const all = { columns: { from: 0, to: 5 }, rows: { from: 0, to: 3 } };
    const { tracing: shown, many } = withShown(tracing, chart, all);
    expect(many).to.equal(1 + 4 + 4);
    expect(shown.shown[0]).to.deep.equal({ row: 0, column: 0, stitch: L22 });
    expect(withShown(shown, chart, all).tracing.shown).to.have.length(many);
    // A crossing that the selection cuts, or that the picture does not hold whole, is none of it.
    const cut = { columns: { from: 2, to: 5 }, rows: { from: 1, to: 1 } };
    expect(withShown(tracing, chart, cut).many).to.equal(0);
    expect(
      withShown({ ...tracing, at: { row: 1, column: 2 } }, chart, all).tracing.shown,
    ).to.not.deep.include({
      row: 0,
      column: -1,
      stitch: L22,
    });
    // Told otherwise later, the place shows what was told last.
    const other = tracedRow(chart, 1, [guess(1, 'k')]).chart;
    const again = withShown(shown, other, all).tracing.shown.filter(
      (one) => one.row === 0 && one.column === 0,
    );
    expect(again).to.deep.equal([{ row: 0, column: 0, stitch: 'k' }]);
  });

  it('guesses stand in the chart’s places; a row that is taken keeps only what is open, and what was undone is a guess again', () => {
    const row = [guess(0, L22)];
    const open = [guess(0, 'k'), guess(1, null), guess(2, 'k', false), guess(3, 'k')];
    expect(guessedRow(tracing, chart, row, 1)).to.deep.equal({ row: 2, guesses: [{ ...row[0], column: 1 }] });
    expect(doubts(open)).to.deep.equal({ open: 1, unsure: 1 });
    const made = guessedChart(chart, [guessedRow(tracing, chart, row, 1)]);
    expect(made.rows[2]).to.deep.equal(['p', L22, 'p']);

    const was = JSON.stringify(chart.rows[2]);
    const now = JSON.stringify(made.rows[2]);
    const taken = withTaken(tracing, { row: 1, was, now, open: 0 });
    expect(takenOf(taken, made, 1)).to.not.equal(null);
    expect(guessedRow(taken, made, row, 1).guesses).to.deep.equal([]);
    expect(takenOf(taken, chart, 1)).to.equal(null);
    expect(guessedRow(taken, chart, row, 1).guesses).to.have.length(1);
    // Changed by hand afterwards it stays done.
    const byHand = tracedRow(made, 2, [guess(0, 'k')]).chart;
    expect(takenOf(taken, byHand, 1)).to.not.equal(null);
    const partly = withTaken(taken, { row: 1, was, now, open: 1 });
    expect(partly.taken).to.have.length(1);
    expect(guessedRow(partly, made, open, 1).guesses).to.deep.equal([{ ...open[1], column: 2 }]);
  });

  it('what has no room is left out of what is guessed', () => {
    expect(guessedChart(chart, [{ row: 2, guesses: [guess(4, L22)] }])).to.equal(chart);
    expect(guessedChart(chart, [{ row: 9, guesses: [guess(0, 'k')] }])).to.equal(chart);
  });
});
