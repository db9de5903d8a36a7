import { setAcross, setUp, EditError } from '../chart/edits.js';
import { layoutRows } from '../chart/layout.js';
import { sideOf } from '../chart/rows.js';
import { LIMITS, type Chart, type School, type Up } from '../chart/schema.js';
import { startChart } from '../chart/start.js';
import { workStitches } from '../needle/needle.js';
import { spanOf, stitchBook, stitchId, takesOf, type Stitch, type StitchBook } from '../stitches/book.js';
import type { Face, Side } from '../stitches/face.js';
import { definedCrossings } from './reader/define.js';
import { stitchesNamed, WordProblem, type Lexicon } from './reader/lexicon.js';
import type { ItemNode } from './reader/language.js';
import { bodyFor, nodeFor, readLines, type PatternLines, type Problem } from './reader/lines.js';
import { RowProblem, workWords, type WorkedRow } from './reader/work.js';
import { readsLeftwards } from './vocabulary.js';

export interface ReadOptions {
  construction: Chart['construction'];
  firstRow: Side;
  school?: School;
}

interface Attempt {
  /** Stitches of each row from the right; null where a row does not work. */
  rows: (WorkedRow | null)[];
  problems: Problem[];
}

const MOST_REPEATS_TRIED = 60;
const LONGEST_CAST_ON = LIMITS.columns * 4;

