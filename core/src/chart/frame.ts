import { wayOf } from '../construction/index.js';
import { makesOf, spanOf, takesOf, type Stitch } from '../stitches/book.js';
import { remembered, sameInputs } from '../remember.js';
import { sameValue } from '../values.js';
import type { Across, Up } from './repeat-lines.js';
import { cutAt, loopColumns, rowFacts } from './rows.js';
import { bookOf, type Chart, type Row } from './schema.js';

/**
 * What the repeats mean: where their lines run, how a row is cut and worked with them, in which order rows are
 * worked, and the counts that follow. Nothing else reads the fields of the repeats; `lines` holds what these are
 * and how they move. Rows are asked for by their place, from 0 at the bottom.
 */

type FramedAcross = Pick<Chart, 'width' | 'across' | 'jogs' | 'construction'>;
type FramedUp = Pick<Chart, 'rows' | 'up'>;

/** Whether rows are repeated up. */
export const repeatsUp = ({ up }: Pick<Chart, 'up'>): boolean => up !== null;

/** Whether anything is repeated across. */
export const repeatsAcross = ({ across }: Pick<Chart, 'across'>): boolean => across !== null;

/** How many stitches later than the others a row begins its repeat, or in the round itself; earlier where negative. */
export const jogOf = (chart: Pick<Chart, 'jogs' | 'construction'>, r: number): number =>
  wayOf(chart).jogAt(r);

/** How many columns rounds that begin elsewhere reach beyond the chart's own, at either side. */
export function beyondOf(chart: Pick<Chart, 'jogs' | 'construction'>): { right: number; left: number } {
  const starts = Object.keys(chart.jogs).map((r) => startOf(chart, Number(r)));
  return { right: Math.max(0, ...starts.map((s) => -s)), left: Math.max(0, ...starts) };
}

/** How many stitches on the marker of the round is moved before a row, or (negative) back. */
export const markerMoved = (chart: Pick<Chart, 'jogs' | 'construction'>, r: number): number =>
  startOf(chart, r) - (r > 0 ? startOf(chart, r - 1) : 0);

/** A chart one row of which begins its repeat elsewhere, its cells as they are. */
export function withJog<C extends Pick<Chart, 'jogs'>>(chart: C, r: number, jog: number): C {
  const { [r]: _, ...others } = chart.jogs;
  return { ...chart, jogs: jog ? { ...others, [r]: jog } : others };
}

/** Whether any row begins its repeat elsewhere than the others. */
export const hasJogs = ({ jogs }: Pick<Chart, 'jogs'>): boolean => Object.keys(jogs).length > 0;

/** The stitches that the row which begins its repeat furthest from the others' begins it later or earlier. */
export const furthestJog = ({ jogs }: Pick<Chart, 'jogs'>): number =>
  Math.max(0, ...Object.values(jogs).map(Math.abs));

/**
 * How many stitches later than the first round a round begins: its marker is moved. Its stitches are counted from
 * there, and drawn so many columns further to the left. Rows that have edges begin at these.
 */
export const startOf = (chart: Pick<Chart, 'jogs' | 'construction'>, r: number): number =>
  wayOf(chart).startAt(r);

/** How far a row's lines step away from the others', in the row's own columns. */
function stepOf(chart: FramedAcross, r: number): number {
  const jog = jogOf(chart, r);
  if (!jog || !chart.across) return 0;
  if (wayOf(chart).shifts === 'repeat') return jog;
  // A round that is all repeat takes its lines along; otherwise they stay, and the round begins nearer to them.
  return chart.across.before + chart.across.after > 0 ? -jog : 0;
}

/**
 * The columns the repeat lies in: from `start` up to, not including, `end`; all of them without a repeat. Those of a
 * row are counted in it, from where it begins.
 */
export function repeatColumns(chart: FramedAcross, r?: number): { start: number; end: number } {
  const { across, width } = chart;
  if (!across) return { start: 0, end: width };
  const step = r === undefined ? 0 : stepOf(chart, r);
  return { start: across.before + step, end: width - across.after + step };
}

