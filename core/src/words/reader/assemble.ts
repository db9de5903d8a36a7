import { lcm } from '../../values.js';
import { setAcross } from '../../chart/edits.js';
import { jogsFrom } from '../../chart/repeat-lines.js';
import { layoutRows } from '../../chart/layout.js';
import { sideOf, wayOf } from '../../construction/index.js';
import { LIMITS, type Chart, type School } from '../../chart/schema.js';
import { startChart } from '../../chart/start.js';
import { freshNeedle, workStitches } from '../../needle/needle.js';
import { spanOf, stitchId, takesOf, type Stitch, type StitchBook } from '../../stitches/book.js';
import type { Side } from '../../stitches/face.js';
import { turned } from './hands.js';
import type { Lexicon } from './lexicon.js';
import { remembered } from '../../remember.js';
import { fromTheRight, type WorkedRow } from './work.js';

export interface ReadOptions {
  construction: Chart['construction'];
  firstRow: Side;
  school?: School;
  /** What was answered of names that may mean more than one thing: by name in lower case, the id of the stitch. */
  answers?: Readonly<Record<string, string>>;
  /** Which of the text's sizes is read, the first being 0. */
  size?: number;
  /** Sentences that the designer said say nothing of the rows, as `plainly` writes them. */
  asides?: readonly string[];
  /** Lines of a key that stand elsewhere, and hold for this pattern too. */
  keyText?: string;
}

/** No stitch covers so many columns. */
const MOST_SPAN = 256;

/** Rows as one number a column, equal where the cloth is; a stitch begins where `MOST_SPAN` divides it. */
function cellsOf(rows: readonly (readonly Stitch[])[], book: StitchBook): Int32Array[] {
  const known = new Map<Stitch, number>();
  const byId = new Map<string, number>();
  const numberOf = (s: Stitch): number => {
    let n = known.get(s);
    if (n === undefined) {
      const id = stitchId(s);
      n = byId.get(id) ?? byId.size;
      byId.set(id, n);
      known.set(s, n);
    }
    return n;
  };
  const inNumbers = remembered((row: readonly Stitch[]) => {
    const cells = new Int32Array(row.reduce((sum, s) => sum + spanOf(s, book), 0));
    let at = 0;
    for (const s of row) {
      const [n, span] = [numberOf(s) * MOST_SPAN, spanOf(s, book)];
      for (let i = 0; i < span; i++) cells[at++] = n + i;
    }
    return cells;
  });
  return rows.map((row) => inNumbers(row));
}

interface Frame {
  before: number;
  after: number;
  repeat: number;
}

/** For each place, how many of the places before it are marked: asks about a stretch then cost nothing. */
function sums(marks: readonly boolean[]): number[] {
  const out = [0];
  for (const mark of marks) out.push(out.at(-1)! + (mark ? 1 : 0));
  return out;
}

/**
 * The smallest margins between which all rows repeat, the written ones first; null when there are none.
 * `written` is how many stitches stand before the first row's star. Each cell is looked at once.
 */
function findFrame(rows: readonly Int32Array[], repeat: number, written: number): Frame | null {
  const width = rows[0]!.length;
  const differs = Array<boolean>(width).fill(false);
  const cut = Array<boolean>(width + 1).fill(true);
  for (const row of rows)
    for (let c = 0; c < width; c++) {
      if (c + repeat < width && row[c] !== row[c + repeat]) differs[c] = true;
      if (row[c]! % MOST_SPAN) cut[c] = false;
    }
  const before = sums(differs);
  const holds = ({ before: from, after }: Frame): boolean => {
    const end = width - after;
    // No stitch lies over a line, and every cell between them is as the one a repeat further on.
    return (
      cut[from]! &&
      cut[from + repeat]! &&
      cut[end]! &&
      before[Math.max(from, end - repeat)]! === before[from]!
    );
  };
  for (let margins = width % repeat; width - margins >= 2 * repeat; margins += repeat) {
    const befores = Array.from({ length: margins + 1 }, (_, i) => i);
    const nearest = befores.sort((a, b) => Math.abs(a - written) - Math.abs(b - written));
    for (const from of nearest) {
      const frame = { before: from, after: margins - from, repeat };
      if (holds(frame)) return frame;
    }
  }
  return null;
}

