import {
  bookOf,
  drawStitch,
  indexAt,
  isSameFrame,
  rowFacts,
  sceneOf,
  sideOf,
  spanOf,
  type Chart,
  type Layer,
  type LayerMark,
  type Mark,
  type Stitch,
  type Unfolded,
} from '@cordelina/core';
import { selectionOf, type Cell } from '../desk/state/bench.js';
import { TOKENS, TONES } from '@cordelina/core';
import { paintChart, paintShapes, type Manner } from '../ui/paint.js';
import type { CellWindow, Grid } from '@cordelina/core';
import { cellsBox, GUTTER, origin, rowTop, visibleWindow, type Layout } from './geometry.js';
import type { GrabbedLine } from './grabbed-line.js';

/** What the chart's pane is painted with: the drawing, its numbers, and what lies over it. */

/** A picture under a chart: its ink, squared up, where it lies, and how strongly it shows. */
export interface Traced {
  sheet: { ink: ImageBitmap; cell: number };
  at: Cell;
  grid: Grid;
  opacity: number;
}

/** The cell of the chart that a drawn one stands for. */
export function homeOf(view: Unfolded, { row, column }: Cell): Cell {
  const home = view.rowOf(Math.max(0, Math.min(row, view.chart.rows.length - 1)));
  return { row: home, column: view.columnOf(home, Math.max(0, Math.min(column, view.chart.width - 1))) };
}

/** The first drawn cell of a cell of the chart. */
export const drawnCell = (view: Unfolded, { row, column }: Cell): Cell => ({
  row: view.drawnRow(row),
  column: view.drawnColumns(row, column)[0]!,
});

/** A canvas made to fit the pane at the screen's resolution; one that had to be fitted is wiped clean. */
function fitted(
  canvas: HTMLCanvasElement | null,
  { pane }: Layout,
): { ctx: CanvasRenderingContext2D; isNew: boolean } | null {
  const ctx = canvas?.getContext('2d');
  if (!canvas || !ctx) return null;
  const scale = window.devicePixelRatio || 1;
  const [width, height] = [Math.round(pane.width * scale), Math.round(pane.height * scale)];
  const isNew = canvas.width !== width || canvas.height !== height;
  if (isNew) {
    canvas.width = width;
    canvas.height = height;
    canvas.style.width = `${pane.width}px`;
    canvas.style.height = `${pane.height}px`;
  }
  ctx.setTransform(scale, 0, 0, scale, 0, 0);
  return { ctx, isNew };
}

/** The same, and wiped clean. */
export function wiped(canvas: HTMLCanvasElement | null, layout: Layout): CanvasRenderingContext2D | null {
  const fit = fitted(canvas, layout);
  fit?.ctx.clearRect(0, 0, layout.pane.width, layout.pane.height);
  return fit?.ctx ?? null;
}

/** What a canvas shows of a chart, row by row. */
interface Shown {
  view: Unfolded;
  layout: Layout;
  manner: Manner;
  marks: ReadonlyMap<number, readonly Mark[]>;
}

/** Paints a chart on one canvas, and of a chart that has only changed the rows that look different. */
export class ChartPainter {
  private shown: Shown | null = null;

  get hasPainted(): boolean {
    return this.shown !== null;
  }

  paint(canvas: HTMLCanvasElement | null, view: Unfolded, layout: Layout, manner: Manner): void {
    const fit = fitted(canvas, layout);
    const window = visibleWindow(layout);
    if (!fit) return;
    const { ctx, isNew } = fit;
    const before = isNew ? null : this.shown;
    const now: Shown = { view, layout, manner, marks: marksIn(view, window, manner) };
    this.shown = now;
    if (!before || !isOnSamePaper(before, now) || !window) {
      ctx.clearRect(0, 0, layout.pane.width, layout.pane.height);
      if (window) paintBase(ctx, view, layout, manner, window);
      return;
    }
    for (const { from, to } of runsOf(now, before)) this.repaint(ctx, now, window, from, to);
  }