/** The columns that the lines of the repeat stand before, of a row or where rows do not step; none without a repeat. */
export function linesAcross(chart: FramedAcross, r?: number): number[] {
  const { start, end } = repeatColumns(chart, r);
  return repeatsAcross(chart) ? [start, end] : [];
}

/** The rows that the lines of the repeat up stand below; none without a repeat. */
export function linesUp(chart: FramedUp): number[] {
  const repeat = repeatRows(chart);
  return repeat ? [repeat.first, repeat.last + 1] : [];
}

/** How many repeats the designer works: 1 without a repeat. */
export const timesOf = ({ across }: Pick<Chart, 'across'>): number => across?.times ?? 1;

/** The fewest repeats the pattern may be worked with. */
export const leastOf = ({ across }: Pick<Chart, 'across'>): number => across?.least ?? 1;

/** How often the rows of the repeat up are worked: 1 without one. */
export const passesOf = ({ up }: Pick<Chart, 'up'>): number => up?.times ?? 1;

/** The numbers of the repeat across as they are set; those of a row worked once where there is none. */
export const acrossOf = ({ across }: Pick<Chart, 'across'>): Across =>
  across ?? { before: 0, after: 0, times: 1, least: 1 };

/** The numbers of the repeat up as they are set; those of rows worked once where there is none. */
export const upOf = ({ up }: Pick<Chart, 'up'>): Up => up ?? { setup: 0, closing: 0, times: 1 };

/** Whether the rows of the repeat up are worked more than once, all of them or some. */
export const isWorkedAgain = ({ up }: Pick<Chart, 'up'>): boolean =>
  up !== null && (up.times > 1 || up.end !== undefined);

/** A chart whose repeat up is worked at least twice, as one that goes on to a length may be. */
export const workedTwice = <C extends Pick<Chart, 'up'>>(chart: C): C =>
  chart.up && chart.up.times < 2 ? { ...chart, up: { ...chart.up, times: 2 } } : chart;

/** The rows of a further pass that is ended part-way; 0 where none is. */
export const endOf = ({ up }: Pick<Chart, 'up'>): number => (up?.end === undefined ? 0 : up.end - up.setup);

/** All of the repeat across that what is worked out of a row may depend on: inputs to remember it by. */
export const frameOf = ({ width, across, jogs }: FramedAcross): readonly unknown[] => [width, across, jogs];

/** All that the drawing of the repeats, both ways, depends on besides the stitches. */
export const wholeFrameOf = (chart: FramedAcross & FramedUp): readonly unknown[] => [
  ...frameOf(chart),
  chart.up,
  wayOf(chart),
  chart.rows.length,
];

/** Whether two charts repeat alike, and are worked alike. */
export const isSameFrame = (a: FramedAcross & FramedUp, b: FramedAcross & FramedUp): boolean =>
  sameInputs(wholeFrameOf(a), wholeFrameOf(b));

/** Whether rows are cut and shifted alike in two charts, however their frames came about. */
export const cutsAlike = (a: FramedAcross, b: FramedAcross): boolean =>
  a.width === b.width && sameValue(a.across, b.across) && sameValue(a.jogs, b.jogs);

/** A row cut at the repeat lines. */
export interface Sections {
  before: readonly Stitch[];
  repeat: readonly Stitch[];
  after: readonly Stitch[];
}

const cutBetween = remembered(
  (row: Row, start: number, end: number, book: ReturnType<typeof bookOf>): Sections | null => {
    const { span } = rowFacts(row, book);
    const [a, b] = [start, end].map((column) => cutAt(row, Math.min(column, span), book)) as [number, number];
    return a < 0 || b < 0 ? null : { before: row.slice(0, a), repeat: row.slice(a, b), after: row.slice(b) };
  },
);

