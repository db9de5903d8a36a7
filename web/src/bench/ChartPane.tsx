import {
  bookOf,
  drawRope,
  drawStitch,
  EditError,
  indexAt,
  ropeAt,
  rowFacts,
  sideOf,
  spanOf,
  unfold,
  type Chart,
  type Edit,
  type Mirror,
  type RopeAt,
  type Stitch,
  type Unfolded,
} from '@cordelina/core';
import {
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEventHandler,
  type PointerEvent,
  type RefObject,
} from 'react';
import { bench, selectionOf, type Cell, type Run } from '../store/bench.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { TOKENS } from '../ui/inks.js';
import { paintChart, paintShapes, type Manner } from '../ui/paint.js';
import { grabbedLine, lineUnder, type GrabbedLine } from './lines.js';
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
  /** The chart as it is drawn, its repeats once or all of them; the layout is that of the drawing. */
  view: Unfolded;
  layout: Layout;
  manner: Manner;
  /** Cells findings point at, by row. */
  marked: readonly { row: number; from: number; to: number; tone: 'error' | 'caution' }[];
  describe: string;
  scroller: RefObject<HTMLDivElement | null>;
  onScroll: (scroll: { left: number; top: number }) => void;
  onKeyDown: KeyboardEventHandler;
  /** Sets a stitch; all that one stroke sets has the same number. */
  onStamp: (cell: Cell, stitch: Stitch, stroke: number, alone: boolean) => void;
  onZoom: (by: number) => void;
  /** Moves a line of a repeat to another place, or the lines of one row. */
  onLine: (line: GrabbedLine, to: number) => void;
  /** Draws a rope, as one edit. */
  onRope: (change: (chart: Chart) => Edit) => void;
}

/** What a pointer is doing on the chart. */
type Doing =
  | { what: 'nothing' }
  | { what: 'select' }
  | { what: 'stamp'; stroke: number }
  | { what: 'pan'; x: number; y: number }
  | { what: 'line'; line: GrabbedLine; at: number }
  | { what: 'rope'; rope: RopeAt; hold: number; path: Map<number, number> };

/** Cells that followed an edit are shown for so long, in milliseconds. */
const SHOWN_FOLLOWING = 900;