  /** Rows are painted anew with those beside them, whose rules they share, and nothing is touched further off. */
  private repaint(
    ctx: CanvasRenderingContext2D,
    { view, layout, manner }: Shown,
    { rows, columns }: CellWindow,
    from: number,
    to: number,
  ): void {
    const scale = globalThis.devicePixelRatio || 1;
    const top = Math.floor((rowTop(layout, to) - 1) * scale) / scale;
    const foot = Math.ceil((rowTop(layout, from) + layout.cell + 1) * scale) / scale;
    ctx.save();
    ctx.beginPath();
    ctx.rect(0, top, layout.pane.width, foot - top);
    ctx.clip();
    ctx.clearRect(0, top, layout.pane.width, foot - top);
    paintBase(ctx, view, layout, manner, {
      rows: { from: Math.max(rows.from, from - 1), to: Math.min(rows.to, to + 1) },
      columns,
    });
    ctx.restore();
  }
}

function marksIn({ chart }: Unfolded, window: CellWindow | null, manner: Manner): Shown['marks'] {
  const scene = sceneOf(chart, manner);
  const marks = new Map<number, readonly Mark[]>();
  if (window) for (let r = window.rows.from; r <= window.rows.to; r++) marks.set(r, scene.row(r));
  return marks;
}

/** Whether two drawings differ in nothing but the marks of their rows. */
function isOnSamePaper(a: Shown, b: Shown): boolean {
  const [one, two] = [a.view.chart, b.view.chart];
  return (
    a.layout === b.layout &&
    a.manner === b.manner &&
    a.view.times === b.view.times &&
    a.view.passes === b.view.passes &&
    one.own === two.own &&
    one.firstRow === two.firstRow &&
    one.bands === two.bands &&
    isSameFrame(one, two)
  );
}

/** The runs of rows that look different. */
function runsOf(now: Shown, before: Shown): { from: number; to: number }[] {
  const runs: { from: number; to: number }[] = [];
  for (const [r, marks] of now.marks) {
    if (before.marks.get(r) === marks) continue;
    const last = runs.at(-1);
    if (last?.to === r - 1) last.to = r;
    else runs.push({ from: r, to: r });
  }
  return runs;
}

/** Paints the rows of a window and their numbers. */
function paintBase(
  ctx: CanvasRenderingContext2D,
  { chart, rowOf, isCopy }: Unfolded,
  layout: Layout,
  manner: Manner,
  window: CellWindow,
): void {
  const { x, y } = origin(layout);
  const scale = globalThis.devicePixelRatio || 1;
  paintChart(ctx, chart, { x, y, cell: layout.cell, scale, window }, manner);
  paintNumbers(ctx, layout, window, (drawn) =>
    isCopy(drawn) ? null : { number: rowOf(drawn) + 1, isRs: sideOf(chart, rowOf(drawn)) === 'RS' },
  );
}

/** Row numbers on the side where the row begins, column numbers from the right; they stay in view. */
function paintNumbers(
  ctx: CanvasRenderingContext2D,
  layout: Layout,
  window: CellWindow,
  numberOf: (drawn: number) => { number: number; isRs: boolean } | null,
): void {
  const { cell, pane, columns, lines, beyond } = layout;
  const { x, y } = origin(layout);
  const leftEdge = Math.max(x - beyond.left * cell, GUTTER.side);
  const rightEdge = Math.min(x + (columns + beyond.right) * cell, pane.width - GUTTER.side);
  const foot = Math.min(y + lines.count * cell, pane.height - GUTTER.foot);
  ctx.fillStyle = TOKENS.fleece;
  ctx.fillRect(0, 0, leftEdge - 1.2, pane.height);
  ctx.fillRect(rightEdge + 1.2, 0, pane.width - rightEdge, pane.height);
  ctx.fillRect(0, foot + 1.2, pane.width, pane.height - foot);
  const every = cell >= 14 ? 1 : 5;
  ctx.textBaseline = 'middle';
  for (let r = window.rows.from; r <= window.rows.to; r++) {
    const row = numberOf(r);
    if (!row || (row.number !== 1 && row.number % every !== 0)) continue;
    const { number, isRs } = row;
    const middle = rowTop(layout, r) + cell / 2;
    if (middle > foot || middle < 0) continue;
    ctx.fillStyle = isRs ? TOKENS.peat : TOKENS.slate;
    ctx.font = `${number % 5 === 0 ? 600 : 400} 12.5px 'Source Sans 3 Variable', sans-serif`;
    ctx.textAlign = isRs ? 'left' : 'right';
    ctx.fillText(String(number), isRs ? rightEdge + 7 : leftEdge - 7, middle);
  }
  // Those below the chart belong to its lowest row in view.
  if (rowTop(layout, window.rows.from) + 2 * cell < foot) return;
  ctx.textAlign = 'center';
  ctx.fillStyle = TOKENS.slate;
  const across = cell >= 18 ? 1 : 5;
  for (let c = Math.max(0, window.columns.from); c <= Math.min(columns - 1, window.columns.to); c++) {
    const number = c + 1;
    if (number !== 1 && number % across !== 0) continue;
    const middle = x + (columns - c - 0.5) * cell;
    if (middle < leftEdge || middle > rightEdge) continue;
    ctx.font = `${number % 5 === 0 ? 600 : 400} 11.5px 'Source Sans 3 Variable', sans-serif`;
    ctx.fillText(String(number), middle, foot + 12);
  }
}