/** A row at its repeat lines; null where a stitch lies across one. Without a repeat everything is `before`. */
export function sectionsOf(chart: Chart, r: number): Sections | null {
  const row = chart.rows[r]!;
  if (!repeatsAcross(chart)) return { before: row, repeat: [], after: [] };
  const { start, end } = repeatColumns(chart, r);
  return cutBetween(row, start, end, bookOf(chart));
}

/** The row's stitches from the right with the repeat worked `times` times, or null when it cannot be cut. */
export function expandRow(chart: Chart, r: number, times: number): readonly Stitch[] | null {
  const cut = sectionsOf(chart, r);
  if (!cut) return null;
  if (!repeatsAcross(chart) || times === 1) return chart.rows[r]!;
  const out: Stitch[] = [...cut.before];
  for (let i = 0; i < times; i++) for (const s of cut.repeat) out.push(s);
  for (const s of cut.after) out.push(s);
  return out;
}

/** A stitch as it is met in a row, and the columns it is drawn in (from 1). */
export interface Met {
  stitch: Stitch;
  from: number;
  to: number;
}

/** The stitches of a row from the right, its repeat worked `times` times; as drawn where it cannot be cut. */
export function withRepeats(chart: Chart, r: number, times: number): Met[] {
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  const { starts } = rowFacts(row, book);
  const met = row.map((stitch, i) => ({
    stitch,
    from: starts[i]! + 1,
    to: starts[i]! + spanOf(stitch, book),
  }));
  const cut = repeatsAcross(chart) && sectionsOf(chart, r);
  if (!cut) return met;
  const [a, b] = [cut.before.length, cut.before.length + cut.repeat.length];
  return [
    ...met.slice(0, a),
    ...Array.from({ length: times }, () => met.slice(a, b)).flat(),
    ...met.slice(b),
  ];
}

const loops = (stitches: readonly Stitch[], chart: Chart) => {
  const book = bookOf(chart);
  return stitches.reduce(
    (sum, s) => ({ takes: sum.takes + takesOf(s, book), makes: sum.makes + makesOf(s, book) }),
    { takes: 0, makes: 0 },
  );
};

/** Loops a row takes and makes with the repeat worked `times` times; from the plain sums when it cannot be cut. */
export function countsOf(chart: Chart, r: number, times = timesOf(chart)): { takes: number; makes: number } {
  const { takes, makes } = rowFacts(chart.rows[r]!, bookOf(chart));
  const cut = times === 1 ? null : sectionsOf(chart, r);
  if (!cut) return { takes, makes };
  const repeat = loops(cut.repeat, chart);
  return { takes: takes + (times - 1) * repeat.takes, makes: makes + (times - 1) * repeat.makes };
}

/** The cast-on: what row 1 takes. */
export const castOnOf = (chart: Chart, times = timesOf(chart)): number => countsOf(chart, 0, times).takes;

/** "A multiple of `of` plus `plus`" before a row: loops its repeat takes, and those taken outside. `of` is 0 without a repeat. */
export function multipleOf(chart: Chart, r = 0): { of: number; plus: number } {
  const cut = repeatsAcross(chart) ? sectionsOf(chart, r) : null;
  if (!cut) return { of: 0, plus: rowFacts(chart.rows[r]!, bookOf(chart)).takes };
  const of = loops(cut.repeat, chart).takes;
  return { of, plus: loops(cut.before, chart).takes + loops(cut.after, chart).takes };
}

/** A multiple as it is told: "of 6 plus 2, at least 14". */
export interface LowestMultiple {
  /** 0 where nothing repeats. */
  of: number;
  /** Less than `of`, where something repeats. */
  plus: number;
  /** The fewest stitches it may be worked on, where the form alone would allow fewer. */
  least: number | null;
}

/** The multiple of a chart in lowest form, with the least count where the form alone would allow fewer. */
export function lowestMultiple(chart: Chart): LowestMultiple {
  const { of, plus } = multipleOf(chart);
  if (!of) return { of, plus, least: null };
  const rest = plus % of;
  const least = leastOf(chart) * of + plus;
  // The form alone allows one repeat and what is left over.
  return { of, plus: rest, least: least > of + rest ? least : null };
}