/** Works every row of the text on a needle of `castOn` loops. */
function attempt(
  lines: PatternLines,
  height: number,
  castOn: number,
  options: ReadOptions,
  lexicon: Lexicon,
): Attempt {
  let needle: readonly Face[] = Array<Face>(castOn).fill('knit');
  const problems: Problem[] = [];
  const rows = Array.from({ length: height }, (_, r): WorkedRow | null => {
    const side = sideOf(options, r);
    const problem = (id: string, message: string) =>
      problems.push({ id, level: 'error', row: r + 1, message });
    const node = nodeFor(lines, r + 1, side);
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
      const fromRight = readsLeftwards(side, lexicon.hand) ? worked.stitches : [...worked.stitches].reverse();
      needle = workStitches(fromRight, needle, lexicon.book).faces;
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
  return { rows, problems };
}

/** Names that mean nothing, or more than one thing: each is asked about once, where it is first met. */
function nameProblems(lines: PatternLines, options: ReadOptions, lexicon: Lexicon): Problem[] {
  const found = new Map<string, Problem>();
  const look = (items: readonly ItemNode[], row: number, side: Side): void => {
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
  lines: PatternLines,
  options: ReadOptions,
  lexicon: Lexicon,
): { fixed: number; repeat: number } | null {
  const side = sideOf(options, 0);
  const body = bodyFor(lines, 1, side);
  if (!body || body.type === 'presented') return null;
  const takes = (row: readonly Stitch[]) => row.reduce((sum, s) => sum + takesOf(s, lexicon.book), 0);
  for (let castOn = 1; castOn <= LIMITS.columns; castOn++) {
    try {
      const { stitches, star } = workWords(body, Array<Face>(castOn).fill('knit'), side, lexicon);
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
function castOns(lines: PatternLines, options: ReadOptions, lexicon: Lexicon): number[] {
  if (lines.castOn) return [Math.min(lines.castOn, LONGEST_CAST_ON)];
  const first = firstRowTakes(lines, options, lexicon);
  if (!first) return lines.rows.get(1)?.count ? [lines.rows.get(1)!.count!] : [];
  if (!first.repeat) return [first.fixed];
  return Array.from({ length: MOST_REPEATS_TRIED }, (_, i) => first.fixed + (i + 1) * first.repeat);
}

/** One cell a column, as texts that are equal where the cloth is. */
function cellsOf(row: readonly Stitch[], book: StitchBook): string[] {
  return row.flatMap((s) => Array.from({ length: spanOf(s, book) }, (_, i) => `${stitchId(s)}@${i}`));
}

interface Frame {
  before: number;
  after: number;
  repeat: number;
}

/** Whether every row repeats itself with the period between the margins, and no stitch lies over a line. */
function repeatsBetween(rows: readonly string[][], width: number, { before, after, repeat }: Frame): boolean {
  const end = width - after;
  const isStart = (row: string[], c: number) => c >= width || row[c]!.endsWith('@0');
  return rows.every((row) => {
    if (!isStart(row, before) || !isStart(row, before + repeat) || !isStart(row, end)) return false;
    for (let c = before; c + repeat < end; c++) if (row[c] !== row[c + repeat]) return false;
    return true;
  });
}

/**
 * The smallest margins between which all rows repeat, the written ones first; null when there are none.
 * `written` is how many stitches stand before the first row's star.
 */
function findFrame(rows: readonly string[][], repeat: number, written: number): Frame | null {
  const width = rows[0]!.length;
  for (let margins = width % repeat; width - margins >= 2 * repeat; margins += repeat) {
    const befores = Array.from({ length: margins + 1 }, (_, i) => i);
    const nearest = befores.sort((a, b) => Math.abs(a - written) - Math.abs(b - written));
    for (const before of nearest) {
      const frame = { before, after: margins - before, repeat };
      if (repeatsBetween(rows, width, frame)) return frame;
    }
  }
  return null;
}

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);
const lcm = (a: number, b: number) => (a / gcd(a, b)) * b;

const fromRight = (stitches: readonly Stitch[], side: Side, lexicon: Lexicon) =>
  readsLeftwards(side, lexicon.hand) ? [...stitches] : [...stitches].reverse();

/** The chart of rows that all keep their count: the grid is the needle, and its repeat is found by looking. */
function steadyChart(
  worked: readonly WorkedRow[],
  wide: readonly WorkedRow[],
  castOn: number,
  options: ReadOptions,
  lexicon: Lexicon,
): Chart {
  const { book } = lexicon;
  const stitches = (rows: readonly WorkedRow[]) =>
    rows.map((w, r) => fromRight(w.stitches, sideOf(options, r), lexicon));
  const bodies = worked.flatMap((w) =>
    w.star ? [w.star.body.reduce((sum, s) => sum + takesOf(s, book), 0)] : [],
  );
  const period = bodies.length ? bodies.reduce(lcm) : 0;
  const frame = period
    ? findFrame(
        stitches(wide).map((row) => cellsOf(row, book)),
        period,
        writtenBefore(worked, options, lexicon),
      )
    : null;
  const rows = stitches(worked);
  if (!frame || (castOn - frame.before - frame.after) % frame.repeat !== 0)
    return gridOf(rows, castOn, options);
  const width = frame.before + frame.repeat + frame.after;
  const folded = rows.map((row) => {
    const cells = columnsOf(row, book);
    const keep = (from: number, to: number) =>
      cells.filter((c) => c.at >= from && c.at < to).map((c) => c.stitch);
    return [...keep(0, frame.before + frame.repeat), ...keep(castOn - frame.after, castOn)];
  });
  const times = (castOn - frame.before - frame.after) / frame.repeat;
  return setAcross(gridOf(folded, width, options), {
    before: frame.before,
    after: frame.after,
    times,
    least: 1,
  });
}

/** Stitches right of the first star, as the RS looks. */
function writtenBefore(worked: readonly WorkedRow[], options: ReadOptions, lexicon: Lexicon): number {
  const r = worked.findIndex((w) => w.star);
  const star = worked[r]?.star;
  if (!star) return 0;
  const right = readsLeftwards(sideOf(options, r), lexicon.hand) ? star.head : star.tail;
  return right.reduce((sum, s) => sum + takesOf(s, lexicon.book), 0);
}

function columnsOf(row: readonly Stitch[], book: StitchBook): { stitch: Stitch; at: number }[] {
  let at = 0;
  return row.map((stitch) => {
    const cell = { stitch, at };
    at += spanOf(stitch, book);
    return cell;
  });
}

function gridOf(rows: readonly Stitch[][], width: number, options: ReadOptions): Chart {
  const chart = startChart({ columns: width, rows: 1, construction: options.construction, ground: 'p' });
  return { ...chart, firstRow: options.firstRow, rows };
}

/** One section of a row by how many loops it takes. */
function takeLoops(
  stitches: readonly Stitch[],
  loops: number,
  book: StitchBook,
): [Stitch[], Stitch[]] | null {
  let taken = 0;
  let i = 0;
  while (i < stitches.length && taken < loops) taken += takesOf(stitches[i++]!, book);
  return taken === loops ? [stitches.slice(0, i), stitches.slice(i)] : null;
}

/**
 * The chart of rows whose counts change: each section of the rows is laid out by itself, so that columns open
 * and close where loops are won and lost. Null when the rows do not share their sections.
 */
function changingChart(worked: readonly WorkedRow[], options: ReadOptions, lexicon: Lexicon): Chart | null {
  const { book } = lexicon;
  const starred = worked.find((w) => w.star)?.star;
  if (!starred) return null;
  const sections: Stitch[][][] = [[], [], []];
  let live: number[] | null = null;
  let times = 1;
  for (const [r, row] of worked.entries()) {
    const side = sideOf(options, r);
    let parts: Stitch[][];
    if (row.star) {
      const { head, body, tail, passes } = row.star;
      if (r === 0) times = passes;
      else if (passes !== times) return null;
      const order = readsLeftwards(side, lexicon.hand) ? [head, body, tail] : [tail, body, head];
      parts = order.map((p) => fromRight(p, side, lexicon));
    } else {
      if (!live) return null;
      const all = fromRight(row.stitches, side, lexicon);
      const first = takeLoops(all, live[0]!, book);
      const second = first && takeLoops(first[1], live[1]!, book);
      const rest = second && takeLoops(second[1], live[1]! * (times - 1), book);
      if (!first || !second || !rest) return null;
      parts = [first[0], second[0], rest[1]];
    }
    const takes = parts.map((p) => p.reduce((sum, s) => sum + takesOf(s, book), 0));
    if (live && live.some((n, i) => n !== takes[i])) return null;
    live = parts.map((p) => workStitches(p, Array<Face>(p.length).fill('knit'), book).makes);
    parts.forEach((p, i) => sections[i]!.push(p));
  }
  const laid = sections.map((s) => layoutRows(s, book));
  const rows = worked.map((_, r) => laid.flatMap((l) => l.rows[r]!));
  const [before, repeat, after] = laid.map((l) => l.width) as [number, number, number];
  if (!repeat) return null;
  return setAcross(gridOf(rows, before + repeat + after, options), { before, after, times, least: 1 });
}

function upFrom(lines: PatternLines, height: number): Up | null {
  const { plan } = lines;
  const repeated = plan?.filter((p) => p.times > 1);
  if (repeated?.length !== 1) return null;
  const [{ from, to, times }] = repeated as [{ from: number; to: number; times: number }];
  return { setup: from - 1, closing: height - to, times };
}

/**
 * Reads a written pattern into a chart. What does not add up is told row by row and never guessed: a row that
 * cannot be worked stands in the chart as plain ground, and its problem says why.
 */
export function readPattern(
  text: string,
  options: ReadOptions,
): { chart: Chart | null; problems: Problem[] } {
  const lines = readLines(text);
  const { defined, problems: keyProblems } = definedCrossings(lines, 'right');
  const lexicon: Lexicon = { school: options.school, hand: 'right', book: stitchBook(), defined };
  const problems = [...lines.problems, ...keyProblems];
  const height = Math.max(0, ...lines.rows.keys());
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
  const asked = nameProblems(lines, options, lexicon);
  if (asked.length) return { chart: null, problems: [...problems, ...asked] };
  const tries = castOns(lines, options, lexicon);
  let best: { castOn: number; attempt: Attempt } | null = null;
  for (const castOn of tries) {
    const tried = attempt(lines, height, castOn, options, lexicon);
    if (!best || tried.problems.length < best.attempt.problems.length) best = { castOn, attempt: tried };
    if (!tried.problems.length) break;
  }
  best ??= { castOn: 1, attempt: attempt(lines, height, 1, options, lexicon) };
  problems.push(...best.attempt.problems);
  return { chart: chartOf(best, lines, height, options, lexicon, problems), problems };
}

function chartOf(
  { castOn, attempt: { rows } }: { castOn: number; attempt: Attempt },
  lines: PatternLines,
  height: number,
  options: ReadOptions,
  lexicon: Lexicon,
  problems: Problem[],
): Chart | null {
  const { book } = lexicon;
  const whole = rows.filter((r) => r !== null);
  if (!whole.length) return null;
  let chart: Chart | null = null;
  if (whole.length === height) {
    const steady = whole.every((w) => w.stitches.every((s) => takesOf(s, book) === spanOf(s, book)));
    if (steady) {
      const bodies = whole.flatMap((w) =>
        w.star ? [w.star.body.reduce((sum, s) => sum + takesOf(s, book), 0)] : [1],
      );
      const wide = attempt(lines, height, castOn + 3 * bodies.reduce(lcm), options, lexicon).rows;
      const comesOut = wide.every((w) => w !== null);
      chart = steadyChart(whole, comesOut ? wide : whole, castOn, options, lexicon);
    } else chart = changingChart(whole, options, lexicon);
  }
  if (!chart) {
    const seen = rows.map((w, r) =>
      w ? fromRight(w.stitches, sideOf(options, r), lexicon) : Array<Stitch>(castOn).fill('p'),
    );
    if (rows.every((w) => w !== null)) {
      const laid = layoutRows(seen, book);
      chart = gridOf(laid.rows, laid.width, options);
    } else chart = gridOf(seen, castOn, options);
  }
  if (chart.width > LIMITS.columns) {
    problems.push({
      id: 'too-wide',
      level: 'error',
      message: `The rows are ${chart.width} stitches wide; a chart holds at most ${LIMITS.columns} columns.`,
    });
    return null;
  }
  try {
    return setUp(chart, upFrom(lines, chart.rows.length));
  } catch (error) {
    if (error instanceof EditError) return chart;
    throw error;
  }
}