/** Further passes of the rows are there to judge how they join: they stand back. */
export function paintCopies(ctx: CanvasRenderingContext2D, { isCopy }: Unfolded, layout: Layout): void {
  const window = visibleWindow(layout);
  if (!window) return;
  for (let r = window.rows.from; r <= window.rows.to; r++) {
    if (!isCopy(r)) continue;
    const { x, y, width, height } = cellsBox(layout, r, 0, layout.columns - 1);
    veil(ctx, TOKENS.chalk, 0.6, x, y, width, height);
  }
}

/** Paints what is laid over the chart; cells of a repeat that is drawn several times are marked in each. */
/** A picture that is traced: its ink, cell on cell, in the rows that can be seen. */
export function paintTracing(
  ctx: CanvasRenderingContext2D,
  view: Unfolded,
  layout: Layout,
  { sheet, at, grid, opacity }: Traced,
): void {
  ctx.save();
  ctx.globalAlpha = opacity;
  for (let r = 0; r < grid.rows; r++) {
    const row = at.row + r;
    if (row >= view.chart.rows.length || view.rowOf(view.drawnRow(row)) !== row) break;
    const { x, y, width, height } = cellsBox(
      layout,
      view.drawnRow(row),
      at.column,
      at.column + grid.columns - 1,
    );
    if (y + height < 0 || y > layout.pane.height) continue;
    const top = (grid.rows - 1 - r) * sheet.cell;
    ctx.drawImage(sheet.ink, 0, top, sheet.ink.width, sheet.cell, x, y, width, height);
  }
  ctx.restore();
}

export function paintLayers(
  ctx: CanvasRenderingContext2D,
  view: Unfolded,
  layout: Layout,
  layers: readonly Layer[],
): void {
  for (const mark of layers.flatMap((layer) => layer.marks)) {
    if (mark.shape === 'axis') {
      paintAxis(ctx, layout, mark);
      continue;
    }
    if (mark.shape === 'letter') {
      paintLetter(ctx, layout, mark);
      continue;
    }
    if (mark.shape === 'asked') {
      paintAsked(ctx, layout, { ...mark, row: view.drawnRow(mark.row) });
      continue;
    }
    for (const column of view.drawnColumns(mark.row, mark.from)) {
      const { x, y, width, height } = cellsBox(
        layout,
        view.drawnRow(mark.row),
        column,
        column + mark.to - mark.from,
      );
      if (mark.shape === 'ring') {
        ctx.strokeStyle = TONES[mark.tone];
        ctx.lineWidth = 2.5;
        ctx.setLineDash([]);
        ctx.beginPath();
        ctx.ellipse(x + width / 2, y + height / 2, width / 2 + 4, height / 2 + 5, 0, 0, 2 * Math.PI);
        ctx.stroke();
        continue;
      }
      if (mark.look === 'veil') {
        veil(ctx, TONES[mark.tone], 0.13, x, y, width, height);
        continue;
      }
      ctx.strokeStyle = TONES[mark.tone];
      ctx.lineWidth = 1.5;
      ctx.setLineDash(mark.look === 'dashes' ? [4, 3] : []);
      ctx.strokeRect(x + 0.75, y + 0.75, width - 1.5, height - 1.5);
    }
  }
  ctx.setLineDash([]);
}

