import type { Cell } from '../desk/state/bench.js';
import type { CellWindow, Lines } from '@cordelina/core';

/** Room around the chart for its numbers, in CSS pixels. */
export const GUTTER = { side: 34, top: 10, foot: 24 } as const;
export const ZOOM = { least: 8, most: 44 } as const;

/** A chart of so many cells, scrolled in a pane. */
export interface Layout {
  columns: number;
  rows: number;
  /** The lines of the paper that its rows and bands stand on. */
  lines: Lines;
  /** Columns that rows reach beyond the chart's own, and how far a row is drawn to the left of the others. */
  beyond: { right: number; left: number };
  startOf: (row: number) => number;
  cell: number;
  /** How many lines a row's words may take. */
  wordLines: number;
  pane: { width: number; height: number };
  scroll: { left: number; top: number };
}

/** The columns a chart is drawn over, with what rows reach beyond its own. */
export const drawnColumns = ({ columns, beyond }: Pick<Layout, 'columns' | 'beyond'>): number =>
  columns + beyond.left + beyond.right;

/** The size of everything that scrolls. A chart smaller than its pane lies in the middle of it. */
export function contentSize(layout: Layout): { width: number; height: number } {
  const { lines, cell, pane } = layout;
  return {
    width: Math.max(pane.width, drawnColumns(layout) * cell + 2 * GUTTER.side),
    height: Math.max(pane.height, lines.count * cell + GUTTER.top + GUTTER.foot),
  };
}

/** Where the upper left corner of the chart's own columns lies in the pane. */
export function origin(layout: Layout): { x: number; y: number } {
  const { lines, cell, scroll, beyond } = layout;
  const size = contentSize(layout);
  return {
    x: Math.round((size.width - drawnColumns(layout) * cell) / 2 - scroll.left) + beyond.left * cell,
    y: Math.round((size.height - lines.count * cell + GUTTER.top - GUTTER.foot) / 2 - scroll.top),
  };
}

/** The top of a line of the paper in the pane. */
export const lineTop = (layout: Layout, line: number): number =>
  origin(layout).y + (layout.lines.count - 1 - line) * layout.cell;

/** The top of a row in the pane. */
export const rowTop = (layout: Layout, row: number): number => lineTop(layout, layout.lines.of(row));

/** The box of a run of cells in a row, both columns included. */
export function cellsBox(
  layout: Layout,
  row: number,
  from: number,
  to = from,
): { x: number; y: number; width: number; height: number } {
  const { columns, cell, startOf } = layout;
  const x = origin(layout).x + (columns - 1 - to - startOf(row)) * cell;
  return { x, y: rowTop(layout, row), width: (to - from + 1) * cell, height: cell };
}

/** The part of the pane where cells may show: inside the gutters that hold the numbers. */
export function cellsPane({ pane }: Layout): { x: number; y: number; width: number; height: number } {
  return { x: GUTTER.side, y: 0, width: pane.width - 2 * GUTTER.side, height: pane.height - GUTTER.foot };
}

/** The row at a height of the pane, or the band before it. */
export function standsAt({ lines, ...layout }: Layout, y: number): ReturnType<Lines['at']> {
  const line = lines.count - 1 - Math.floor((y - origin({ lines, ...layout }).y) / layout.cell);
  return lines.at(line);
}

/** The cell under a point of the pane, which may lie outside the chart. */
export function cellAt(layout: Layout, x: number, y: number): Cell {
  const at = origin(layout);
  const { row } = standsAt(layout, y);
  return {
    row,
    column: layout.columns - 1 - Math.floor((x - at.x) / layout.cell) - layout.startOf(row),
  };
}

export function onChart(layout: Pick<Layout, 'columns' | 'rows'>, { row, column }: Cell): boolean {
  return row >= 0 && row < layout.rows && column >= 0 && column < layout.columns;
}

/** The cells that can be seen; null when there are none. */
export function visibleWindow(layout: Layout): CellWindow | null {
  const { columns, rows, pane, beyond } = layout;
  const straight = { ...layout, startOf: () => 0 };
  const topLeft = cellAt(straight, 0, 0);
  const bottomRight = cellAt(straight, pane.width, pane.height);
  const window = {
    rows: { from: Math.max(0, bottomRight.row), to: Math.min(rows - 1, topLeft.row) },
    columns: {
      from: Math.max(0 - beyond.right, bottomRight.column),
      to: Math.min(columns - 1 + beyond.left, topLeft.column),
    },
  };
  return window.rows.from > window.rows.to || window.columns.from > window.columns.to ? null : window;
}

/** The scroll that brings a cell into view with some room around it; unchanged when it is in view. */
export function scrollTo(layout: Layout, { row, column }: Cell): { left: number; top: number } {
  const { cell, pane, scroll } = layout;
  const { x, y } = cellsBox(layout, row, column);
  const nudge = (from: number, to: number, low: number, high: number) =>
    from < low ? from - low : to > high ? to - high : 0;
  return {
    left: scroll.left + nudge(x - cell, x + 2 * cell, GUTTER.side, pane.width - GUTTER.side),
    top: scroll.top + nudge(y - cell, y + 2 * cell, GUTTER.top, pane.height - GUTTER.foot),
  };
}

