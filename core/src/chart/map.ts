import { stitchBook, type OwnStitch, type StitchBook } from '../stitches/book.js';
import { sameValue } from '../values.js';
import {
  keptWithin,
  movedPath,
  movedSetting,
  outsideOnceSet,
  overlap,
  rowSet,
  type Outside,
} from './repeat-lines.js';
import { isBeside, isListStep, mapListStep } from './listed.js';
import { cutAt, spanOfAll } from './rows.js';
import type { Design, Row } from './schema.js';
import {
  chartOf,
  sameStitches,
  shiftOf,
  spliced,
  type CellsStep,
  type ChartsStep,
  type ColumnsStep,
  type RowsStep,
  type SetStep,
  type Step,
} from './steps.js';
import { unitsOf } from './differences.js';

/**
 * Joining the work of two people. Both began from the same document; a step of the one is mapped over a step of
 * the other, so that it does the same after it. What both did alike is done once. Whichever comes first, the
 * outcome is the same document: where a choice must be made, the steps themselves decide it, not their order.
 */

/** Two edits that cannot both be had. */
export class Clash extends Error {}

/** The stitches that steps may name, for each chart: those of the document and those the steps bring. */
export type Books = (chart: string) => StitchBook;

export function booksOf(design: Design, ...lists: (readonly Step[])[]): Books {
  const own = new Map<string, Map<string, OwnStitch>>();
  const add = (chart: string, stitches: readonly OwnStitch[]) => {
    const known = own.get(chart) ?? new Map<string, OwnStitch>();
    for (const o of stitches) if (!known.has(o.id)) known.set(o.id, o);
    own.set(chart, known);
  };
  for (const c of design.charts) add(c.id, c.own);
  for (const step of lists.flat()) {
    if (step.kind === 'charts') for (const c of step.charts) add(c.id, c.own);
    if (step.kind === 'set' && step.path[2] === 'own')
      for (const v of [step.was, step.now]) if (v) add(step.path[1]!, [v as OwnStitch].flat());
  }
  const books = new Map([...own].map(([id, known]) => [id, stitchBook([...known.values()])]));
  return (chart) => books.get(chart) ?? stitchBook();
}

const textOf = (value: unknown): string => JSON.stringify(value);

/**
 * Whether of two things put in at one place mine comes after the other: what lies outside the repeat before the
 * near line comes first, then what the last pass works, what lies beyond the far line last, and otherwise the lesser
 * text, whoever did it first.
 */
function comesAfter(mine: Put, other: Put): boolean {
  if (isParted(mine) || isParted(other)) clash();
  const place = ({ outside: [near, far, ended] }: Put) => (near ? 0 : far ? 3 : ended ? 1 : 2);
  return place(mine) !== place(other) ? place(mine) > place(other) : textOf(mine.what) >= textOf(other.what);
}

interface Put {
  what: readonly unknown[];
  count: number;
  outside: Outside;
}

/** A line of the repeat runs through what is put in. */
const isParted = ({ count, outside }: Put): boolean =>
  outside.some((n) => n !== undefined && n > 0 && n < count);

function clash(): never {
  throw new Clash('Both edits change the same place.');
}

// Places, pieces of a run of rows or columns, and how they are mapped over another such run.

interface Run {
  done: 'in' | 'out';
  at: number;
  count: number;
}

