import { unchanged, type Edit } from '../chart/edit.js';
import { placeStitches } from '../chart/edits.js';
import type { Chart } from '../chart/schema.js';
import type { Stitch } from '../stitches/book.js';
import type { Guess } from './guess.js';

/**
 * A row with what is guessed of it set into its cells; cells of which nothing is known stay as they are, but where a guess cuts into
 * what stands there.
 *
 * @throws EditError where a guess has no room
 */
export function tracedRow(chart: Chart, row: number, guesses: readonly Guess[]): Edit {
  let now = chart;
  const steps: Edit['steps'][number][] = [];
  for (let i = 0; i < guesses.length;) {
    if (guesses[i]!.stitch === null) {
      i++;
      continue;
    }
    // Stitches that stand side by side are set at once.
    const stitches: Stitch[] = [];
    const { column } = guesses[i]!;
    for (; i < guesses.length && guesses[i]!.stitch !== null; i++) stitches.push(guesses[i]!.stitch!);
    const edit = placeStitches(now, row, column, stitches);
    now = edit.chart;
    steps.push(...edit.steps);
  }
  return steps.length ? { chart: now, steps } : unchanged(chart);
}
