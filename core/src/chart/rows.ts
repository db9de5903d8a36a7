import { isCrossing, makesOf, spanOf, takesOf, type Stitch, type StitchBook } from '../stitches/book.js';
import type { Crossing } from '../stitches/crossing.js';
import type { Side } from '../stitches/face.js';
import { bookOf, type Chart, type Row } from './schema.js';

/** What a row takes and makes (loops), how wide it is and where each stitch starts (columns from 0, right). */
export interface RowFacts {
  takes: number;
  makes: number;
  span: number;
  starts: readonly number[];
}

const facts = new WeakMap<Row, { book: StitchBook; facts: RowFacts }>();

/** Facts of a row, remembered by the row's identity: rows are replaced, never changed. */
export function rowFacts(row: Row, book: StitchBook): RowFacts {
  const known = facts.get(row);
  if (known?.book === book) return known.facts;
  let takes = 0;
  let makes = 0;
  let span = 0;
  const starts = new Array<number>(row.length);
  for (let i = 0; i < row.length; i++) {
    const stitch = book.facts(row[i]!);
    starts[i] = span;
    takes += stitch.takes;
    makes += stitch.makes;
    span += stitch.span;
  }
  const found: RowFacts = { takes, makes, span, starts };
  facts.set(row, { book, facts: found });
  return found;
}

const uses = new WeakMap<Row, ReadonlyMap<Stitch, number>>();

/** How often each stitch stands in a row, remembered by the row's identity. */
export function rowUse(row: Row): ReadonlyMap<Stitch, number> {
  let use = uses.get(row);
  if (!use) {
    const counts = new Map<Stitch, number>();
    for (const stitch of row) counts.set(stitch, (counts.get(stitch) ?? 0) + 1);
    uses.set(row, (use = counts));
  }
  return use;
}

/** A crossing of a row: its first column (from 0, right) and the place of its first loop after the row. */
export interface PlacedCrossing {
  crossing: Crossing;
  column: number;
  loop: number;
}

const crossed = new WeakMap<Row, { book: StitchBook; crossings: readonly PlacedCrossing[] }>();

/** The crossings of a row from the right, remembered by the row's identity. */
export function rowCrossings(row: Row, book: StitchBook): readonly PlacedCrossing[] {
  const known = crossed.get(row);
  if (known?.book === book) return known.crossings;
  const crossings: PlacedCrossing[] = [];
  if ([...rowUse(row).keys()].some(isCrossing)) {
    const { starts } = rowFacts(row, book);
    let loop = 0;
    row.forEach((stitch, i) => {
      if (isCrossing(stitch)) crossings.push({ crossing: stitch, column: starts[i]!, loop });
      loop += makesOf(stitch, book);
    });
  }
  crossed.set(row, { book, crossings });
  return crossings;
}

export function takesOfAll(stitches: readonly Stitch[], book: StitchBook): number {
  return stitches.reduce((sum, s) => sum + takesOf(s, book), 0);
}

export function spanOfAll(stitches: readonly Stitch[], book: StitchBook): number {
  return stitches.reduce((sum, s) => sum + spanOf(s, book), 0);
}

/** The index of the stitch that covers a column (from 0, right), or -1 beyond the row. */
export function indexAt(row: Row, column: number, book: StitchBook): number {
  const { starts, span } = rowFacts(row, book);
  if (column < 0 || column >= span) return -1;
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if (starts[mid]! <= column) low = mid;
    else high = mid - 1;
  }
  return low;
}

/** The side the row at `index` (from 0, bottom) is worked on. In the round every row is a right-side one. */
export function sideOf(chart: Pick<Chart, 'construction' | 'firstRow'>, index: number): Side {
  if (chart.construction === 'round') return 'RS';
  const first = chart.firstRow === 'RS' ? 0 : 1;
  return (index + first) % 2 === 0 ? 'RS' : 'WS';
}

/** A row cut at the repeat lines; `null` where a stitch lies across a line, which cannot be repeated. */
export interface Sections {
  before: readonly Stitch[];
  repeat: readonly Stitch[];
  after: readonly Stitch[];
}

