import { repeatRows, repeatsUp } from '../chart/frame.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { castOnAsShown, workChart } from '../needle/needle.js';

/** After how many repeats up, and rows, the colours stand as at the beginning. */
export interface Home {
  repeats: number;
  rows: number;
}

/** Repeats that are tried: the order of a permutation may be any number, and no scarf is so long. */
const MOST_REPEATS = 500;

/**
 * When the colours of pairs come home. The rows that repeat carry each pair to another place; after one repeat the colours may stand
 * elsewhere, and after as many as bring them back they stand as they did: the order of what the repeat does to the colours, not to
 * the pairs. Null where that is never, or a row wins or loses loops.
 */
export function homeOf(chart: Chart): Home | null {
  const works = workChart(chart);
  const repeat = repeatsUp(chart) ? repeatRows(chart)! : { first: 0, last: chart.rows.length - 1 };
  const within = works.slice(repeat.first, repeat.last + 1);
  const start =
    repeat.first > 0 ? works[repeat.first - 1]!.loops : castOnAsShown(chart.rows[0]!, bookOf(chart));
  const colours = start.map(({ face }) => face);
  if (within.some(({ from }) => from.length !== colours.length || from.includes(-1))) return null;
  let now = colours;
  for (let repeats = 1; repeats <= MOST_REPEATS; repeats++) {
    for (const { from } of within) {
      const below = now;
      now = from.map((f) => below[f]!);
    }
    if (now.every((face, i) => face === colours[i])) return { repeats, rows: repeats * within.length };
  }
  return null;
}
