import {
  reaches,
  sceneOf,
  type Chart,
  type DrawingStyle,
  type Mark,
  type Scene,
  type Shape,
} from '@cordelina/core';
import { PALETTE, TOKENS, type Inks } from './inks.js';

/** What every drawing of a chart needs to know besides the chart. */
export interface Manner extends DrawingStyle {
  /** Whether the squared paper shows; a picture of the cloth leaves it out. */
  grid: boolean;
  inks: Inks;
}

const paths = new Map<string, Path2D>();

function pathOf(d: string): Path2D {
  let path = paths.get(d);
  if (!path) paths.set(d, (path = new Path2D(d)));
  return path;
}

/** Paints shapes whose unit is a cell; the context is already moved to their upper left corner. */
export function paintShapes(ctx: Paint, shapes: readonly Shape[], cell: number, inks: Inks): void {
  ctx.save();
  ctx.scale(cell, cell);
  ctx.lineJoin = 'round';
  for (const { d, dx, fill, stroke, width } of shapes) {
    if (dx) ctx.translate(dx, 0);
    const path = pathOf(d);
    if (fill) {
      ctx.fillStyle = inks[fill];
      ctx.fill(path);
    }
    if (stroke) {
      ctx.strokeStyle = inks[stroke];
      // A drawn line never gets thinner than two thirds of a pixel, or it fades on small charts.
      ctx.lineWidth = Math.max(width ?? 0.06, 0.66 / cell);
      ctx.stroke(path);
    }
    if (dx) ctx.translate(-dx, 0);
  }
  ctx.restore();
}

type Paint = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** The inks of a mark: a coloured crossing shows its own colour in front. */
function inksFor({ colour }: Mark, inks: Inks): { inks: Inks; letter: string | null } {
  const chosen = colour === null ? undefined : PALETTE[colour];
  if (!chosen) return { inks, letter: null };
  return { inks: { ...inks, left: chosen.colour, right: chosen.colour }, letter: chosen.mark };
}

/** Ready-painted marks of one size and manner: a chart is mostly the same few, so they are stamped. */
class Sprites {
  private readonly made = new Map<string, OffscreenCanvas>();

  constructor(
    private readonly inks: Inks,
    private readonly cell: number,
    private readonly scale: number,
  ) {}

  get(mark: Mark): OffscreenCanvas {
    let sprite = this.made.get(mark.key);
    if (!sprite) this.made.set(mark.key, (sprite = this.paint(mark)));
    return sprite;
  }

  private paint(mark: Mark): OffscreenCanvas {
    const { span, reach, shapes } = mark;
    const size = this.cell * this.scale;
    const canvas = new OffscreenCanvas(Math.ceil(size * (span + reach.left + reach.right)), Math.ceil(size));
    const ctx = canvas.getContext('2d')!;
    const { inks, letter } = inksFor(mark, this.inks);
    ctx.translate(reach.left * size, 0);
    paintShapes(ctx, shapes, size, inks);
    if (letter && this.cell >= 12) paintColourMark(ctx, letter, size);
    return canvas;
  }
}

/** The letter that goes with a designer's colour, so that colour never stands alone. */
function paintColourMark(ctx: Paint, mark: string, size: number): void {
  const at = size * 0.2;
  ctx.fillStyle = TOKENS.chalk;
  ctx.beginPath();
  ctx.arc(at, at, size * 0.2, 0, 2 * Math.PI);
  ctx.fill();
  ctx.fillStyle = TOKENS.peat;
  ctx.font = `600 ${size * 0.34}px 'Source Sans 3 Variable', sans-serif`;
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  ctx.fillText(mark, at, at);
}

let cached: { key: string; sprites: Sprites } | null = null;

function spritesFor({ inks, plain }: Manner, cell: number, scale: number, chart: Chart): Sprites {
  const key = JSON.stringify([inks, plain, cell, scale, chart.own]);
  if (cached?.key !== key) cached = { key, sprites: new Sprites(inks, cell, scale) };
  return cached.sprites;
}

/** The part of a chart to paint: rows and columns counted from 0, both ends included. */
export interface Window {
  rows: { from: number; to: number };
  columns: { from: number; to: number };
}

/**
 * Paints cells, grid and repeat lines of the visible part of a chart. `x` and `y` give the canvas place of the
 * chart's upper left corner, in CSS pixels; the context is scaled to them already.
 */