/** A run mapped over another: where it now begins, and, for one taken out, which parts of it are left. */
function mapRun(mine: Run, other: Run, after: () => boolean): { at: number; from: number; to: number }[] {
  const end = mine.at + mine.count;
  const otherEnd = other.at + other.count;
  const all = { from: 0, to: mine.count };
  if (mine.done === 'in') {
    if (other.done === 'in') {
      const shifts = other.at < mine.at || (other.at === mine.at && after());
      return [{ ...all, at: mine.at + (shifts ? other.count : 0) }];
    }
    return [{ ...all, at: mine.at - overlap(other.at, other.count, 0, mine.at) }];
  }
  if (other.done === 'in') {
    if (other.at <= mine.at) return [{ ...all, at: mine.at + other.count }];
    if (other.at >= end) return [{ ...all, at: mine.at }];
    // What was put in amid it stays: the two sides of it are taken out, one after the other.
    const cut = other.at - mine.at;
    return [
      { at: mine.at, from: 0, to: cut },
      { at: mine.at + other.count, from: cut, to: mine.count },
    ];
  }
  const at = mine.at - overlap(other.at, other.count, 0, mine.at);
  const parts = [
    { from: 0, to: Math.max(0, Math.min(mine.count, other.at - mine.at)) },
    { from: Math.min(mine.count, Math.max(0, otherEnd - mine.at)), to: mine.count },
  ].filter((p) => p.to > p.from);
  return parts.map((p) => ({ ...p, at }));
}

/** The part of an `outside` count that belongs to a part of a run. */
function part([near, far, ended]: Outside, from: number, to: number, count: number): Outside {
  const within = (most: number) => overlap(from, to - from, 0, most);
  const lines = [within(near), overlap(from, to - from, count - far, count)] as const;
  return ended === undefined ? lines : [...lines, within(ended)];
}

/** On which side of the lines something put in lies when what parted it from them is taken out. */
function besideLines(mine: Run & Put, other: Run & Put): Outside {
  const [near, far, ended] = mine.outside;
  if (mine.done === 'out' || other.done === 'in') return mine.outside;
  if (mine.at < other.at || mine.at > other.at + other.count) return mine.outside;
  const before = (line: number, kept: number) => (mine.at < line ? mine.count : mine.at > line ? 0 : kept);
  const second = other.at + other.count - other.outside[1];
  const lines = [
    before(other.at + other.outside[0], near),
    mine.at > second ? mine.count : mine.at < second ? 0 : far,
  ] as const;
  const third = other.outside[2];
  if (third === undefined) return ended === undefined ? lines : [...lines, ended];
  return [...lines, before(other.at + third, ended ?? 0)];
}

const grown = (step: { done: 'in' | 'out' }, count: number) => (step.done === 'in' ? count : -count);

const rowsRun = ({ done, at, rows, outside }: RowsStep) => ({
  done,
  at,
  count: rows.length,
  what: rows,
  outside,
});
const columnsRun = ({ done, at, count, cells, outside }: ColumnsStep) => ({
  done,
  at,
  count,
  what: cells,
  outside,
});

function rowsOverRows(mine: RowsStep, other: RowsStep): Step[] {
  const [run, otherRun] = [rowsRun(mine), rowsRun(other)];
  const outside = besideLines(run, otherRun);
  let high = mine.high + grown(other, other.rows.length);
  return mapRun(run, otherRun, () => comesAfter(run, otherRun)).map(({ at, from, to }) => {
    const { jogs: _jogs, bands: _bands, ...plain } = mine;
    const step: RowsStep = {
      ...plain,
      ...keptWithin(mine, from, to),
      at,
      high,
      rows: mine.rows.slice(from, to),
      outside: part(outside, from, to, mine.rows.length),
    };
    high += grown(mine, to - from);
    return step;
  });
}

/** A row cut at a column. @throws Clash when a stitch lies across */
function cutRow(row: Row, column: number, book: StitchBook): [Row, Row] {
  const i = cutAt(row, Math.min(column, spanOfAll(row, book)), book);
  return i < 0 ? clash() : [row.slice(0, i), row.slice(i)];
}

function columnsOverColumns(mine: ColumnsStep, other: ColumnsStep, book: StitchBook): Step[] {
  // At the end of a short row places say nothing of the order.
  if (mine.short || other.short) clash();
  const [run, otherRun] = [columnsRun(mine), columnsRun(other)];
  const outside = besideLines(run, otherRun);
  let wide = mine.wide + grown(other, other.count);
  return mapRun(run, otherRun, () => comesAfter(run, otherRun)).map(({ at, from, to }) => {
    const cells = mine.cells.map((c) => cutRow(cutRow(c, from, book)[1], to - from, book)[0]);
    const step = { ...mine, at, count: to - from, wide, cells, outside: part(outside, from, to, mine.count) };
    wide += grown(mine, to - from);
    return step;
  });
}

