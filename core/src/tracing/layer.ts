import type { Layer, LayerMark } from '../drawing/layers.js';
import type { Guess } from './guess.js';

/** A row of a chart and what is guessed of it. */
export interface GuessedRow {
  readonly row: number;
  readonly guesses: readonly Guess[];
}

/** Guesses of a row that stand side by side. */
function runsOf(guesses: readonly Guess[]): Guess[][] {
  const runs: Guess[][] = [];
  for (const guess of guesses) {
    const last = runs.at(-1);
    const before = last?.at(-1);
    if (last && before && before.column + before.span === guess.column) last.push(guess);
    else runs.push([guess]);
  }
  return runs;
}

/**
 * What is only guessed lies under a veil, lined out with dashes row by row; what is not sure is lined out by itself and asked about, and
 * so is every cell of which nothing is known.
 */
export const tracingLayer = (rows: readonly GuessedRow[]): Layer => ({
  id: 'tracing',
  marks: rows.flatMap(({ row, guesses }) => {
    const known = guesses.filter(({ stitch }) => stitch !== null);
    const around = runsOf(known).flatMap((run): LayerMark[] => {
      const [first, last] = [run[0]!, run.at(-1)!];
      const cells = { shape: 'cells', row, from: first.column, to: last.column + last.span - 1 } as const;
      return [
        { ...cells, look: 'veil', tone: 'guess' },
        { ...cells, look: 'dashes', tone: 'guess' },
      ];
    });
    const asked = guesses.flatMap(({ column, span, stitch, isSure }): LayerMark[] => {
      if (isSure) return [];
      const mark: LayerMark = { shape: 'asked', row, column, tone: 'caution' };
      const cells = { shape: 'cells', row, from: column, to: column + span - 1 } as const;
      return stitch === null ? [mark] : [{ ...cells, look: 'dashes', tone: 'caution' }, mark];
    });
    return [...around, ...asked];
  }),
});