export function paintChart(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  view: { x: number; y: number; cell: number; scale: number; window: Window },
  manner: Manner,
): void {
  const { x, y, cell, scale, window } = view;
  const sprites = spritesFor(manner, cell, scale, chart);
  const scene = sceneOf(chart, manner);
  const xOf = (column: number) => x + (chart.width - column) * cell;
  const yOf = (row: number) => y + (chart.rows.length - row) * cell;
  const left = xOf(window.columns.to + 1);
  const right = xOf(window.columns.from);
  const top = yOf(window.rows.to + 1);
  const bottom = yOf(window.rows.from);

  ctx.fillStyle = manner.inks.casing;
  ctx.fillRect(left, top, right - left, bottom - top);
  if (manner.grid) paintGrid(ctx, chart, window, xOf, yOf, cell);

  const stamp = (mark: Mark, rowTop: number) => {
    const { column, span, reach } = mark;
    const at = xOf(column + span);
    if (mark.isWhole) {
      // It stands as one: the rules inside it are taken out.
      ctx.fillStyle = manner.inks.casing;
      ctx.fillRect(at + 0.75, rowTop + 0.75, span * cell - 1.5, cell - 1.5);
    }
    const wide = (span + reach.left + reach.right) * cell;
    ctx.drawImage(sprites.get(mark), at - reach.left * cell, rowTop, wide, cell);
  };
  for (let r = window.rows.from; r <= window.rows.to; r++) {
    const marks = scene.row(r);
    const rowTop = yOf(r + 1);
    const over: Mark[] = [];
    for (let i = firstIn(marks, window.columns.from); i < marks.length; i++) {
      const mark = marks[i]!;
      if (mark.column > window.columns.to || mark.column >= chart.width) break;
      if (mark.isGap && !manner.grid) continue;
      if (reaches(mark)) over.push(mark);
      else stamp(mark, rowTop);
    }
    for (const mark of over) stamp(mark, rowTop);
  }
  if (manner.grid) paintRepeatLines(ctx, scene, xOf, yOf, { left, right, top, bottom });
}

/** The first mark that reaches into the window's columns. */
function firstIn(marks: readonly Mark[], column: number): number {
  let low = 0;
  let high = marks.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (marks[mid]!.column <= column) low = mid + 1;
    else high = mid;
  }
  return Math.max(0, low - 1);
}

function paintGrid(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  { rows, columns }: Window,
  xOf: (c: number) => number,
  yOf: (r: number) => number,
  cell: number,
): void {
  const [left, right] = [xOf(columns.to + 1), xOf(columns.from)];
  const [top, bottom] = [yOf(rows.to + 1), yOf(rows.from)];
  const rule = (heavy: boolean, lines: [number, number, number, number][]) => {
    ctx.beginPath();
    for (const [x1, y1, x2, y2] of lines) {
      ctx.moveTo(x1, y1);
      ctx.lineTo(x2, y2);
    }
    ctx.strokeStyle = heavy ? TOKENS.ruleHeavy : TOKENS.rule;
    ctx.lineWidth = heavy ? 1 : cell < 10 ? 0.4 : 0.75;
    ctx.stroke();
  };
  for (const heavy of [false, true]) {
    const lines: [number, number, number, number][] = [];
    for (let c = columns.from; c <= columns.to + 1; c++)
      if ((c % 5 === 0 || c === chart.width) === heavy) lines.push([xOf(c), top, xOf(c), bottom]);
    for (let r = rows.from; r <= rows.to + 1; r++)
      if ((r % 5 === 0 || r === chart.rows.length) === heavy) lines.push([left, yOf(r), right, yOf(r)]);
    rule(heavy, lines);
  }
}

/** The repeat is framed: heavy lines at its sides and, where rows repeat, below and above. */
function paintRepeatLines(
  ctx: CanvasRenderingContext2D,
  { lines }: Scene,
  xOf: (c: number) => number,
  yOf: (r: number) => number,
  edge: { left: number; right: number; top: number; bottom: number },
): void {
  ctx.strokeStyle = TOKENS.peat;
  ctx.lineWidth = 2;
  ctx.beginPath();
  for (const column of lines.columns) {
    const at = xOf(column);
    if (at < edge.left - 1 || at > edge.right + 1) continue;
    ctx.moveTo(at, edge.top);
    ctx.lineTo(at, edge.bottom);
  }
  for (const row of lines.rows) {
    const at = yOf(row);
    if (at < edge.top - 1 || at > edge.bottom + 1) continue;
    ctx.moveTo(edge.left, at);
    ctx.lineTo(edge.right, at);
  }
  ctx.stroke();
}
