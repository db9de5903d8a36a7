import {
  bookOf,
  drawStitch,
  indexAt,
  rowFacts,
  sideOf,
  spanOf,
  type Chart,
  type Stitch,
} from '@cordelina/core';
import {
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEventHandler,
  type RefObject,
} from 'react';
import { bench, selectionOf, type Cell } from '../store/bench.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { TOKENS } from '../ui/inks.js';
import { paintChart, paintShapes, type Manner } from '../ui/paint.js';
import {
  cellAt,
  cellsBox,
  cellsPane,
  contentSize,
  GUTTER,
  onChart,
  origin,
  rowTop,
  scrollTo,
  visibleWindow,
  type Layout,
} from './geometry.js';

interface Props {
  chart: Chart;
  layout: Layout;
  manner: Manner;
  /** Cells findings point at, by row. */
  marked: readonly { row: number; from: number; to: number; tone: 'error' | 'caution' }[];
  describe: string;
  scroller: RefObject<HTMLDivElement | null>;
  onScroll: (scroll: { left: number; top: number }) => void;
  onKeyDown: KeyboardEventHandler;
  /** Sets a stitch; all that one stroke sets has the same number. */
  onStamp: (cell: Cell, stitch: Stitch, stroke: number) => void;
  onZoom: (by: number) => void;
}

/** The chart itself: painted on a canvas, as much as can be seen; worked by keys, mouse, pen and touch. */
export function ChartPane(props: Props) {
  const { chart, layout, manner, marked, describe, scroller, onScroll, onKeyDown, onStamp, onZoom } = props;
  const dispatch = useAppDispatch();
  const cursor = useAppSelector((s) => s.bench.cursor);
  const anchor = useAppSelector((s) => s.bench.anchor);
  const hand = useAppSelector((s) => s.bench.hand);
  const [hover, setHover] = useState<Cell | null>(null);
  const base = useRef<HTMLCanvasElement>(null);
  const over = useRef<HTMLCanvasElement>(null);
  const painting = useRef<'no' | 'select' | 'stamp'>('no');
  const stroke = useRef(0);
  const size = contentSize(layout);

  // The drawing, painted anew when anything it shows has changed.
  useLayoutEffect(() => {
    const ctx = fitted(base.current, layout);
    if (!ctx) return;
    performance.mark('chart-paint-start');
    paintBase(ctx, chart, layout, manner);
    performance.measure('chart-paint', 'chart-paint-start');
  }, [chart, layout, manner]);

  useLayoutEffect(() => {
    const ctx = fitted(over.current, layout);
    if (!ctx) return;
    const { x, y, width, height } = cellsPane(layout);
    ctx.save();
    ctx.beginPath();
    ctx.rect(x - 1, y, width + 2, height + 2);
    ctx.clip();
    paintMarks(ctx, layout, marked);
    paintCursor(ctx, chart, layout, { cursor, anchor });
    if (hand && hover && onChart(layout, hover)) paintGhost(ctx, chart, layout, manner, hand, hover);
    ctx.restore();
  }, [chart, layout, manner, cursor, anchor, hand, hover, marked]);

  // The cursor is kept in view.
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const target = scrollTo(
      { ...layout, scroll: { left: element.scrollLeft, top: element.scrollTop } },
      cursor,
    );
    element.scrollTo({ left: target.left, top: target.top });
    // Only a move of the cursor scrolls; scrolling by hand must not be undone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [cursor, layout.cell]);

  const pointed = (e: { clientX: number; clientY: number }): Cell => {
    const box = scroller.current!.getBoundingClientRect();
    return cellAt(layout, e.clientX - box.left, e.clientY - box.top);
  };

  return (
    <>
      <div
        ref={scroller}
        role="application"
        aria-label="Chart"
        aria-describedby="chart-cursor"
        tabIndex={0}
        data-testid="chart"
        className="absolute inset-0 touch-pan-x touch-pan-y peer overflow-auto outline-none"
        style={{ cursor: hand ? 'crosshair' : 'default' }}
        onScroll={(e) => onScroll({ left: e.currentTarget.scrollLeft, top: e.currentTarget.scrollTop })}
        onKeyDown={onKeyDown}
        onWheel={(e) => {
          if (e.ctrlKey) onZoom(e.deltaY < 0 ? 2 : -2);
        }}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          const cell = pointed(e);
          if (!onChart(layout, cell)) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          if (hand && !e.shiftKey) {
            painting.current = 'stamp';
            stroke.current = performance.now();
            onStamp(cell, hand, stroke.current);
          } else {
            painting.current = 'select';
            dispatch(bench.moved({ cell, extend: e.shiftKey }));
          }
        }}
        onPointerMove={(e) => {
          const cell = pointed(e);
          if (cell.row !== hover?.row || cell.column !== hover.column) setHover(cell);
          if (painting.current === 'select' && (cell.row !== cursor.row || cell.column !== cursor.column))
            dispatch(bench.moved({ cell, extend: true }));
          if (
            painting.current === 'stamp' &&
            hand &&
            onChart(layout, cell) &&
            spanOf(hand, bookOf(chart)) === 1
          )
            if (cell.row !== cursor.row || cell.column !== cursor.column) onStamp(cell, hand, stroke.current);
        }}
        onPointerUp={() => (painting.current = 'no')}
        onPointerLeave={() => setHover(null)}
      >
        <div style={{ width: size.width, height: size.height }}>
          <div className="sticky top-0 left-0 h-0 w-0">
            <canvas ref={base} className="block" aria-hidden />
            <canvas ref={over} className="absolute top-0 left-0 block" aria-hidden />
          </div>
        </div>
        <div id="chart-cursor" className="sr-only" aria-live="polite" data-testid="cursor">
          {describe}
        </div>
      </div>
      {/* Over the canvases, which would cover a ring of the pane's own. */}
      <span
        aria-hidden
        className="pointer-events-none absolute inset-0 hidden border-2 border-woad peer-focus-visible:block"
      />
    </>
  );
}