/** Below this size of cell a letter could not be read. */
const LEAST_LETTERED = 13;

/** A rope's letter on its cord, on a disk of paper so that it can be read on any colour. */
function paintLetter(
  ctx: CanvasRenderingContext2D,
  layout: Layout,
  { row, column, text }: Extract<LayerMark, { shape: 'letter' }>,
): void {
  const { x, y, width, height } = cellsBox(layout, row, column);
  if (layout.cell < LEAST_LETTERED) return;
  const middle = { x: x + width / 2, y: y + height / 2 };
  ctx.fillStyle = TOKENS.chalk;
  ctx.beginPath();
  ctx.arc(middle.x, middle.y, layout.cell * 0.34, 0, 2 * Math.PI);
  ctx.fill();
  ctx.fillStyle = TOKENS.peat;
  ctx.font = `600 ${Math.round(layout.cell * (text.length > 1 ? 0.4 : 0.5))}px 'Source Sans 3 Variable', sans-serif`;
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  ctx.fillText(text, middle.x, middle.y + 0.5);
}

/** A question mark in a cell's upper right corner. */
function paintAsked(
  ctx: CanvasRenderingContext2D,
  layout: Layout,
  { row, column, tone }: Extract<LayerMark, { shape: 'asked' }>,
): void {
  const { x, y, width } = cellsBox(layout, row, column);
  const size = Math.max(8, Math.round(layout.cell * 0.42));
  ctx.font = `700 ${size}px 'Source Sans 3 Variable', sans-serif`;
  ctx.textAlign = 'right';
  ctx.textBaseline = 'top';
  ctx.lineWidth = 3;
  ctx.setLineDash([]);
  ctx.strokeStyle = TOKENS.chalk;
  ctx.strokeText('?', x + width - 1, y + 1);
  ctx.fillStyle = TONES[tone];
  ctx.fillText('?', x + width - 1, y + 1);
}

/** The height of a place among the rows, from 0 at the foot of the lowest; halves lie in the middle of one. */
const levelOf = (layout: Layout, place: number): number =>
  rowTop(layout, Math.ceil(place) - 1) + (Math.ceil(place) - place) * layout.cell;

/** A line of symmetry, dashed through the chart; a half turn has a point on it. */
function paintAxis(
  ctx: CanvasRenderingContext2D,
  layout: Layout,
  { at, turn, tone }: Extract<LayerMark, { shape: 'axis' }>,
): void {
  const { x, y } = origin(layout);
  const { columns, lines, cell } = layout;
  const place = x + (columns - at / 2) * cell;
  ctx.strokeStyle = TONES[tone];
  ctx.lineWidth = 1.5;
  ctx.setLineDash([7, 4]);
  ctx.beginPath();
  ctx.moveTo(place, y - 6);
  ctx.lineTo(place, y + lines.count * cell + 6);
  ctx.stroke();
  ctx.setLineDash([]);
  if (turn === null) return;
  ctx.fillStyle = TOKENS.chalk;
  ctx.beginPath();
  ctx.arc(place, levelOf(layout, turn / 2), Math.max(4, cell / 4), 0, 2 * Math.PI);
  ctx.fill();
  ctx.stroke();
}

