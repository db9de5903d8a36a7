import {
  drawLyingBand,
  inksOn,
  yarnRuns,
  stripsOf,
  inksOfMark,
  reaches,
  sceneOf,
  type Chart,
  type DrawingStyle,
  type Mark,
  type Scene,
  type Shape,
  type Strip,
  type CellWindow,
  TOKENS,
  type Inks,
} from '@cordelina/core';

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

/** A canvas that is not on the page; a browser that lacks such ones has one that only is not shown. */
function canvasOf(width: number, height: number): OffscreenCanvas | HTMLCanvasElement {
  if (typeof OffscreenCanvas !== 'undefined') return new OffscreenCanvas(width, height);
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  return canvas;
}

/** Ready-painted marks of one size and manner: a chart is mostly the same few, so they are stamped. */
class Sprites {
  /** Bitmaps: of a canvas a snapshot would be made at each stamp. */
  private readonly made = new Map<string, ImageBitmap | HTMLCanvasElement>();

  constructor(
    private readonly inks: Inks,
    private readonly cell: number,
    private readonly scale: number,
  ) {}

  get(mark: Mark): ImageBitmap | HTMLCanvasElement {
    let sprite = this.made.get(mark.key);
    if (!sprite) this.made.set(mark.key, (sprite = this.paint(mark)));
    return sprite;
  }

