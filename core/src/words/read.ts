import { EditError } from '../chart/edit.js';
import { setUp } from '../chart/edits.js';
import { repeatColumns, repeatsAcross, type Stretch } from '../chart/frame.js';
import { jogsFrom, type Up } from '../chart/lines.js';
import { modulo } from '../values.js';
import { LIMITS, type Chart } from '../chart/schema.js';
import { sideOf } from '../construction/construction.js';
import { freshNeedle, needleFrom, workStitches } from '../needle/needle.js';
import { stitchBook, takesOf, type Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import type { CastOn, Item, Pattern } from './pattern.js';
import { assemble, type ReadOptions } from './reader/assemble.js';
import { definedCrossings } from './reader/define.js';
import { turned } from './reader/hands.js';
import { stitchesNamed, TooMuchWork, WordProblem, type Lexicon } from './reader/lexicon.js';
import {
  bodyFor,
  heightOf,
  lineFor,
  MOST_PROBLEMS,
  numberRows,
  readLines,
  type NumberedRows,
  type Problem,
} from './reader/lines.js';
import { RowProblem, workWords, type WorkedRow } from './reader/work.js';

export type { ReadOptions };

interface Attempt {
  /** Stitches of each row from the right; null where a row does not work. */
  rows: (WorkedRow | null)[];
  /** How many stitches after the first round's each round begins. */
  starts: number[];
  problems: Problem[];
}

const MOST_REPEATS_TRIED = 60;
/** Stitches worked in reading one text, at most: a pattern that never comes out must not take for ever. */
const MOST_WORKED = 6_000_000;
const LONGEST_CAST_ON = LIMITS.columns * 4;

/** Works every row of the text on a needle of `castOn` loops. */
function attempt(
  lines: NumberedRows,
  height: number,
  castOn: number,
  options: ReadOptions,
  lexicon: Lexicon,
): Attempt {
  let needle = freshNeedle(castOn);
  let start = 0;
  const starts: number[] = [];
  const problems: Problem[] = [];
  const rows = Array.from({ length: height }, (_, r): WorkedRow | null => {
    if (problems.length >= MOST_PROBLEMS) return null;
    const side = sideOf(options, r);
    const problem = (id: string, message: string) =>
      problems.push({ id, level: 'error', row: r + 1, message });
    const node = lineFor(lines, r + 1, side);
    const body = bodyFor(lines, r + 1, side);
    if (!node || !body) {
      problem('row-missing', `Row ${r + 1} is not written.`);
      return null;
    }
    if (node.side && node.side !== side)
      problem(
        'wrong-side',
        `Row ${r + 1} is written as ${node.side}, but by its number it is worked on the ${side}.`,
      );
    try {
      const worked = workWords(body, needle, side, lexicon);
      const onwards = lexicon.hand === 'left-same-fabric' ? -worked.moved : worked.moved;
      needle = workStitches(
        turned(worked.stitches, side, lexicon.hand),
        needleFrom(needle, onwards),
        lexicon.book,
      ).loops;
      start += onwards;
      if (start && options.construction === 'flat')
        problem('marker-in-flat-work', `Row ${r + 1} moves the marker of the round, but is worked flat.`);
      starts[r] = start;
      if (
        node.count !== null &&
        node.count !== needle.length &&
        body.type === 'items' &&
        !body.items.some((i) => i.type === 'star')
      )
        problem(
          'count-differs',
          `Row ${r + 1} says ${node.count} stitches; the needle holds ${needle.length}.`,
        );
      return worked;
    } catch (error) {
      if (error instanceof RowProblem) problem(error.id, `Row ${r + 1} ${error.message}`);
      else if (error instanceof WordProblem) problem(error.id, `Row ${r + 1}: ${error.message}`);
      else throw error;
      return null;
    }
  });
  return { rows, starts, problems };
}

/** Names that mean nothing, or more than one thing: each is asked about once, where it is first met. */
function nameProblems(lines: NumberedRows, options: ReadOptions, lexicon: Lexicon): Problem[] {
  const found = new Map<string, Problem>();
  const look = (items: readonly Item[], row: number, side: Side): void => {
    for (const item of items) {
      if (item.type === 'star' || item.type === 'group') look(item.items, row, side);
      if (item.type !== 'word' || item.spelled || found.has(item.word.toLowerCase())) continue;
      try {
        stitchesNamed(item.word, side, lexicon);
      } catch (error) {
        if (!(error instanceof WordProblem)) throw error;
        found.set(item.word.toLowerCase(), {
          id: error.id,
          level: 'error',
          row,
          message: `Row ${row}: ${error.message}`,
        });
      }
    }
  };
  for (const [row, { body }] of lines.rows)
    if (body.type === 'items') look(body.items, row, sideOf(options, row - 1));
  return [...found.values()];
}

/** Loops the first row takes: its head, one pass of its star, and its tail; null when it does not say. */
function firstRowTakes(
  lines: NumberedRows,
  options: ReadOptions,
  lexicon: Lexicon,
): { fixed: number; repeat: number } | null {
  const side = sideOf(options, 0);
  const body = bodyFor(lines, 1, side);
  if (!body || body.type === 'presented') return null;
  const takes = (row: readonly Stitch[]) => row.reduce((sum, s) => sum + takesOf(s, lexicon.book), 0);
  for (let castOn = 1; castOn <= LIMITS.columns; castOn++) {
    try {
      const { stitches, star } = workWords(body, freshNeedle(castOn), side, lexicon);
      if (!star) return { fixed: takes(stitches), repeat: 0 };
      return { fixed: takes(star.head) + takes(star.tail), repeat: takes(star.body) };
    } catch (error) {
      if (error instanceof WordProblem) return null;
      if (!(error instanceof RowProblem)) throw error;
    }
  }
  return null;
}

/** The cast-ons worth trying, smallest first: the stated one alone, or those that row 1 allows. */
function castOns(
  stated: CastOn | null,
  lines: NumberedRows,
  options: ReadOptions,
  lexicon: Lexicon,
): number[] {
  if (stated) return [stated.stitches];
  const first = firstRowTakes(lines, options, lexicon);
  if (!first) return lines.rows.get(1)?.count ? [lines.rows.get(1)!.count!] : [];
  if (!first.repeat) return [first.fixed];
  return Array.from({ length: MOST_REPEATS_TRIED }, (_, i) => first.fixed + (i + 1) * first.repeat);
}

/** The chart with the repeat up that the text plans, where its rows allow it. */
function withPlan(chart: Chart, { plan }: Pattern): { chart: Chart; problems: Problem[] } {
  if (!plan || plan.every(({ times }) => times === 1)) return { chart, problems: [] };
  const cannot = (why: string) => ({
    chart,
    problems: [
      {
        id: 'plan-left-aside',
        level: 'caution' as const,
        message: `How the rows follow each other is left aside: ${why}`,
      },
    ],
  });
  const at = plan.findIndex(({ times }) => times > 1);
  const { from, to, times } = plan[at]!;
  const [before, after] = [plan.slice(0, at), plan.slice(at + 1)];
  if (after.some((p) => p.times > 1)) return cannot('a chart repeats one stretch of rows.');
  // Some of the rows once more after the last whole pass: it is ended part-way.
  const ended = after[0]?.from === from && after[0].to < to ? after.shift() : undefined;
  const onwards = (stretches: readonly Stretch[], first: number) =>
    stretches.every((p, i) => p.from === (i ? stretches[i - 1]!.to + 1 : first));
  const isWhole =
    onwards(before, 1) &&
    (before.at(-1)?.to ?? 0) === from - 1 &&
    onwards(after, to + 1) &&
    (after.at(-1)?.to ?? to) === chart.rows.length;
  if (!isWhole) return cannot('it does not go through the rows in order, with one stretch of them repeated.');
  const up: Up = { setup: from - 1, closing: chart.rows.length - to, times };
  try {
    const edit = setUp(chart, ended ? { ...up, end: ended.to } : up);
    return { chart: edit.chart, problems: [] };
  } catch (error) {
    if (error instanceof EditError) return cannot(error.message);
    throw error;
  }
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

/**
 * Reads a written pattern into a chart. What does not add up is told row by row and never guessed: a row that
 * cannot be worked stands in the chart as plain ground, and its problem says why.
 */
export function readPattern(text: string, options: ReadOptions): Reading {
  try {
    return readWithin(text, options, { left: MOST_WORKED });
  } catch (error) {
    if (!(error instanceof TooMuchWork)) throw error;
    const message =
      'This text repeats more than a pattern can: its rows win stitches without end, or its brackets work nothing many times over.';
    return { chart: null, problems: [{ id: 'too-much-work', level: 'error', message }] };
  }
}

export interface Reading {
  chart: Chart | null;
  problems: Problem[];
}

function readWithin(text: string, options: ReadOptions, budget: { left: number }): Reading {
  const { pattern, problems: lineProblems } = readLines(text);
  const lines = numberRows(pattern.rows);
  const { defined, problems: keyProblems } = definedCrossings(pattern.key, 'right');
  const lexicon: Lexicon = { school: options.school, hand: 'right', book: stitchBook(), defined, budget };
  const problems = [...lineProblems, ...lines.problems, ...keyProblems].slice(0, MOST_PROBLEMS);
  const height = lines.rows.size ? heightOf(lines, pattern.plan, (row) => sideOf(options, row - 1)) : 0;
  if (!height) {
    if (!problems.length)
      problems.push({
        id: 'no-rows',
        level: 'error',
        message: 'No written row was found. A row begins "Row 1:" or "Round 1:".',
      });
    return { chart: null, problems };
  }
  if (height > LIMITS.rows)
    return {
      chart: null,
      problems: [
        {
          id: 'too-many-rows',
          level: 'error',
          message: `A chart holds at most ${LIMITS.rows} rows; the text speaks of row ${height}.`,
        },
      ],
    };
  const { castOn: stated } = pattern;
  if (stated && stated.stitches > LONGEST_CAST_ON) {
    const message = `${stated.stitches} stitches are cast on; a text is worked with at most ${LONGEST_CAST_ON}. Give fewer repeats.`;
    return { chart: null, problems: [...problems, { id: 'cast-on-too-large', level: 'error', message }] };
  }
  const asked = nameProblems(lines, options, lexicon);
  if (asked.length) return { chart: null, problems: [...problems, ...asked] };
  const tries = castOns(stated, lines, options, lexicon);
  let best: { castOn: number; attempt: Attempt } | null = null;
  let worked = 0;
  for (const castOn of tries) {
    worked += castOn * height;
    if (best && worked > MOST_WORKED / 4) break;
    const tried = attempt(lines, height, castOn, options, lexicon);
    if (!best || tried.problems.length < best.attempt.problems.length) best = { castOn, attempt: tried };
    if (!tried.problems.length) break;
  }
  best ??= { castOn: 1, attempt: attempt(lines, height, 1, options, lexicon) };
  problems.push(...best.attempt.problems);
  const at = (castOn: number) => attempt(lines, height, castOn, options, lexicon).rows;
  const charted = assemble(best.attempt.rows, best.castOn, at, options, lexicon);
  const chart = charted && withStarts(charted, best.attempt.starts);
  if (chart && chart.width > LIMITS.columns) {
    problems.push({
      id: 'too-wide',
      level: 'error',
      message: `The rows are ${chart.width} stitches wide; a chart holds at most ${LIMITS.columns} columns.`,
    });
    return { chart: null, problems };
  }
  if (!chart) return { chart, problems };
  const planned = withPlan(chart, pattern);
  return { chart: planned.chart, problems: [...problems, ...planned.problems] };
}