/** A line of the repeat where it would be let go. */
export function paintDragged(
  ctx: CanvasRenderingContext2D,
  view: Unfolded,
  layout: Layout,
  { line, at }: { line: GrabbedLine; at: number },
): void {
  const { x } = origin(layout);
  const { columns, rows, cell } = layout;
  ctx.strokeStyle = TOKENS.woad;
  ctx.lineWidth = 2.5;
  ctx.beginPath();
  if (line.of === 'rows') {
    const level = rowTop(layout, at - 1);
    ctx.moveTo(x, level);
    ctx.lineTo(x + columns * cell, level);
  } else {
    const [from, to] = line.of === 'jog' ? [view.drawnRow(line.row), view.drawnRow(line.row) + 1] : [0, rows];
    const place = x + (columns - at) * cell;
    ctx.moveTo(place, rowTop(layout, to - 1));
    ctx.lineTo(place, rowTop(layout, from) + cell);
  }
  ctx.stroke();
}

/** A box under a thin layer of a colour. */
function veil(
  ctx: CanvasRenderingContext2D,
  colour: string,
  alpha: number,
  ...box: [x: number, y: number, width: number, height: number]
): void {
  ctx.globalAlpha = alpha;
  ctx.fillStyle = colour;
  ctx.fillRect(...box);
  ctx.globalAlpha = 1;
}

export function paintCursor(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  view: Unfolded,
  layout: Layout,
  place: { cursor: Cell; anchor: Cell | null },
): void {
  if (place.anchor) {
    const { columns, rows } = selectionOf(place);
    const corner = drawnCell(view, { row: rows.to, column: columns.from });
    const { x, y, width } = cellsBox(
      layout,
      corner.row,
      corner.column,
      corner.column + columns.to - columns.from,
    );
    const height = rowTop(layout, view.drawnRow(rows.from)) + layout.cell - y;
    veil(ctx, TOKENS.woad, 0.12, x, y, width, height);
    ctx.strokeStyle = TOKENS.woad;
    ctx.lineWidth = 1.5;
    ctx.strokeRect(x, y, width, height);
  }
  const { row: r, column } = place.cursor;
  const row = chart.rows[r];
  if (!row) return;
  const drawn = view.drawnRow(r);
  // The whole row is lined out, so that the eye finds its words.
  const line = cellsBox(layout, drawn, 0, layout.columns - 1);
  veil(ctx, TOKENS.peat, 0.05, line.x, line.y, line.width, line.height);
  const [here, ...copies] = view.drawnColumns(r, column).map((c) => cellsBox(layout, drawn, c));
  ctx.strokeStyle = TOKENS.peat;
  ctx.lineWidth = 1;
  for (const copy of copies) ctx.strokeRect(copy.x + 0.5, copy.y + 0.5, copy.width - 1, copy.height - 1);
  ctx.lineWidth = 2.25;
  ctx.strokeRect(here!.x + 0.5, here!.y + 0.5, here!.width - 1, here!.height - 1);
  const book = bookOf(chart);
  const i = indexAt(row, column, book);
  const span = i < 0 ? 1 : spanOf(row[i]!, book);
  if (span === 1) return;
  const start = view.drawnColumns(r, rowFacts(row, book).starts[i]!)[0]!;
  const whole = cellsBox(layout, drawn, start, start + span - 1);
  ctx.lineWidth = 1;
  ctx.strokeRect(whole.x + 1, whole.y + 1, whole.width - 2, whole.height - 2);
}

/** The stitch in hand, shown where a click would set it. */
export function paintGhost(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  layout: Layout,
  manner: Manner,
  hand: Stitch,
  hover: Cell,
): void {
  const book = bookOf(chart);
  const span = spanOf(hand, book);
  const fits = hover.column + span <= layout.columns;
  const { x, y, width, height } = cellsBox(layout, hover.row, hover.column, hover.column + span - 1);
  ctx.save();
  ctx.globalAlpha = 0.85;
  ctx.fillStyle = manner.inks.casing;
  ctx.fillRect(x, y, width, height);
  ctx.translate(x, y);
  paintShapes(ctx, drawStitch(hand, manner.plain, book), layout.cell, manner.inks);
  ctx.restore();
  ctx.strokeStyle = fits ? TOKENS.woad : TOKENS.madder;
  ctx.lineWidth = 1.5;
  ctx.setLineDash(fits ? [] : [3, 2]);
  ctx.strokeRect(x, y, width, height);
  ctx.setLineDash([]);
}
