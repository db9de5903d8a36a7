import { repeatColumns, repeatsAcross } from '../../chart/frame.js';
import { jogsFrom } from '../../chart/repeat-lines.js';
import { LIMITS, type Chart } from '../../chart/schema.js';
import { modulo } from '../../values.js';
import { assemble } from './assemble.js';
import { attempt, type Attempt, type Reader } from './attempt.js';
import { castOns } from './cast-on.js';
import { repeatFails } from './compare.js';
import type { PatternLines, Problem } from './pattern-lines.js';

/** Stitches worked in reading one text, at most: a pattern that never comes out must not take for ever. */
export const MOST_WORKED = 6_000_000;
const LONGEST_CAST_ON = LIMITS.columns * 4;

/** Rows as they come out best, and on how many stitches. */
export interface Tried {
  castOn: number;
  attempt: Attempt;
}

/** The rows worked on each number of stitches that may be cast on, until they come out; or why they cannot be worked at all. */
export function workedBest(lines: PatternLines, reader: Reader): Tried | Problem {
  const tries = castOns(lines, reader);
  if (tries.length && Math.min(...tries) > LONGEST_CAST_ON)
    return {
      id: 'too-wide',
      level: 'error',
      row: 1,
      message: `The first row works more than ${LONGEST_CAST_ON} stitches; a chart holds at most ${LIMITS.columns} columns.`,
    };
  let best: Tried | null = null;
  let worked = 0;
  for (const castOn of tries) {
    worked += castOn * reader.rows.length;
    if (best && worked > MOST_WORKED / 4) break;
    const tried = attempt(reader, castOn);
    if (!best || tried.problems.length < best.attempt.problems.length) best = { castOn, attempt: tried };
    if (!tried.problems.length) break;
  }
  if (best) return best;
  // What a first row says that was not understood may say it.
  const first = reader.rows[0]?.body;
  if (!first || first.type === 'unread') return { castOn: 1, attempt: attempt(reader, 1) };
  return {
    id: 'no-cast-on',
    level: 'error',
    row: 1,
    message: 'Nothing says how many stitches there are: give the cast-on, or a count after a row.',
  };
}

/** Why more is cast on than a text is worked with; null where it is not. */
export function castOnTooLarge({ pattern: { castOn } }: PatternLines): Problem | null {
  if (!castOn || castOn.stitches <= LONGEST_CAST_ON) return null;
  const message = `${castOn.stitches} stitches are cast on; a text is worked with at most ${LONGEST_CAST_ON}. Give fewer repeats.`;
  return { id: 'cast-on-too-large', level: 'error', message };
}

/** The chart of rows that were worked, its repeat across taken where it does as the rows say; null where there is none. */
export function chartedFrom(
  { castOn, attempt: made }: Tried,
  reader: Reader,
): { chart: Chart | null; problems: Problem[] } {
  const { options, lexicon } = reader;
  const problems: Problem[] = [];
  const untaken = (why: string) =>
    problems.push({ id: 'repeat-not-taken', level: 'note', message: `No repeat across is taken: ${why}` });
  const comesOut = !made.problems.length;
  let chart = assemble(made.rows, castOn, (n) => attempt(reader, n).rows, options, lexicon);
  if (chart && repeatsAcross(chart) && comesOut) {
    const why = repeatFails(chart, castOn, reader);
    if (why) {
      untaken(why);
      chart = assemble(made.rows, castOn, null, options, lexicon);
    }
  } else if (chart && comesOut && made.rows.some((row) => row?.star))
    untaken(
      'the repeats of the rows do not stand above each other over all rows. The rows are charted whole.',
    );
  if (chart && chart.width > LIMITS.columns) {
    const message = `The rows are ${chart.width} stitches wide; a chart holds at most ${LIMITS.columns} columns.`;
    problems.push({ id: 'too-wide', level: 'error', message });
    return { chart: null, problems };
  }
  return { chart: chart && withStarts(chart, made.starts), problems };
}

/** The chart with its rounds beginning where the text moves their marker to. */
function withStarts(chart: Chart, starts: readonly number[]): Chart {
  if (starts.every((s) => s === 0)) return chart;
  const { start, end } = repeatColumns(chart);
  // A round of nothing but repeats is the same when it begins a repeat later, and any when it begins a round later.
  const among = repeatsAcross(chart) ? end - start : chart.width;
  const nearest = (s: number) => {
    const on = modulo(s, among);
    return 2 * on > among ? on - among : on;
  };
  return { ...chart, jogs: jogsFrom(chart.rows.map((_, r) => nearest(starts[r] ?? 0))) };
}