/** A canvas made to fit the pane at the screen's resolution and wiped clean. */
function fitted(canvas: HTMLCanvasElement | null, { pane }: Layout): CanvasRenderingContext2D | null {
  const ctx = canvas?.getContext('2d');
  if (!canvas || !ctx) return null;
  const scale = window.devicePixelRatio || 1;
  const [width, height] = [Math.round(pane.width * scale), Math.round(pane.height * scale)];
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
    canvas.style.width = `${pane.width}px`;
    canvas.style.height = `${pane.height}px`;
  }
  ctx.setTransform(scale, 0, 0, scale, 0, 0);
  ctx.clearRect(0, 0, pane.width, pane.height);
  return ctx;
}

function paintBase(ctx: CanvasRenderingContext2D, chart: Chart, layout: Layout, manner: Manner): void {
  const window = visibleWindow(layout);
  if (!window) return;
  const { x, y } = origin(layout);
  const scale = globalThis.devicePixelRatio || 1;
  paintChart(ctx, chart, { x, y, cell: layout.cell, scale, window }, manner);
  paintNumbers(ctx, chart, layout, window);
}

/** Row numbers on the side where the row begins, column numbers from the right; they stay in view. */
function paintNumbers(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  layout: Layout,
  window: NonNullable<ReturnType<typeof visibleWindow>>,
): void {
  const { cell, pane, columns, rows, beyond } = layout;
  const { x, y } = origin(layout);
  const leftEdge = Math.max(x - beyond.left * cell, GUTTER.side);
  const rightEdge = Math.min(x + (columns + beyond.right) * cell, pane.width - GUTTER.side);
  const foot = Math.min(y + rows * cell, pane.height - GUTTER.foot);
  ctx.fillStyle = TOKENS.fleece;
  ctx.fillRect(0, 0, leftEdge - 1.2, pane.height);
  ctx.fillRect(rightEdge + 1.2, 0, pane.width - rightEdge, pane.height);
  ctx.fillRect(0, foot + 1.2, pane.width, pane.height - foot);
  const every = cell >= 14 ? 1 : 5;
  ctx.textBaseline = 'middle';
  for (let r = window.rows.from; r <= window.rows.to; r++) {
    const number = r + 1;
    if (number !== 1 && number % every !== 0) continue;
    const middle = rowTop(layout, r) + cell / 2;
    if (middle > foot || middle < 0) continue;
    const isRs = sideOf(chart, r) === 'RS';
    ctx.fillStyle = isRs ? TOKENS.peat : TOKENS.slate;
    ctx.font = `${number % 5 === 0 ? 600 : 400} 12.5px 'Source Sans 3 Variable', sans-serif`;
    ctx.textAlign = isRs ? 'left' : 'right';
    ctx.fillText(String(number), isRs ? rightEdge + 7 : leftEdge - 7, middle);
  }
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

function paintMarks(ctx: CanvasRenderingContext2D, layout: Layout, marked: Props['marked']): void {
  for (const { row, from, to, tone } of marked) {
    const { x, y, width, height } = cellsBox(layout, row, from, to);
    ctx.strokeStyle = tone === 'error' ? TOKENS.madder : TOKENS.weld;
    ctx.lineWidth = 1.5;
    ctx.setLineDash(tone === 'error' ? [] : [4, 3]);
    ctx.strokeRect(x + 0.75, y + 0.75, width - 1.5, height - 1.5);
  }
  ctx.setLineDash([]);
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

function paintCursor(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  layout: Layout,
  place: { cursor: Cell; anchor: Cell | null },
): void {
  if (place.anchor) {
    const { columns, rows } = selectionOf(place);
    const { x, y, width } = cellsBox(layout, rows.to, columns.from, columns.to);
    const height = (rows.to - rows.from + 1) * layout.cell;
    veil(ctx, TOKENS.woad, 0.12, x, y, width, height);
    ctx.strokeStyle = TOKENS.woad;
    ctx.lineWidth = 1.5;
    ctx.strokeRect(x, y, width, height);
  }
  const { row: r, column } = place.cursor;
  const row = chart.rows[r];
  if (!row) return;
  // The whole row is lined out, so that the eye finds its words.
  const line = cellsBox(layout, r, 0, layout.columns - 1);
  veil(ctx, TOKENS.peat, 0.05, line.x, line.y, line.width, line.height);
  const here = cellsBox(layout, r, column);
  ctx.strokeStyle = TOKENS.peat;
  ctx.lineWidth = 2.25;
  ctx.strokeRect(here.x + 0.5, here.y + 0.5, here.width - 1, here.height - 1);
  const book = bookOf(chart);
  const i = indexAt(row, column, book);
  const span = i < 0 ? 1 : spanOf(row[i]!, book);
  if (span === 1) return;
  const start = rowFacts(row, book).starts[i]!;
  const whole = cellsBox(layout, r, start, start + span - 1);
  ctx.lineWidth = 1;
  ctx.strokeRect(whole.x + 1, whole.y + 1, whole.width - 2, whole.height - 2);
}

/** The stitch in hand, shown where a click would set it. */
function paintGhost(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  layout: Layout,
  manner: Manner,
  hand: Stitch,
  hover: Cell,
): void {
  const book = bookOf(chart);
  const span = spanOf(hand, book);
  const fits = hover.column + span <= chart.width;
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