/** How many repeats more than a row's width leaves over its margins may hold, where rows are shifted. */
const MARGINS_TRIED = 3;

/**
 * The same where rows begin their repeat at different places: the margins, and how much later than the frame each
 * row begins. Only places where a star was written, and those whole repeats nearer to the edge, are tried.
 */
function findJoggedFrame(
  rows: readonly Int32Array[],
  repeat: number,
  written: readonly number[],
): (Frame & { jogs: number[] }) | null {
  const width = rows[0]!.length;
  const looked = rows.map((row) => ({
    before: sums(Array.from(row, (cell, c) => c + repeat < width && cell !== row[c + repeat])),
    isCut: (c: number) => c === 0 || c === width || row[c]! % MOST_SPAN === 0,
  }));
  const holds = (r: number, from: number, end: number): boolean => {
    const { before, isCut } = looked[r]!;
    if (from < 0 || end > width || ![from, from + repeat, end].every(isCut)) return false;
    return before[Math.max(from, end - repeat)]! === before[from]!;
  };
  const nearest = Array.from({ length: 2 * repeat - 1 }, (_, i) => (i % 2 ? (i + 1) / 2 : -i / 2));
  const starts = [...new Set(written.flatMap((h) => [h, h % repeat]))].sort((a, b) => a - b);
  for (let k = 0; k <= MARGINS_TRIED; k++) {
    const margins = (width % repeat) + k * repeat;
    if (width - margins < 2 * repeat) break;
    for (const from of starts) {
      if (from > margins) continue;
      const end = width - (margins - from);
      const jogs: number[] = [];
      for (let r = 0; r < rows.length; r++) {
        const jog = nearest.find((j) => holds(r, from + j, end + j));
        if (jog === undefined) break;
        jogs.push(jog);
      }
      if (jogs.length === rows.length) return { before: from, after: margins - from, repeat, jogs };
    }
  }
  return null;
}

/** The period all stars share; 0 when it would be wider than a chart, so that nothing repeats. */
function sharedPeriod(rows: readonly WorkedRow[], book: StitchBook): number {
  const bodies = rows.flatMap((w) =>
    w.star ? [w.star.body.reduce((sum, s) => sum + takesOf(s, book), 0)] : [],
  );
  const period = bodies.length ? bodies.reduce(lcm) : 0;
  return period <= LIMITS.columns ? period : 0;
}

const fromRight = (stitches: readonly Stitch[], side: Side, { hand }: Lexicon) =>
  turned(stitches, side, hand);

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
    rows.map((w, r) => fromTheRight(w, sideOf(options, r), lexicon.hand));
  const period = sharedPeriod(worked, book);
  const cells = period ? cellsOf(stitches(wide), book) : [];
  const written = writtenBefore(worked, options, lexicon);
  const straight = period ? findFrame(cells, period, written[0] ?? 0) : null;
  const jogged =
    period && !straight && wayOf(options).shifts === 'repeat'
      ? findJoggedFrame(cells, period, written)
      : null;
  const frame = straight ?? jogged;
  const rows = stitches(worked);
  // A round that begins elsewhere than the first is a repeat only where the round is nothing else.
  const isShifted = worked.some((w) => w.moved !== 0);
  const holds = frame !== null && (!isShifted || frame.before + frame.after === 0);
  const times = holds ? (castOn - frame.before - frame.after) / frame.repeat : 0;
  if (!frame || !Number.isInteger(times) || times < 1 || times > LIMITS.repeats)
    return gridOf(rows, castOn, options);
  const width = frame.before + frame.repeat + frame.after;
  // Rows that are worked alike are one row of the chart.
  const fold = remembered((row: readonly Stitch[], jog: number) => {
    const columns = columnsOf(row, book);
    const keep = (from: number, to: number) =>
      columns.filter((c) => c.at >= from && c.at < to).map((c) => c.stitch);
    return [...keep(0, frame.before + frame.repeat + jog), ...keep(castOn - frame.after + jog, castOn)];
  });
  const folded = rows.map((row, r) => fold(row, jogged?.jogs[r] ?? 0));
  const { before, after } = frame;
  const chart = setAcross(gridOf(folded, width, options), { before, after, times, least: 1 }).chart;
  return { ...chart, jogs: jogsFrom(jogged?.jogs ?? []) };
}