/** What a row that comes or goes has in the columns of a step; and the row without, or with, them. */
function throughColumns(row: Row, step: ColumnsStep, own: Row, book: StitchBook): { row: Row; cells: Row } {
  const span = spanOfAll(row, book);
  if (step.done === 'in') {
    const [right, left] = cutRow(row, Math.min(step.at, span), book);
    return { row: [...right, ...own, ...left], cells: own };
  }
  const [right, rest] = cutRow(row, step.at, book);
  const [cells, left] = cutRow(rest, step.count, book);
  return { row: [...right, ...left], cells };
}

/** The rows of a step as they stand after columns were put in or taken out, and what those columns held in them. */
function rowsThroughColumns(
  rows: RowsStep,
  columns: ColumnsStep,
  book: StitchBook,
): { row: Row; cells: Row }[] {
  if (rows.done === 'in') {
    // A new row gets what the row above it gets.
    const own = columns.cells[Math.min(rows.at, columns.cells.length - 1)]!;
    return rows.rows.map((row) => throughColumns(row, columns, own, book));
  }
  return rows.rows.map((row, i) => {
    const own = columns.cells[rows.at + i]!;
    if (columns.done === 'in') return throughColumns(row, columns, own, book);
    const place = Math.min(columns.at, spanOfAll(row, book) - spanOfAll(own, book));
    return { row: spliced(row, place, own, [], book) ?? clash(), cells: own };
  });
}

function rowsOverColumns(mine: RowsStep, other: ColumnsStep, book: StitchBook): Step[] {
  return [{ ...mine, rows: rowsThroughColumns(mine, other, book).map((t) => t.row) }];
}

function columnsOverRows(mine: ColumnsStep, other: RowsStep, book: StitchBook): Step[] {
  const cells = [...mine.cells];
  if (other.done === 'out') {
    cells.splice(other.at, other.rows.length);
    return [{ ...mine, cells }];
  }
  const through = rowsThroughColumns(other, mine, book);
  cells.splice(other.at, 0, ...through.map((t) => t.cells));
  const short =
    mine.short ||
    other.rows.some((row) => spanOfAll(row, book) < mine.at + (mine.done === 'out' ? mine.count : 0));
  return [{ ...mine, cells, short }];
}

function cellsOverRows(mine: CellsStep, other: RowsStep): Step[] {
  const end = other.at + other.rows.length;
  if (other.done === 'in')
    return [{ ...mine, row: mine.row + (mine.row >= other.at ? other.rows.length : 0) }];
  if (mine.row >= other.at && mine.row < end) clash();
  return [{ ...mine, row: mine.row - (mine.row >= end ? other.rows.length : 0) }];
}

/** How a cells step lies to columns. @throws Clash when both cannot be had */
function besideColumns(
  cells: CellsStep,
  columns: ColumnsStep,
  book: StitchBook,
): 'right' | 'left' | 'across' {
  const span = spanOfAll(cells.was, book);
  const end = cells.column + span;
  const far = columns.at + (columns.done === 'out' ? columns.count : 0);
  if (cells.column >= far) return 'left';
  // Where a row changes its length, columns left of it stand elsewhere.
  if (span !== spanOfAll(cells.now, book)) clash();
  if (end <= columns.at) return 'right';
  return columns.done === 'in' ? 'across' : clash();
}

function cellsOverColumns(mine: CellsStep, other: ColumnsStep, book: StitchBook): Step[] {
  const lies = besideColumns(mine, other, book);
  if (lies === 'right') return [mine];
  const shift = grown(other, other.count);
  if (lies === 'left') return [{ ...mine, column: mine.column + shift }];
  const { right, left } = splitCells(mine, other.at, book);
  return [right, { ...left, column: left.column + shift }];
}