/** Cells are drawn larger than this only where the rows leave room for it. */
const ROOMY = 28;
/** What larger cells may take of the chart's room: the words keep the rest. */
export const ROOMY_SHARE = 0.78;

/** What a pane has beside the cells: numbers, and air. */
const AROUND = 2 * GUTTER.side + 24;

/** The smallest cells that read well, and those that still show how the whole width looks. */
const LEAST_CELL = { repeat: 16, whole: 10 } as const;

/** How high a chart of so many lines is at the smallest cells that read well. */
export const heightOfChart = (lines: number): number =>
  lines * LEAST_CELL.repeat + GUTTER.top + GUTTER.foot + 8;

/** The largest cell that shows the whole width, within what reads well; larger where the chart has few rows. */
export function fittingCell(
  columns: number,
  rows: number,
  pane: { width: number; height: number },
  whole = false,
): number {
  const wide = (share: number) => Math.floor((share * pane.width - 2 * GUTTER.side - 8) / columns);
  const high = Math.floor((pane.height - GUTTER.top - GUTTER.foot - 8) / rows);
  const roomy = Math.min(ZOOM.most, high, wide(ROOMY_SHARE));
  const least = whole ? LEAST_CELL.whole : LEAST_CELL.repeat;
  return Math.max(least, Math.min(ROOMY, wide(1)), roomy);
}

/** The words beside the rows: their size in one line, and in several, in CSS pixels. */
export const WORDS = { font: 12.5, small: 10.5, line: 10.75 } as const;
/** What stands beside the words in a line: the row's number, its count, its state. */
export const BESIDE_WORDS = 134;
/** How many lines of small words stand in a row so high: more than two are no words of a row any more. */
export const linesIn = (cell: number): number => (cell > 2 * WORDS.line ? 2 : 1);
/** Where less room is left than this, broken lines would be ladders: they are cut. */
const LEAST_BROKEN = 260;

/** How many lines of so many letters a text takes that is broken at its spaces. */
function linesOfText(text: string, letters: number): number {
  let [lines, filled] = [1, 0];
  for (const word of text.split(' ')) {
    const wanted = filled ? filled + 1 + word.length : word.length;
    if (wanted <= letters || !filled) filled = wanted;
    else [lines, filled] = [lines + 1, word.length];
  }
  return lines;
}

/** How wide words must be to be read whole, each text in so many lines; `letter` is the width of one in one line. */
export function widthOfWords(texts: readonly string[], lines: number, letter: number): number {
  const longest = Math.max(1, ...texts.map(({ length }) => length));
  // The spaces it is broken at are in no line.
  let letters = Math.ceil((longest - lines + 1) / lines);
  while (letters < longest && texts.some((text) => linesOfText(text, letters) > lines)) letters++;
  return Math.ceil(letters * letter * (lines > 1 ? WORDS.small / WORDS.font : 1)) + BESIDE_WORDS;
}

/** Whether words stand whole in one line or must be broken into as many as a row has room for. */
export const wordLines = (texts: readonly string[], cell: number, letter: number, room: number): number =>
  widthOfWords(texts, 1, letter) <= room || room < LEAST_BROKEN ? 1 : linesIn(cell);

/** An edge may open beside the chart without cutting it: the findings, and words that are cut for so long. */
const FOR_EDGES = 376;

/** Cells of this size are large enough to prefer words in one line to larger ones. */
const GOOD = 20;

/**
 * The largest cell at which chart and words stand beside each other, both whole: the words in one line, else in two where the cells
 * are high enough for them, else in one with smaller cells. Null where there is none.
 */
export function cellForWords(
  { columns, rows, texts }: { columns: number; rows: number; texts: readonly string[] },
  letter: number,
  sheet: { width: number; height: number },
): number | null {
  const high = Math.floor((sheet.height - GUTTER.top - GUTTER.foot - 8) / rows);
  const most = Math.max(ROOMY, Math.min(ZOOM.most, high));
  const largest = (least: number, lines: number): number | null => {
    const words = widthOfWords(texts, lines, letter);
    const room = Math.min(ROOMY_SHARE * sheet.width, sheet.width - words, sheet.width - FOR_EDGES) - AROUND;
    const cell = Math.min(most, Math.floor(room / columns));
    return cell >= least && (lines === 1 || words >= LEAST_BROKEN) ? cell : null;
  };
  return largest(GOOD, 1) ?? largest(Math.ceil(2 * WORDS.line), 2) ?? largest(LEAST_CELL.repeat, 1);
}

/** The chart is the hero: it may take so much of the sheet's width, and the words have the rest. */
export const MOST_CHART = 0.64;
const LEAST_PANE = 220;

/**
 * The width of the chart's pane: what the chart needs with air around it, up to its share of the sheet; or the share
 * it has been dragged to.
 */
export function chartPaneWidth(
  columns: number,
  cell: number,
  sheetWidth: number,
  share: number | null,
  most = MOST_CHART,
): number {
  if (share !== null) return Math.round(share * sheetWidth);
  return Math.round(Math.min(most * sheetWidth, Math.max(LEAST_PANE, columns * cell + AROUND)));
}
