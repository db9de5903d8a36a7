import { expandRow, repeatsAcross, timesOf } from '../../chart/frame.js';
import type { Chart } from '../../chart/schema.js';
import { remembered } from '../../remember.js';
import { sameStitch, stitchBook, takesOf, type Stitch } from '../../stitches/book.js';
import { NO_STITCH } from '../../stitches/kinds.js';
import { modulo } from '../../values.js';
import { attempt, type Attempt, type Reader } from './attempt.js';
import { fromTheRight } from './work.js';
import type { PatternLines, Problem } from './pattern-lines.js';
import type { Order } from './order.js';
import type { Planned } from './plan.js';

/** What the text states of the whole, compared with what its rows come to. */
export function compared(
  lines: PatternLines,
  castOn: number,
  chart: Chart,
  tried: Attempt,
  reader: Reader,
): Problem[] {
  const problems: Problem[] = [];
  const tell = (id: string, message: string, at?: Problem['at']) =>
    problems.push({ id, level: 'error', message, at });
  const { multiple, castOn: stated } = lines.pattern;
  const { panel } = lines;
  if (panel && castOn !== panel.stitches)
    tell(
      'panel-differs',
      `The text speaks of ${panel.stitches} stitches, and its rows begin on ${castOn}.`,
      panel.at,
    );
  if (multiple) {
    const { of, plus } = multiple;
    if (of < 1) tell('multiple-differs', 'A multiple of no stitches cannot be.');
    else if (modulo(castOn - plus, of) !== 0)
      tell(
        'multiple-differs',
        `A multiple of ${of} plus ${plus} is stated; the rows begin on ${castOn} stitches.`,
      );
    else if (!tried.problems.length) {
      const more = attempt(reader, castOn + of);
      const failed = more.problems.find((p) => p.id !== 'count-differs');
      if (failed)
        tell(
          'multiple-differs',
          `A multiple of ${of} plus ${plus} is stated, but the rows do not come out on ${castOn + of} stitches: ${failed.message}`,
        );
    }
    if (multiple.least !== null && castOn < multiple.least)
      tell(
        'multiple-differs',
        `At least ${multiple.least} stitches are stated; the rows begin on ${castOn}.`,
      );
  }
  // Where the repeat is taken to begin is the designer's to say; more repeats than there are stitches cannot be.
  if (typeof stated?.repeats === 'number' && repeatsAcross(chart)) {
    const most = Math.floor(castOn / takenByRepeat(chart));
    if (stated.repeats > most)
      tell('repeats-differ', `The cast-on is said to be ${stated.repeats} repeats; it holds ${most}.`);
  }
  return problems;
}

/** Why a chart's repeat does not hold for the words: worked on one repeat and on two more, they make something else. */
export function repeatFails(chart: Chart, castOn: number, reader: Reader): string | null {
  const period = takenByRepeat(chart);
  if (!period) return 'it takes no stitches.';
  for (const more of [1, 2]) {
    const tried = attempt(reader, castOn + more * period);
    const [failed] = tried.problems.filter((p) => p.id !== 'count-differs');
    if (failed)
      return `on ${castOn + more * period} stitches ${failed.message.charAt(0).toLowerCase()}${failed.message.slice(1)}`;
    // Rows that are worked alike, and charted alike, are compared once.
    const isAsCharted = remembered((expanded: readonly Stitch[], read: readonly Stitch[]) => {
      const wanted = expanded.filter((s) => s !== NO_STITCH);
      return wanted.length === read.length && wanted.every((s, i) => sameStitch(s, read[i]!));
    });
    for (const [r, row] of tried.rows.entries()) {
      const expanded = expandRow(chart, r, timesOf(chart) + more);
      const read = row && fromTheRight(row, reader.rows[r]!.side, reader.lexicon.hand);
      if (!expanded || !read || !isAsCharted(expanded, read))
        return `${reader.rows[r]!.label.toLowerCase()} makes something else on ${castOn + more * period} stitches.`;
    }
  }
  return null;
}

/** Loops the repeat takes in row 1. */
function takenByRepeat(chart: Chart): number {
  const [one, two] = [1, 2].map((times) =>
    (expandRow(chart, 0, times) ?? []).reduce((sum, s) => sum + takesOf(s, stitchBook()), 0),
  ) as [number, number];
  return two - one;
}

/** A repeat up must leave as many stitches as it begins with. */
export function gains(
  { plan, open }: Planned,
  { needles, problems }: Attempt,
  rows: Order['rows'],
): Problem[] {
  const stretch = open ?? plan?.find(({ times }) => times > 1);
  if (!stretch || problems.length) return [];
  const [before, after] = [needles[stretch.from - 1], needles[stretch.to]];
  if (before === undefined || after === undefined || before === after) return [];
  return [
    {
      id: 'repeat-gains',
      level: 'error',
      row: stretch.to,
      message: `The rows from ${rows[stretch.from - 1]!.label.toLowerCase()} to ${rows[stretch.to - 1]!.label.toLowerCase()} are repeated, but begin with ${before} stitches and end with ${after}.`,
    },
  ];
}

/** The rows a text says are repeated against those that its rows, or its plan, come to. */
export function repeatCompared(
  { rowRepeat }: Pick<PatternLines, 'rowRepeat'>,
  { plan, open }: Planned,
  height: number,
): Problem[] {
  if (!rowRepeat) return [];
  const { rows, at } = rowRepeat;
  const stretch = open ?? plan?.find(({ times }) => times > 1);
  const repeated = stretch ? stretch.to - stretch.from + 1 : height;
  if (repeated === rows) return [];
  return [
    {
      id: 'repeat-differs',
      level: 'caution',
      message: stretch
        ? `The text speaks of a repeat of ${rows} rows, and repeats rows ${stretch.from}–${stretch.to}, which are ${repeated}.`
        : `The text speaks of a repeat of ${rows} rows, and writes ${height}: set the repeat as you mean it.`,
      at,
    },
  ];
}
