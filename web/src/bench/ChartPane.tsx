import {
  bookOf,
  drawRope,
  EditError,
  ropeAt,
  spanOf,
  unfold,
  type Chart,
  type Edit,
  type Layer,
  type RopeAt,
  type Stitch,
  type Unfolded,
} from '@cordelina/core';
import {
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type ClipboardEventHandler,
  type KeyboardEventHandler,
  type PointerEvent,
  type RefObject,
} from 'react';
import { bench, selectionOf, type Cell } from '../desk/state/bench.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import type { Manner } from '../ui/paint.js';
import {
  ChartPainter,
  drawnCell,
  homeOf,
  paintCopies,
  paintCursor,
  paintDragged,
  paintGhost,
  paintLayers,
  paintTracing,
  type Traced,
  wiped,
} from './chart-paint.js';
import {
  cellAt,
  cellsBox,
  cellsPane,
  contentSize,
  onChart,
  scrollTo,
  standsAt,
  type Layout,
} from './geometry.js';
import { grabbedLine, lineUnder, type GrabbedLine } from './grabbed-line.js';

interface Props {
  chart: Chart;
  /** The chart as it is drawn, its repeats once or all of them; the layout is that of the drawing. */
  view: Unfolded;
  layout: Layout;
  manner: Manner;
  /** The chart as it would be after what is being considered; null where nothing is. */
  tried: Chart | null;
  /** The picture that is traced under it. */
  traced: Traced | null;
  /** What is laid over it. */
  layers: readonly Layer[];
  describe: string;
  scroller: RefObject<HTMLDivElement | null>;
  onScroll: (scroll: { left: number; top: number }) => void;
  onKeyDown: KeyboardEventHandler;
  onPaste: ClipboardEventHandler;
  /** Sets a stitch; all that one stroke sets has the same number. */
  onStamp: (cell: Cell, stitch: Stitch, stroke: number, alone: boolean) => void;
  onZoom: (by: number) => void;
  /** Moves a line of a repeat to another place, or the lines of one row. */
  onLine: (line: GrabbedLine, to: number) => void;
  /** What is typed so far, which shows at the cursor; and does it, before anything else is done. */
  typed: string;
  onSettle: () => void;
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
  const { chart, view, layout, manner, tried, traced, layers, describe, scroller } = props;
  const { onScroll, onKeyDown, onPaste, onStamp, onZoom, onLine, onRope, typed, onSettle } = props;
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
  const [painter] = useState(() => new ChartPainter());
  const over = useRef<HTMLCanvasElement>(null);
  const doing = useRef<Doing>({ what: 'nothing' });
  const spaceHeld = useRef(false);
  const fingers = useRef(new Map<number, { x: number; y: number }>());
  const size = contentSize(layout);

  // The drawing, painted anew when anything it shows has changed.
  useLayoutEffect(() => {
    const shown = preview ?? tried;
    const drawn = shown ? unfold(shown, view.times, view.passes) : view;
    const paint = () => {
      performance.mark('chart-paint-start');
      painter.paint(base.current, drawn, layout, manner);
      performance.measure('chart-paint', 'chart-paint-start');
    };
    // The first time the whole room is laid out too: the chart is painted when that is done.
    if (painter.hasPainted) return paint();
    const frame = requestAnimationFrame(paint);
    return () => cancelAnimationFrame(frame);
  }, [painter, view, preview, tried, layout, manner]);

  useLayoutEffect(() => {
    const ctx = wiped(over.current, layout);
    if (!ctx) return;
    const { x, y, width, height } = cellsPane(layout);
    ctx.save();
    ctx.beginPath();
    ctx.rect(x - 1, y, width + 2, height + 2);
    ctx.clip();
    if (traced) paintTracing(ctx, view, layout, traced);
    paintCopies(ctx, view, layout);
    paintLayers(ctx, view, layout, layers);
    paintCursor(ctx, chart, view, layout, { cursor, anchor });
    if (hand && hover && onChart(layout, hover)) paintGhost(ctx, chart, layout, manner, hand, hover);
    if (dragged) paintDragged(ctx, view, layout, dragged);
    ctx.restore();
  }, [chart, view, layout, manner, cursor, anchor, hand, hover, traced, layers, dragged]);

  useEffect(() => {
    if (!followed.length) return;
    const timer = setTimeout(() => dispatch(bench.followed([])), SHOWN_FOLLOWING);
    return () => clearTimeout(timer);
  }, [followed, dispatch]);

  // The cursor is kept in view.
  useEffect(() => {
    const { left, top } = scrollTo(layout, drawnCell(view, cursor));
    if (left !== layout.scroll.left || top !== layout.scroll.top) scroller.current?.scrollTo({ left, top });
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
        onPaste={onPaste}
        onKeyDown={(e) => {
          if (e.key === ' ') {
            // Held, it pans by hand.
            e.preventDefault();
            spaceHeld.current = true;
          } else onKeyDown(e);
        }}
        onKeyUp={(e) => {
          if (e.key === ' ') spaceHeld.current = false;
        }}
        onBlur={() => {
          spaceHeld.current = false;
          onSettle();
        }}
        onPointerDown={(e) => {
          onSettle();
          if (e.pointerType === 'touch') fingers.current.set(e.pointerId, { x: e.clientX, y: e.clientY });
          if (e.button === 1 || (e.button === 0 && spaceHeld.current)) {
            e.preventDefault();
            e.currentTarget.setPointerCapture(e.pointerId);
            doing.current = { what: 'pan', x: e.clientX, y: e.clientY };
          }
          if (e.button !== 0 || spaceHeld.current || fingers.current.size > 1) return;
          if (roping) return beginRope(e);
          const line = hand ? null : lineAt(e);
          const drawn = pointed(e);
          if (line) {
            e.currentTarget.setPointerCapture(e.pointerId);
            doing.current = { what: 'line', line, at: line.at };
            return;
          }
          if (!onChart(layout, drawn)) return;
          if (standsAt(layout, placeOf(e).y).isBand) {
            e.preventDefault();
            dispatch(bench.moved({ cell: homeOf(view, drawn) }));
            dispatch(bench.banded(view.rowOf(drawn.row)));
            return;
          }
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
            <canvas ref={base} className="charted block" aria-hidden />
            <canvas ref={over} className="charted absolute top-0 left-0 block" aria-hidden />
          </div>
        </div>
        <div id="chart-cursor" className="sr-only" aria-live="polite" data-testid="cursor">
          {describe}
        </div>
      </div>
      {typed && <Typed typed={typed} layout={layout} view={view} cursor={cursor} />}
      {/* Over the canvases, which would cover a ring of the pane's own. */}
      <span
        aria-hidden
        className="pointer-events-none absolute inset-0 hidden border-2 border-woad peer-focus-visible:block"
      />
    </>
  );
}

/** What is being typed, right under the cell it will be set from; above it where the pane ends below. */
function Typed({
  typed,
  layout,
  view,
  cursor,
}: {
  typed: string;
  layout: Layout;
  view: Unfolded;
  cursor: Cell;
}) {
  const { row, column } = drawnCell(view, cursor);
  const { x, y, width, height } = cellsBox(layout, row, column);
  const isLow = y + height + 30 > layout.pane.height;
  return (
    <span
      aria-hidden
      data-testid="typed"
      className="pointer-events-none absolute rounded-sm border border-peat bg-chalk px-1.5 font-mono text-[14px] font-semibold shadow-sheet"
      style={{ right: layout.pane.width - x - width, top: isLow ? y - 28 : y + height + 4 }}
    >
      {typed}
    </span>
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