/** Stitches right of the star of each row that has one, as the RS looks. */
function writtenBefore(worked: readonly WorkedRow[], options: ReadOptions, lexicon: Lexicon): number[] {
  return worked.flatMap(({ star }, r) => {
    if (!star) return [];
    const [right] = turned([star.head, star.tail], sideOf(options, r), lexicon.hand) as [Stitch[], Stitch[]];
    return [right.reduce((sum, s) => sum + takesOf(s, lexicon.book), 0)];
  });
}

function columnsOf(row: readonly Stitch[], book: StitchBook): { stitch: Stitch; at: number }[] {
  let at = 0;
  return row.map((stitch) => {
    const cell = { stitch, at };
    at += spanOf(stitch, book);
    return cell;
  });
}

function gridOf(rows: readonly (readonly Stitch[])[], width: number, options: ReadOptions): Chart {
  const chart = startChart({ columns: width, rows: 1, construction: options.construction, ground: 'p' });
  return { ...chart, firstRow: options.firstRow, rows: rows as Stitch[][] };
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
      parts = turned([head, body, tail], side, lexicon.hand).map((p) => fromRight(p, side, lexicon));
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
    live = parts.map((p) => workStitches(p, freshNeedle(p.length), book).makes);
    parts.forEach((p, i) => sections[i]!.push(p));
  }
  const laid = sections.map((s) => layoutRows(s, book));
  const rows = worked.map((_, r) => laid.flatMap((l) => l.rows[r]!));
  const [before, repeat, after] = laid.map((l) => l.width) as [number, number, number];
  if (!repeat || times > LIMITS.repeats) return null;
  return setAcross(gridOf(rows, before + repeat + after, options), { before, after, times, least: 1 }).chart;
}

/** How many more passes of the longest star are worked to see what truly repeats. */
const PASSES_MORE = 3;

/**
 * The chart of worked rows, their repeat across found; null when not one of them could be worked. `at` works the
 * rows again on a needle of another size; without it no repeat is sought. A row that could not be worked stands as
 * plain ground.
 */
export function assemble(
  rows: readonly (WorkedRow | null)[],
  castOn: number,
  at: ((castOn: number) => readonly (WorkedRow | null)[]) | null,
  options: ReadOptions,
  lexicon: Lexicon,
): Chart | null {
  const { book } = lexicon;
  const whole = rows.filter((r) => r !== null);
  if (!whole.length) return null;
  const seen = rows.map((w, r) =>
    w ? fromTheRight(w, sideOf(options, r), lexicon.hand) : Array<Stitch>(castOn).fill('p'),
  );
  if (whole.length < rows.length) return gridOf(seen, castOn, options);
  if (!at) {
    const { rows: plain, width } = layoutRows(seen, book);
    return gridOf(plain, width, options);
  }
  if (whole.every((w) => w.stitches.every((s) => takesOf(s, book) === spanOf(s, book)))) {
    const period = sharedPeriod(whole, book);
    const wide = period ? at(castOn + PASSES_MORE * period).filter((w) => w !== null) : whole;
    return steadyChart(whole, wide.length === whole.length ? wide : whole, castOn, options, lexicon);
  }
  const changing = changingChart(whole, options, lexicon);
  if (changing) return changing;
  const laid = layoutRows(seen, book);
  return gridOf(laid.rows, laid.width, options);
}