/** The columns the repeat lies in: from `start` up to, not including, `end`; all of them without a repeat. */
export function repeatColumns(chart: Pick<Chart, 'width' | 'across'>): { start: number; end: number } {
  const { across, width } = chart;
  return across ? { start: across.before, end: width - across.after } : { start: 0, end: width };
}

const cuts = new WeakMap<Row, { key: string; book: StitchBook; sections: Sections | null }>();

/** Cuts a row at the repeat lines. Without a repeat everything is `before`. */
export function sectionsOf(row: Row, chart: Chart): Sections | null {
  const book = bookOf(chart);
  if (!chart.across) return { before: row, repeat: [], after: [] };
  const { start, end } = repeatColumns(chart);
  const key = `${start}:${end}`;
  const known = cuts.get(row);
  if (known?.key === key && known.book === book) return known.sections;
  const { starts, span } = rowFacts(row, book);
  const cutAt = (column: number): number => {
    if (column >= span) return row.length;
    const i = indexAt(row, column, book);
    return starts[i] === column ? i : -1;
  };
  const a = cutAt(start);
  const b = cutAt(end);
  const sections =
    a < 0 || b < 0 ? null : { before: row.slice(0, a), repeat: row.slice(a, b), after: row.slice(b) };
  cuts.set(row, { key, book, sections });
  return sections;
}

/** The row's stitches from the right with the repeat worked `times` times, or null when it cannot be cut. */
export function expandRow(row: Row, chart: Chart, times: number): readonly Stitch[] | null {
  const cut = sectionsOf(row, chart);
  if (!cut) return null;
  if (!chart.across || times === 1) return row;
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
export function withRepeats(row: Row, chart: Chart, times: number): Met[] {
  const book = bookOf(chart);
  const { starts } = rowFacts(row, book);
  const met = row.map((stitch, i) => ({
    stitch,
    from: starts[i]! + 1,
    to: starts[i]! + spanOf(stitch, book),
  }));
  const cut = chart.across && sectionsOf(row, chart);
  if (!cut) return met;
  const [a, b] = [cut.before.length, cut.before.length + cut.repeat.length];
  return [
    ...met.slice(0, a),
    ...Array.from({ length: times }, () => met.slice(a, b)).flat(),
    ...met.slice(b),
  ];
}

/** How many repeats the designer works: 1 without a repeat. */
export function timesOf(chart: Pick<Chart, 'across'>): number {
  return chart.across?.times ?? 1;
}

/** Loops a row takes and makes with the repeat worked `times` times; from the plain sums when it cannot be cut. */
export function countsOf(row: Row, chart: Chart, times = timesOf(chart)): { takes: number; makes: number } {
  const book = bookOf(chart);
  const { takes, makes } = rowFacts(row, book);
  const cut = times === 1 ? null : sectionsOf(row, chart);
  if (!cut) return { takes, makes };
  const repeat = cut.repeat.reduce(
    (sum, s) => ({ takes: sum.takes + takesOf(s, book), makes: sum.makes + makesOf(s, book) }),
    { takes: 0, makes: 0 },
  );
  return { takes: takes + (times - 1) * repeat.takes, makes: makes + (times - 1) * repeat.makes };
}

/** The cast-on: what row 1 takes. "A multiple of `of` plus `plus`"; `of` is 0 without a repeat. */
export function castOnOf(chart: Chart, times = timesOf(chart)): number {
  return countsOf(chart.rows[0]!, chart, times).takes;
}

export function multipleOf(chart: Chart, row = chart.rows[0]!): { of: number; plus: number } {
  const book = bookOf(chart);
  const cut = chart.across ? sectionsOf(row, chart) : null;
  if (!cut) return { of: 0, plus: rowFacts(row, book).takes };
  return {
    of: takesOfAll(cut.repeat, book),
    plus: takesOfAll(cut.before, book) + takesOfAll(cut.after, book),
  };
}