function columnsOverCells(mine: ColumnsStep, other: CellsStep, book: StitchBook): Step[] {
  if (besideColumns(other, mine, book) === 'across') splitCells(other, mine.at, book);
  return [mine];
}

/** A step of equal span cut at a column. @throws Clash when a stitch lies across */
function splitCells(
  step: CellsStep,
  column: number,
  book: StitchBook,
): { right: CellsStep; left: CellsStep } {
  const at = column - step.column;
  const [wasRight, wasLeft] = cutRow(step.was, at, book);
  const [nowRight, nowLeft] = cutRow(step.now, at, book);
  return {
    right: { ...step, was: wasRight, now: nowRight },
    left: { ...step, column, was: wasLeft, now: nowLeft },
  };
}

function cellsOverCells(mine: CellsStep, other: CellsStep, book: StitchBook): Step[] {
  if (mine.row !== other.row) return [mine];
  if (mine.column === other.column && sameStitches(mine.was, other.was) && sameStitches(mine.now, other.now))
    return [];
  const [span, otherSpan] = [spanOfAll(mine.was, book), spanOfAll(other.was, book)];
  if (mine.column === other.column && !span && !otherSpan) clash();
  const delta = spanOfAll(other.now, book) - otherSpan;
  if (other.column + otherSpan <= mine.column) return [{ ...mine, column: mine.column + delta }];
  if (mine.column + span <= other.column) return [mine];
  if (delta || span !== spanOfAll(mine.now, book)) clash();
  // Both wrote over each other: what both wrote alike stands, the rest of mine is done beside it.
  const theirs = unitsOf(other.was, other.now, book).map((u) => ({ ...u, at: u.at + other.column, end: 0 }));
  for (const u of theirs) u.end = u.at + spanOfAll(u.was, book);
  const left: CellsStep[] = [];
  for (const unit of unitsOf(mine.was, mine.now, book)) {
    const column = mine.column + unit.at;
    const end = column + spanOfAll(unit.was, book);
    const met = theirs.filter((u) => u.at < end && u.end > column);
    if (!met.length) left.push({ ...mine, column, was: unit.was, now: unit.now });
    else if (met.length > 1 || met[0]!.at !== column || met[0]!.end !== end) clash();
    else if (!sameStitches(met[0]!.now, unit.now)) {
      if (!sameStitches(met[0]!.was, met[0]!.now)) {
        if (!sameStitches(unit.was, unit.now)) clash();
      } else left.push({ ...mine, column, was: unit.was, now: unit.now });
    }
  }
  return left;
}

const begins = (path: readonly string[], of: readonly string[]) => path.every((p, i) => of[i] === p);

function setOverSet(mine: SetStep, other: SetStep): Step[] {
  if (!begins(mine.path, other.path) && !begins(other.path, mine.path)) return [mine];
  if (mine.path.length === other.path.length && sameValue(mine.now, other.now)) return [];
  return clash();
}

function setOverShape(mine: SetStep, other: RowsStep | ColumnsStep): Step[] {
  const shift = shiftOf(other);
  const path = movedPath(mine.path, shift) ?? clash();
  const moved = (v: unknown) => movedSetting(mine.path, v, shift);
  const step: SetStep = { ...mine, path };
  if (mine.was !== undefined) step.was = moved(mine.was);
  if (mine.now !== undefined) step.now = moved(mine.now);
  return [step];
}

const NONE: Outside = [0, 0];

/** Rows or columns over a line set elsewhere. */
function shapeOverSet<S extends RowsStep | ColumnsStep>(mine: S, other: SetStep): S {
  const row = rowSet(other.path);
  if (mine.kind === 'rows' && mine.done === 'out' && row !== null)
    if (row >= mine.at && row < mine.at + mine.rows.length) clash();
  return { ...mine, outside: outsideOnceSet(other.path, other.now, shiftOf(mine)) };
}