/** The chart itself: painted on a canvas, as much as can be seen; worked by keys, mouse, pen and touch. */
export function ChartPane(props: Props) {
  const { chart, view, layout, manner, marked, describe, scroller } = props;
  const { onScroll, onKeyDown, onStamp, onZoom, onLine, onRope } = props;
  const dispatch = useAppDispatch();
  const cursor = useAppSelector((s) => s.bench.cursor);
  const anchor = useAppSelector((s) => s.bench.anchor);
  const hand = useAppSelector((s) => s.bench.hand);
  const followed = useAppSelector((s) => s.bench.followed);
  const roping = useAppSelector((s) => s.bench.roping);
  /** The chart as it would be with the rope let go here. */
  const [preview, setPreview] = useState<Chart | null>(null);
  const [hover, setHover] = useState<Cell | null>(null);
  const [near, setNear] = useState<GrabbedLine | null>(null);
  const [dragged, setDragged] = useState<{ line: GrabbedLine; at: number } | null>(null);
  const base = useRef<HTMLCanvasElement>(null);
  const over = useRef<HTMLCanvasElement>(null);
  const doing = useRef<Doing>({ what: 'nothing' });
  const fingers = useRef(new Map<number, { x: number; y: number }>());
  const size = contentSize(layout);

  // The drawing, painted anew when anything it shows has changed.
  useLayoutEffect(() => {
    const ctx = fitted(base.current, layout);
    if (!ctx) return;
    performance.mark('chart-paint-start');
    paintBase(ctx, preview ? unfold(preview, view.times, view.passes) : view, layout, manner);
    performance.measure('chart-paint', 'chart-paint-start');
  }, [view, preview, layout, manner]);

  useLayoutEffect(() => {
    const ctx = fitted(over.current, layout);
    if (!ctx) return;
    const { x, y, width, height } = cellsPane(layout);
    ctx.save();
    ctx.beginPath();
    ctx.rect(x - 1, y, width + 2, height + 2);
    ctx.clip();
    paintCopies(ctx, view, layout);
    paintMarks(ctx, view, layout, marked);
    paintFollowed(ctx, view, layout, followed);
    if (chart.mirror) paintMirror(ctx, layout, chart.mirror);
    paintCursor(ctx, chart, view, layout, { cursor, anchor });
    if (hand && hover && onChart(layout, hover)) paintGhost(ctx, chart, layout, manner, hand, hover);
    if (dragged) paintDragged(ctx, view, layout, dragged);
    ctx.restore();
  }, [chart, view, layout, manner, cursor, anchor, hand, hover, marked, followed, dragged]);

  useEffect(() => {
    if (!followed.length) return;
    const timer = setTimeout(() => dispatch(bench.followed([])), SHOWN_FOLLOWING);
    return () => clearTimeout(timer);
  }, [followed, dispatch]);

  // The cursor is kept in view.
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const target = scrollTo(
      { ...layout, scroll: { left: element.scrollLeft, top: element.scrollTop } },
      drawnCell(view, cursor),
    );
    element.scrollTo({ left: target.left, top: target.top });
    // Only a move of the cursor scrolls; scrolling by hand must not be undone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [cursor, layout.cell, view.times, view.passes]);

  // React listens to the wheel passively; the page itself must not be zoomed.
  useEffect(() => {
    const element = scroller.current;
    const onWheel = (e: WheelEvent) => {
      if (!e.ctrlKey && !e.metaKey) return;
      e.preventDefault();
      onZoom(e.deltaY < 0 ? 2 : -2);
    };
    element?.addEventListener('wheel', onWheel, { passive: false });
    return () => element?.removeEventListener('wheel', onWheel);
  }, [scroller, onZoom]);

  const placeOf = (e: { clientX: number; clientY: number }) => {
    const box = scroller.current!.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  };
  const pointed = (e: { clientX: number; clientY: number }): Cell => {
    const { x, y } = placeOf(e);
    return cellAt(layout, x, y);
  };
  const lineAt = (e: { clientX: number; clientY: number; altKey: boolean }): GrabbedLine | null => {
    const { x, y } = placeOf(e);
    return grabbedLine(view, layout, x, y, e.altKey);
  };
  const stamp = (drawn: Cell, stroke: number, alone: boolean) =>
    hand !== null && onStamp(homeOf(view, drawn), hand, stroke, alone);

  const beginRope = (e: PointerEvent<HTMLDivElement>) => {
    const drawn = pointed(e);
    if (!onChart(layout, drawn)) return;
    const cell = homeOf(view, drawn);
    try {
      const rope = ropeAt(chart, cell.row, cell.column);
      e.currentTarget.setPointerCapture(e.pointerId);
      const act = { what: 'rope', rope, hold: cell.column - rope.column, path: new Map() } as const;
      doing.current = act;
      setPreview(drawRope(chart, rope, drawnBy(act)).chart);
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      dispatch(bench.said({ text: error.message, tone: 'refused' }));
    }
  };
  const goOnRoping = (act: Extract<Doing, { what: 'rope' }>, drawn: Cell) => {
    const cell = homeOf(view, drawn);
    if (cell.row < act.rope.row || act.path.get(cell.row) === cell.column) return;
    // Drawn back down, the rope is taken back with it.
    for (const row of act.path.keys()) if (row > cell.row) act.path.delete(row);
    act.path.set(cell.row, cell.column);
    setPreview(drawRope(chart, act.rope, drawnBy(act)).chart);
  };

  /** Two fingers that move apart or together zoom. */
  const pinch = (id: number, place: { x: number; y: number }): boolean => {
    const before = [...fingers.current.values()];
    if (!fingers.current.has(id)) return false;
    fingers.current.set(id, place);
    const [a, b] = before;
    const [c, d] = [...fingers.current.values()];
    if (!a || !b || !c || !d) return false;
    const grown = Math.hypot(c.x - d.x, c.y - d.y) - Math.hypot(a.x - b.x, a.y - b.y);
    if (Math.abs(grown) > 6) onZoom(grown > 0 ? 2 : -2);
    else fingers.current.set(id, before[[...fingers.current.keys()].indexOf(id)]!);
    return true;
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
        data-keys
        className="absolute inset-0 peer overflow-auto outline-none"
        style={{
          cursor: near
            ? near.of === 'rows'
              ? 'row-resize'
              : 'col-resize'
            : hand || roping
              ? 'crosshair'
              : 'default',
          touchAction: hand || roping ? 'none' : 'pan-x pan-y',
        }}
        onContextMenu={(e) => {
          // The menu speaks of the cell under the pointer, unless that lies in the selection.
          const drawn = pointed(e);
          if (!onChart(layout, drawn)) return;
          const cell = homeOf(view, drawn);
          const { columns, rows } = selectionOf({ cursor, anchor });
          const isSelected =
            anchor !== null &&
            cell.column >= columns.from &&
            cell.column <= columns.to &&
            cell.row >= rows.from &&
            cell.row <= rows.to;
          if (!isSelected) dispatch(bench.moved({ cell }));
        }}
        onScroll={(e) => onScroll({ left: e.currentTarget.scrollLeft, top: e.currentTarget.scrollTop })}
        onKeyDown={onKeyDown}
        onPointerDown={(e) => {
          if (e.pointerType === 'touch') fingers.current.set(e.pointerId, { x: e.clientX, y: e.clientY });
          if (e.button === 1) {
            e.preventDefault();
            e.currentTarget.setPointerCapture(e.pointerId);
            doing.current = { what: 'pan', x: e.clientX, y: e.clientY };
          }
          if (e.button !== 0 || fingers.current.size > 1) return;
          if (roping) return beginRope(e);
          const line = hand ? null : lineAt(e);
          const drawn = pointed(e);
          if (line) {
            e.currentTarget.setPointerCapture(e.pointerId);
            doing.current = { what: 'line', line, at: line.at };
            return;
          }
          if (!onChart(layout, drawn)) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          if (hand && !e.shiftKey) {
            doing.current = { what: 'stamp', stroke: performance.now() };
            stamp(drawn, doing.current.stroke, e.altKey);
          } else {
            doing.current = { what: 'select' };
            dispatch(bench.moved({ cell: homeOf(view, drawn), extend: e.shiftKey }));
          }
        }}
        onPointerMove={(e) => {
          if (pinch(e.pointerId, { x: e.clientX, y: e.clientY })) return;
          const act = doing.current;
          if (act.what === 'pan') {
            e.currentTarget.scrollBy(act.x - e.clientX, act.y - e.clientY);
            doing.current = { what: 'pan', x: e.clientX, y: e.clientY };
            return;
          }
          if (act.what === 'line') {
            const { x, y } = placeOf(e);
            const at = lineUnder(layout, act.line, x, y);
            doing.current = { ...act, at };
            setDragged({ line: act.line, at });
            return;
          }
          const drawn = pointed(e);
          if (act.what === 'rope') return goOnRoping(act, drawn);
          const cell = homeOf(view, drawn);
          setNear(hand || act.what !== 'nothing' ? null : lineAt(e));
          if (drawn.row !== hover?.row || drawn.column !== hover.column) setHover(drawn);
          const isElsewhere = cell.row !== cursor.row || cell.column !== cursor.column;
          if (act.what === 'select' && isElsewhere) dispatch(bench.moved({ cell, extend: true }));
          if (act.what === 'stamp' && hand && onChart(layout, drawn) && spanOf(hand, bookOf(chart)) === 1)
            if (isElsewhere) stamp(drawn, act.stroke, e.altKey);
        }}
        onPointerUp={(e) => {
          fingers.current.delete(e.pointerId);
          const act = doing.current;
          if (act.what === 'line' && act.at !== act.line.at) onLine(act.line, act.at);
          if (act.what === 'rope') onRope((c) => drawRope(c, act.rope, drawnBy(act)));
          setPreview(null);
          setDragged(null);
          doing.current = { what: 'nothing' };
        }}
        onPointerCancel={(e) => {
          fingers.current.delete(e.pointerId);
          setPreview(null);
          setDragged(null);
          doing.current = { what: 'nothing' };
        }}
        onPointerLeave={() => {
          setHover(null);
          setNear(null);
        }}
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

/** Where the right edge of a rope is wanted in each row, by the way the hand has gone; between its points, on a straight line. */
function drawnBy({ rope, hold, path }: Extract<Doing, { what: 'rope' }>) {
  const points = [[rope.row, rope.column + hold] as const, ...[...path].sort((a, b) => a[0] - b[0])];
  return (row: number): number | undefined => {
    const after = points.findIndex(([r]) => r >= row);
    if (after < 0) return undefined;
    const [r1, c1] = points[after]!;
    const [r0, c0] = points[after - 1] ?? points[after]!;
    const column = r1 === r0 ? c1 : c0 + ((c1 - c0) * (row - r0)) / (r1 - r0);
    return Math.round(column) - hold;
  };
}

/** The cell of the chart that a drawn one stands for. */
function homeOf(view: Unfolded, { row, column }: Cell): Cell {
  const home = view.rowOf(Math.max(0, Math.min(row, view.chart.rows.length - 1)));
  return { row: home, column: view.columnOf(home, Math.max(0, Math.min(column, view.chart.width - 1))) };
}

/** The first drawn cell of a cell of the chart. */
const drawnCell = (view: Unfolded, { row, column }: Cell): Cell => ({
  row: view.drawnRow(row),
  column: view.drawnColumns(row, column)[0]!,
});

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

function paintBase(
  ctx: CanvasRenderingContext2D,
  { chart, rowOf, isCopy }: Unfolded,
  layout: Layout,
  manner: Manner,
): void {
  const window = visibleWindow(layout);
  if (!window) return;
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
  window: NonNullable<ReturnType<typeof visibleWindow>>,
  numberOf: (drawn: number) => { number: number; isRs: boolean } | null,
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
function paintCopies(ctx: CanvasRenderingContext2D, { isCopy }: Unfolded, layout: Layout): void {
  const window = visibleWindow(layout);
  if (!window) return;
  for (let r = window.rows.from; r <= window.rows.to; r++) {
    if (!isCopy(r)) continue;
    const { x, y, width, height } = cellsBox(layout, r, 0, layout.columns - 1);
    veil(ctx, TOKENS.chalk, 0.6, x, y, width, height);
  }
}

function paintMarks(
  ctx: CanvasRenderingContext2D,
  view: Unfolded,
  layout: Layout,
  marked: Props['marked'],
): void {
  for (const { row, from, to, tone } of marked) {
    const drawn = drawnCell(view, { row, column: from });
    const { x, y, width, height } = cellsBox(layout, drawn.row, drawn.column, drawn.column + to - from);
    ctx.strokeStyle = tone === 'error' ? TOKENS.madder : TOKENS.weld;
    ctx.lineWidth = 1.5;
    ctx.setLineDash(tone === 'error' ? [] : [4, 3]);
    ctx.strokeRect(x + 0.75, y + 0.75, width - 1.5, height - 1.5);
  }
  ctx.setLineDash([]);
}

/** What has just followed an edit below it. */
function paintFollowed(
  ctx: CanvasRenderingContext2D,
  view: Unfolded,
  layout: Layout,
  followed: readonly Run[],
): void {
  for (const { row, from, to } of followed)
    for (const column of view.drawnColumns(row, from)) {
      const { x, y, width, height } = cellsBox(layout, view.drawnRow(row), column, column + to - from);
      veil(ctx, TOKENS.woad, 0.13, x, y, width, height);
    }
}

/** The line of symmetry, dashed through the chart; a half turn has a point on it. */
function paintMirror(ctx: CanvasRenderingContext2D, layout: Layout, { axis, turn }: Mirror): void {
  const { x, y } = origin(layout);
  const { columns, rows, cell } = layout;
  const at = x + (columns - axis / 2) * cell;
  ctx.strokeStyle = TOKENS.woad;
  ctx.lineWidth = 1.5;
  ctx.setLineDash([7, 4]);
  ctx.beginPath();
  ctx.moveTo(at, y - 6);
  ctx.lineTo(at, y + rows * cell + 6);
  ctx.stroke();
  ctx.setLineDash([]);
  if (turn === undefined) return;
  ctx.fillStyle = TOKENS.chalk;
  ctx.beginPath();
  ctx.arc(at, y + (rows - turn / 2) * cell, Math.max(4, cell / 4), 0, 2 * Math.PI);
  ctx.fill();
  ctx.stroke();
}

/** A line of the repeat where it would be let go. */
function paintDragged(
  ctx: CanvasRenderingContext2D,
  view: Unfolded,
  layout: Layout,
  { line, at }: { line: GrabbedLine; at: number },
): void {
  const { x, y } = origin(layout);
  const { columns, rows, cell } = layout;
  ctx.strokeStyle = TOKENS.woad;
  ctx.lineWidth = 2.5;
  ctx.beginPath();
  if (line.of === 'rows') {
    const level = y + (rows - at) * cell;
    ctx.moveTo(x, level);
    ctx.lineTo(x + columns * cell, level);
  } else {
    const [from, to] = line.of === 'jog' ? [view.drawnRow(line.row), view.drawnRow(line.row) + 1] : [0, rows];
    const place = x + (columns - at) * cell;
    ctx.moveTo(place, y + (rows - to) * cell);
    ctx.lineTo(place, y + (rows - from) * cell);
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

function paintCursor(
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
    const height = (rows.to - rows.from + 1) * layout.cell;
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
