import {
  bookOf,
  cordCells,
  drawCord,
  drawStitch,
  isCrossing,
  linesAcross,
  linesUp,
  NO_STITCH,
  rowFacts,
  spanOf,
  stitchId,
  type Chart,
  type PlainSchool,
  type Shape,
  type Stitch,
} from '@cordelina/core';
import { PALETTE, TOKENS, type Inks } from './inks.js';

/** What every drawing of a chart needs to know besides the chart. */
export interface Manner {
  plain: PlainSchool;
  /** Whether ropes are drawn as cords between their crossings. */
  cords: boolean;
  /** Whether the squared paper shows; a picture of the cloth leaves it out. */
  grid: boolean;
  /** Palette places of crossings the designer coloured, by crossing id. */
  colours: Readonly<Record<string, number>>;
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

/** The inks of one stitch: a coloured crossing shows its own colour in front. */
function inksFor(stitch: Stitch, { inks, colours }: Manner): { inks: Inks; mark: string | null } {
  const place = isCrossing(stitch) ? colours[stitchId(stitch)] : undefined;
  const chosen = place === undefined ? undefined : PALETTE[place];
  if (!chosen) return { inks, mark: null };
  return { inks: { ...inks, left: chosen.colour, right: chosen.colour }, mark: chosen.mark };
}

/** Ready-painted stitches of one size and manner: a chart is mostly the same few, so they are stamped. */
class Sprites {
  private readonly made = new Map<string, OffscreenCanvas>();
  private readonly ids = new Map<Stitch, string>();

  constructor(
    private readonly manner: Manner,
    private readonly cell: number,
    private readonly scale: number,
  ) {}

  get(stitch: Stitch, chart: Chart): OffscreenCanvas {
    let id = this.ids.get(stitch);
    if (id === undefined) this.ids.set(stitch, (id = stitchId(stitch)));
    let sprite = this.made.get(id);
    if (!sprite) this.made.set(id, (sprite = this.paint(stitch, chart)));
    return sprite;
  }

  cord(): OffscreenCanvas {
    let sprite = this.made.get('#cord');
    if (!sprite) this.made.set('#cord', (sprite = this.paintShapes(drawCord(), 1, this.manner.inks, null)));
    return sprite;
  }

  private paint(stitch: Stitch, chart: Chart): OffscreenCanvas {
    const book = bookOf(chart);
    const { inks, mark } = inksFor(stitch, this.manner);
    return this.paintShapes(drawStitch(stitch, this.manner.plain, book), spanOf(stitch, book), inks, mark);
  }

  private paintShapes(
    shapes: readonly Shape[],
    span: number,
    inks: Inks,
    mark: string | null,
  ): OffscreenCanvas {
    const size = this.cell * this.scale;
    const canvas = new OffscreenCanvas(Math.ceil(size * span), Math.ceil(size));
    const ctx = canvas.getContext('2d')!;
    paintShapes(ctx, shapes, size, inks);
    if (mark && this.cell >= 12) paintColourMark(ctx, mark, size);
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

function spritesFor(manner: Manner, cell: number, scale: number, chart: Chart): Sprites {
  const key = JSON.stringify([manner, cell, scale, chart.own]);
  if (cached?.key !== key) cached = { key, sprites: new Sprites(manner, cell, scale) };
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
  const book = bookOf(chart);
  const sprites = spritesFor(manner, cell, scale, chart);
  const cords = manner.cords ? cordCells(chart) : null;
  const xOf = (column: number) => x + (chart.width - column) * cell;
  const yOf = (row: number) => y + (chart.rows.length - row) * cell;
  const left = xOf(window.columns.to + 1);
  const right = xOf(window.columns.from);
  const top = yOf(window.rows.to + 1);
  const bottom = yOf(window.rows.from);

  ctx.fillStyle = manner.inks.casing;
  ctx.fillRect(left, top, right - left, bottom - top);
  if (manner.grid) paintGrid(ctx, chart, window, xOf, yOf, cell);

  for (let r = window.rows.from; r <= window.rows.to; r++) {
    const row = chart.rows[r]!;
    const { starts } = rowFacts(row, book);
    const rowTop = yOf(r + 1);
    for (let i = firstIn(starts, window.columns.from); i < row.length; i++) {
      const start = starts[i]!;
      if (start > window.columns.to || start >= chart.width) break;
      const stitch = row[i]!;
      if (stitch === 'k' && cords?.[r]?.[start]) {
        ctx.drawImage(sprites.cord(), xOf(start + 1), rowTop, cell, cell);
        continue;
      }
      if (stitch === 'k' && manner.plain === 'empty') continue;
      if (stitch === NO_STITCH && !manner.grid) continue;
      const span = spanOf(stitch, book);
      const at = xOf(start + span);
      if (span > 1) {
        // A crossing stands as one: the rules inside it are taken out.
        ctx.fillStyle = manner.inks.casing;
        ctx.fillRect(at + 0.75, rowTop + 0.75, span * cell - 1.5, cell - 1.5);
      }
      ctx.drawImage(sprites.get(stitch, chart), at, rowTop, span * cell, cell);
    }
  }
  if (manner.grid) paintRepeatLines(ctx, chart, xOf, yOf, { left, right, top, bottom });
}

/** The first stitch that reaches into the window's columns. */
function firstIn(starts: readonly number[], column: number): number {
  let low = 0;
  let high = starts.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (starts[mid]! <= column) low = mid + 1;
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
  chart: Chart,
  xOf: (c: number) => number,
  yOf: (r: number) => number,
  edge: { left: number; right: number; top: number; bottom: number },
): void {
  ctx.strokeStyle = TOKENS.peat;
  ctx.lineWidth = 2;
  ctx.beginPath();
  for (const column of linesAcross(chart)) {
    const at = xOf(column);
    if (at < edge.left - 1 || at > edge.right + 1) continue;
    ctx.moveTo(at, edge.top);
    ctx.lineTo(at, edge.bottom);
  }
  for (const row of linesUp(chart)) {
    const at = yOf(row);
    if (at < edge.top - 1 || at > edge.bottom + 1) continue;
    ctx.moveTo(edge.left, at);
    ctx.lineTo(edge.right, at);
  }
  ctx.stroke();
}
