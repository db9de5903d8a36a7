import { bookOf, indexAt, sideOf, spanOf, type Chart, type Stitch } from '@cordelina/core';
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
import { drawStitch } from '@cordelina/core';
import {
  cellAt,
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
  onStamp: (cell: Cell, stitch: Stitch) => void;
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
    paintMarks(ctx, layout, marked);
    paintCursor(ctx, chart, layout, { cursor, anchor });
    if (hand && hover && onChart(layout, hover)) paintGhost(ctx, chart, layout, manner, hand, hover);
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
    <div
      ref={scroller}
      role="application"
      aria-label="Chart"
      aria-describedby="chart-cursor"
      tabIndex={0}
      data-testid="chart"
      className="absolute inset-0 touch-pan-x touch-pan-y overflow-auto outline-none focus-visible:shadow-[inset_0_0_0_2px_var(--color-woad)]"
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
          onStamp(cell, hand);
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
          if (cell.row !== cursor.row || cell.column !== cursor.column) onStamp(cell, hand);
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
  const { cell, pane, columns, rows } = layout;
  const { x, y } = origin(layout);
  const leftEdge = Math.max(x, GUTTER.side);
  const rightEdge = Math.min(x + columns * cell, pane.width - GUTTER.side);
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
  for (let c = window.columns.from; c <= window.columns.to; c++) {
    const number = c + 1;
    if (number !== 1 && number % across !== 0) continue;
    const middle = x + (columns - c - 0.5) * cell;
    if (middle < leftEdge || middle > rightEdge) continue;
    ctx.font = `${number % 5 === 0 ? 600 : 400} 11.5px 'Source Sans 3 Variable', sans-serif`;
    ctx.fillText(String(number), middle, foot + 12);
  }
}

function paintMarks(ctx: CanvasRenderingContext2D, layout: Layout, marked: Props['marked']): void {
  const { x } = origin(layout);
  const { cell, columns } = layout;
  for (const { row, from, to, tone } of marked) {
    const left = x + (columns - to) * cell;
    ctx.strokeStyle = tone === 'error' ? TOKENS.madder : TOKENS.weld;
    ctx.lineWidth = 1.5;
    ctx.setLineDash(tone === 'error' ? [] : [4, 3]);
    ctx.strokeRect(left + 0.75, rowTop(layout, row) + 0.75, (to - from + 1) * cell - 1.5, cell - 1.5);
  }
  ctx.setLineDash([]);
}

function paintCursor(
  ctx: CanvasRenderingContext2D,
  chart: Chart,
  layout: Layout,
  place: { cursor: Cell; anchor: Cell | null },
): void {
  const { x } = origin(layout);
  const { cell, columns } = layout;
  const { columns: cols, rows } = selectionOf(place);
  const left = x + (columns - 1 - cols.to) * cell;
  const top = rowTop(layout, rows.to);
  const width = (cols.to - cols.from + 1) * cell;
  const height = (rows.to - rows.from + 1) * cell;
  if (place.anchor) {
    ctx.fillStyle = 'rgb(43 88 118 / 0.12)';
    ctx.fillRect(left, top, width, height);
    ctx.strokeStyle = TOKENS.woad;
    ctx.lineWidth = 1.5;
    ctx.strokeRect(left, top, width, height);
  }
  const book = bookOf(chart);
  const row = chart.rows[place.cursor.row];
  if (!row) return;
  const at = rowTop(layout, place.cursor.row);
  const cursorLeft = x + (columns - 1 - place.cursor.column) * cell;
  // The whole row is lined out, so that the eye finds its words.
  ctx.fillStyle = 'rgb(35 31 26 / 0.05)';
  ctx.fillRect(x, at, columns * cell, cell);
  ctx.strokeStyle = TOKENS.peat;
  ctx.lineWidth = 2.25;
  ctx.strokeRect(cursorLeft + 0.5, at + 0.5, cell - 1, cell - 1);
  const i = indexAt(row, place.cursor.column, book);
  const stitch = i < 0 ? undefined : row[i];
  if (stitch === undefined || spanOf(stitch, book) === 1) return;
  const span = spanOf(stitch, book);
  let start = 0;
  for (let k = 0; k < i; k++) start += spanOf(row[k]!, book);
  ctx.lineWidth = 1;
  ctx.strokeRect(x + (columns - start - span) * cell + 1, at + 1, span * cell - 2, cell - 2);
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
  const { x } = origin(layout);
  const { cell, columns } = layout;
  const left = x + (columns - hover.column - span) * cell;
  const top = rowTop(layout, hover.row);
  ctx.save();
  ctx.globalAlpha = 0.85;
  ctx.fillStyle = manner.inks.casing;
  ctx.fillRect(left, top, span * cell, cell);
  ctx.translate(left, top);
  paintShapes(ctx, drawStitch(hand, manner.plain, book), cell, manner.inks);
  ctx.restore();
  ctx.strokeStyle = fits ? TOKENS.woad : TOKENS.madder;
  ctx.lineWidth = 1.5;
  ctx.setLineDash(fits ? [] : [3, 2]);
  ctx.strokeRect(left, top, span * cell, cell);
  ctx.setLineDash([]);
}