function chartsOverCharts(mine: ChartsStep, other: ChartsStep): Step[] {
  const run = ({ done, at, charts }: ChartsStep) => ({
    done,
    at,
    count: charts.length,
    what: charts,
    outside: NONE,
  });
  return mapRun(run(mine), run(other), () => comesAfter(run(mine), run(other))).map(({ at, from, to }) => ({
    ...mine,
    at,
    charts: mine.charts.slice(from, to),
  }));
}

/**
 * A step made for a document, as it is to be done after another step made for the same document. None where
 * the other did the same already.
 *
 * @throws Clash when both cannot be had
 */
export function mapStep(mine: Step, other: Step, books: Books): Step[] {
  if (other.kind === 'charts' || mine.kind === 'charts') {
    if (other.kind === 'charts' && mine.kind === 'charts') return chartsOverCharts(mine, other);
    const [whole, within] = other.kind === 'charts' ? [other, mine] : [mine as ChartsStep, other];
    if (whole.done === 'out' && whole.charts.some((c) => c.id === chartOf(within))) clash();
    return [mine];
  }
  const chart = chartOf(mine);
  if (chart !== chartOf(other)) return [mine];
  if (isListStep(mine)) {
    if (isListStep(other)) return mapListStep(mine, other) ?? clash();
    return other.kind !== 'set' || isBeside(other.path, mine) ? [mine] : clash();
  }
  if (isListStep(other)) return mine.kind !== 'set' || isBeside(mine.path, other) ? [mine] : clash();
  const book = books(chart ?? '');
  switch (mine.kind) {
    case 'set':
      if (other.kind === 'set') return setOverSet(mine, other);
      return other.kind === 'cells' ? [mine] : setOverShape(mine, other);
    case 'cells':
      if (other.kind === 'cells') return cellsOverCells(mine, other, book);
      if (other.kind === 'rows') return cellsOverRows(mine, other);
      return other.kind === 'columns' ? cellsOverColumns(mine, other, book) : [mine];
    case 'rows':
      if (other.kind === 'rows') return rowsOverRows(mine, other);
      if (other.kind === 'columns') return rowsOverColumns(mine, other, book);
      if (other.kind === 'set') return [shapeOverSet(mine, other)];
      if (mine.done === 'out') cellsOverRows(other, mine);
      return [mine];
    case 'columns':
      if (other.kind === 'columns') return columnsOverColumns(mine, other, book);
      if (other.kind === 'rows') return columnsOverRows(mine, other, book);
      return other.kind === 'set' ? [shapeOverSet(mine, other)] : columnsOverCells(mine, other, book);
  }
}

/**
 * Two runs of steps from the same document, each as it is to be done after the other.
 *
 * @throws Clash when both cannot be had
 */
export function mapSteps(
  mine: readonly Step[],
  other: readonly Step[],
  books: Books,
): { mine: Step[]; other: Step[] } {
  let rest: Step[] = [...other];
  const mapped: Step[] = [];
  for (const step of mine) {
    const { one, many } = mapOne([step], rest, books);
    mapped.push(...one);
    rest = many;
  }
  return { mine: mapped, other: rest };
}

/** One step, which may fall into several or vanish, over many; and the many over it. */
function mapOne(one: Step[], many: readonly Step[], books: Books): { one: Step[]; many: Step[] } {
  let mine = one;
  const out: Step[] = [];
  for (const other of many) {
    if (!mine.length) {
      out.push(other);
      continue;
    }
    if (mine.length === 1) {
      const [step] = mine as [Step];
      const over = mapStep(other, step, books);
      mine = mapStep(step, other, books);
      out.push(...over);
      continue;
    }
    // It has fallen into several: they are taken one after the other.
    const both = mapSteps(mine, [other], books);
    mine = both.mine;
    out.push(...both.other);
  }
  return { one: mine, many: out };
}