/** How many repeats so many stitches are by a multiple in lowest form; null where nothing repeats. */
export const repeatsIn = (
  stitches: number,
  { of, plus }: Pick<LowestMultiple, 'of' | 'plus'>,
): number | null => (of ? (stitches - plus) / of : null);

/** The multiples of a chart from the bottom: row 1's, and each that is another than the one before. */
export function multiplesOf(chart: Chart): { row: number; of: number; plus: number }[] {
  const found = [{ row: 0, ...multipleOf(chart) }];
  if (repeatsAcross(chart))
    chart.rows.forEach((_, r) => {
      if (!sectionsOf(chart, r)) return;
      const [here, last] = [multipleOf(chart, r), found.at(-1)!];
      if (here.of !== last.of || here.plus !== last.plus) found.push({ row: r, ...here });
    });
  return found;
}

/** Loops a row's repeat takes and makes; null where the row cannot be cut. */
export function repeatCounts(chart: Chart, r: number): { takes: number; makes: number } | null {
  const cut = sectionsOf(chart, r);
  return cut && loops(cut.repeat, chart);
}

/** The cells that are worked of a piece: every row with all its repeats, each pass counted. */
export function cellsWorked(chart: Chart, times = timesOf(chart), passes = passesOf(chart)): number {
  const { start, end } = repeatColumns(chart);
  const wide = chart.width + (repeatsAcross(chart) ? end - start : 0) * (times - 1);
  const repeat = repeatRows(chart);
  const rows = repeat ? (repeat.last - repeat.first + 1) * (passes - 1) + endOf(chart) : 0;
  const high = chart.rows.length + rows;
  return wide * high;
}

/** The rows of the repeat up, from the first to the last (from 0); null where nothing repeats. */
export function repeatRows({ rows, up }: FramedUp): { first: number; last: number } | null {
  return up && { first: up.setup, last: rows.length - up.closing - 1 };
}

/** Rows that are worked so many times before those above them; rows count from 1. */
export interface Stretch {
  from: number;
  to: number;
  times: number;
}

/** How the rows of a piece follow each other. */
export function planOf(chart: FramedUp): Stretch[] {
  const height = chart.rows.length;
  const repeat = repeatRows(chart);
  if (!repeat) return [{ from: 1, to: height, times: 1 }];
  const { first, last } = repeat;
  return [
    { from: 1, to: first, times: 1 },
    { from: first + 1, to: last + 1, times: passesOf(chart) },
    { from: first + 1, to: first + endOf(chart), times: 1 },
    { from: last + 2, to: height, times: 1 },
  ].filter(({ from, to }) => from <= to);
}

/** The rows in the order they are worked, passes of the repeat and all. */
export function* workedRows(
  chart: FramedUp,
  passes = passesOf(chart),
): Generator<{ row: number; pass: number }> {
  const repeat = repeatRows(chart);
  for (let row = 0; row < chart.rows.length; row++) {
    if (row !== repeat?.first) yield { row, pass: 1 };
    else {
      for (let pass = 1; pass <= passes; pass++)
        for (let r = repeat.first; r <= repeat.last; r++) yield { row: r, pass };
      for (let i = 0; i < endOf(chart); i++) yield { row: repeat.first + i, pass: passes + 1 };
      row = repeat.last;
    }
  }
}

/**
 * The columns of the loops that wait for a row (not the lowest), in the order the row meets them and by its own
 * columns: where a round begins elsewhere than the one below, its columns are others.
 */
export function columnsBelow(chart: Chart, r: number): readonly number[] {
  const columns = loopColumns(chart.rows[r - 1]!, bookOf(chart));
  const by = startOf(chart, r) - startOf(chart, r - 1);
  if (!by) return columns;
  const n = columns.length;
  return columns.map((_, k) => {
    const place = k + by;
    const around = Math.floor(place / n);
    return columns[place - around * n]! - by + around * chart.width;
  });
}