  private paint(mark: Mark): ImageBitmap | HTMLCanvasElement {
    const { span, reach, shapes } = mark;
    const size = this.cell * this.scale;
    const canvas = canvasOf(Math.ceil(size * (span + reach.left + reach.right)), Math.ceil(size));
    const ctx = canvas.getContext('2d') as Paint;
    const { inks, letter } = inksOfMark(mark, this.inks);
    ctx.translate(reach.left * size, 0);
    paintShapes(ctx, shapes, size, inks);
    if (letter && this.cell >= 12) paintColourMark(ctx, letter, size);
    return 'transferToImageBitmap' in canvas ? canvas.transferToImageBitmap() : canvas;
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

/** Where a chart is painted: columns and rows as places on the canvas. */
interface Paper {
  xOf: (column: number) => number;
  /** The upper edge of a row. */
  topOf: (row: number) => number;
  cell: number;
  window: CellWindow;
  /** Whether a column and a row are the chart's last, whose line is heavy. */
  width: number;
  height: number;
}

/**
 * Paints cells, grid and repeat lines of the visible part of a chart. `x` and `y` give the canvas place of the
 * upper left corner of the chart's own columns, in CSS pixels; the context is scaled to them already.
 */
export function paintChart(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  view: { x: number; y: number; cell: number; scale: number; window: CellWindow },
  manner: Manner,
): void {
  const { x, y, cell, scale, window } = view;
  const scene = sceneOf(chart, manner);
  const inks = inksOn(scene, manner.inks, manner);
  const sprites = spritesFor({ ...manner, inks }, cell, scale, chart);
  const [width, height] = [chart.width, chart.rows.length];
  const xOf = (column: number) => x + (width - column) * cell;
  const topOfLine = (line: number) => y + (scene.paper.count - 1 - line) * cell;
  const topOf = (row: number) => topOfLine(scene.paper.of(row));
  const paper: Paper = { xOf, topOf, cell, window, width, height };

  for (const strip of stripsOf(scene, window, width)) {
    const [left, right] = [xOf(strip.columns.to + 1), xOf(strip.columns.from)];
    ctx.fillStyle = manner.inks.casing;
    ctx.fillRect(left, topOf(strip.rows.to), right - left, (strip.rows.to - strip.rows.from + 1) * cell);
    if (manner.tints) paintYarns(ctx, scene, manner.tints, strip.rows, paper);
    if (manner.grid) paintGrid(ctx, strip, paper);
  }
  const seen = scene.paper.span(window.rows.from, window.rows.to);
  for (const { line, band } of scene.paper.bands) {
    if (line < seen.first || line > seen.last) continue;
    ctx.save();
    ctx.translate(xOf(width), topOfLine(line));
    ctx.fillStyle = manner.inks.casing;
    ctx.fillRect(0, 0, width * cell, cell);
    paintShapes(ctx, drawLyingBand(width, band), cell, manner.inks);
    ctx.restore();
  }

  const stamp = (mark: Mark, start: number, rowTop: number, isTinted: boolean) => {
    const { column, span, reach } = mark;
    const at = xOf(column + start + span);
    if (mark.isWhole && !isTinted) {
      // It stands as one: the rules inside it are taken out.
      ctx.fillStyle = manner.inks.casing;
      ctx.fillRect(at + 0.75, rowTop + 0.75, span * cell - 1.5, cell - 1.5);
    }
    const wide = (span + reach.left + reach.right) * cell;
    ctx.drawImage(sprites.get(mark), at - reach.left * cell, rowTop, wide, cell);
  };
  for (let r = window.rows.from; r <= window.rows.to; r++) {
    const marks = scene.row(r);
    const start = scene.startOf(r);
    const rowTop = topOf(r);
    const isTinted = scene.second(r) !== null && manner.tints !== undefined;
    const over: Mark[] = [];
    for (let i = firstIn(marks, window.columns.from - start); i < marks.length; i++) {
      const mark = marks[i]!;
      if (mark.column > window.columns.to - start || mark.column >= width) break;
      if (mark.isGap && !manner.grid) continue;
      if (reaches(mark)) over.push(mark);
      else stamp(mark, start, rowTop, isTinted);
    }
    for (const mark of over) stamp(mark, start, rowTop, isTinted);
  }
  if (manner.grid) paintRepeatLines(ctx, scene, paper);
}

/** The paper of pairs, in the colour of the yarn that shows. */
function paintYarns(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  { a, b }: NonNullable<DrawingStyle['tints']>,
  rows: CellWindow['rows'],
  { xOf, topOf, cell }: Paper,
): void {
  for (let r = rows.from; r <= rows.to; r++) {
    const second = scene.second(r);
    if (!second) return;
    for (const { from, to, isSecond } of yarnRuns(second)) {
      ctx.fillStyle = isSecond ? b : a;
      const left = xOf(to + 1 + scene.startOf(r));
      ctx.fillRect(left, topOf(r), xOf(from + scene.startOf(r)) - left, cell);
    }
  }
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
  { rows, columns }: Strip,
  { xOf, topOf, cell, width, height }: Paper,
): void {
  const [left, right] = [xOf(columns.to + 1), xOf(columns.from)];
  const [top, bottom] = [topOf(rows.to), topOf(rows.from) + cell];
  const yOf = (row: number) => bottom - (row - rows.from) * cell;
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
      if ((c % 5 === 0 || c === width) === heavy) lines.push([xOf(c), top, xOf(c), bottom]);
    for (let r = rows.from; r <= rows.to + 1; r++)
      if ((r % 5 === 0 || r === height) === heavy) lines.push([left, yOf(r), right, yOf(r)]);
    rule(heavy, lines);
  }
}

/** The repeat is framed: heavy lines at its sides, which step where a row is jogged, and below and above rows that repeat. */
function paintRepeatLines(
  ctx: CanvasRenderingContext2D,
  { lines, beyond }: Scene,
  { xOf, topOf, cell, window, width }: Paper,
): void {
  const { rows, columns } = window;
  ctx.strokeStyle = TOKENS.peat;
  ctx.lineWidth = 2;
  ctx.beginPath();
  // The row under the window too: a line steps from it to the first that is seen.
  let below: readonly number[] = rows.from > 0 ? lines.columns(rows.from - 1) : [];
  for (let r = rows.from; r <= rows.to; r++) {
    const here = lines.columns(r);
    here.forEach((column, i) => {
      const was = below[i];
      if (was !== undefined && was !== column) {
        ctx.moveTo(xOf(was), topOf(r - 1));
        ctx.lineTo(xOf(column), topOf(r - 1));
      }
      if (column < columns.from || column > columns.to + 1) return;
      ctx.moveTo(xOf(column), r > 0 ? topOf(r - 1) : topOf(r) + cell);
      ctx.lineTo(xOf(column), topOf(r));
    });
    below = here;
  }
  for (const row of lines.rows) {
    if (row < rows.from || row > rows.to + 1) continue;
    ctx.moveTo(xOf(Math.min(columns.to + 1, width + beyond.left)), topOf(row - 1));
    ctx.lineTo(xOf(Math.max(columns.from, -beyond.right)), topOf(row - 1));
  }
  ctx.stroke();
}
