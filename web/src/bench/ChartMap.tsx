import { rowCrossings, bookOf, linesOf, spanOf, type Chart } from '@cordelina/core';
import { useEffect, useRef, type RefObject } from 'react';
import { TOKENS } from '@cordelina/core';
import { contentSize, type Layout } from './geometry.js';

const WIDTH = 26;
/** A map is looked at between edits: it waits for a pause of so many milliseconds. */
const PAUSE = 120;

/** Whether a chart is so much larger than its pane that a map helps to move about in it. */
export const needsMap = (layout: Layout): boolean => {
  const { width, height } = contentSize(layout);
  return height > 1.6 * layout.pane.height || width > 1.6 * layout.pane.width;
};

/** A thin map of the whole chart at the edge of the pane: its crossings, and what of it is in view; drag to move. */
export function ChartMap({
  chart,
  layout,
  scroller,
}: {
  chart: Chart;
  layout: Layout;
  scroller: RefObject<HTMLDivElement | null>;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { pane, scroll } = layout;
  const size = contentSize(layout);
  useEffect(() => {
    const timer = setTimeout(() => paintMap(ref.current, chart, pane.height), PAUSE);
    return () => clearTimeout(timer);
  }, [chart, pane.height]);
  const goTo = (e: { clientX: number; clientY: number; currentTarget: Element }) => {
    const box = e.currentTarget.getBoundingClientRect();
    scroller.current?.scrollTo({
      top: ((e.clientY - box.top) / box.height) * size.height - pane.height / 2,
      left: ((e.clientX - box.left) / box.width) * size.width - pane.width / 2,
    });
  };
  return (
    <div
      aria-hidden
      data-testid="map"
      className="absolute top-0 right-3 z-10 touch-none border-x border-rule"
      style={{ width: WIDTH, height: pane.height }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        goTo(e);
      }}
      onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && goTo(e)}
    >
      <canvas ref={ref} style={{ width: WIDTH, height: pane.height }} className="charted block" />
      <span
        className="pointer-events-none absolute border-2 border-peat"
        style={{
          top: (scroll.top / size.height) * pane.height,
          height: (pane.height / size.height) * pane.height,
          left: (scroll.left / size.width) * WIDTH,
          width: Math.min(WIDTH, (pane.width / size.width) * WIDTH),
        }}
      />
    </div>
  );
}

/** Crossings by lean, each as long as it is wide. */
function paintMap(canvas: HTMLCanvasElement | null, chart: Chart, height: number): void {
  const ctx = canvas?.getContext('2d');
  if (!ctx) return;
  const scale = window.devicePixelRatio || 1;
  ctx.canvas.width = WIDTH * scale;
  ctx.canvas.height = height * scale;
  ctx.scale(scale, scale);
  ctx.fillStyle = TOKENS.chalk;
  ctx.fillRect(0, 0, WIDTH, height);
  const book = bookOf(chart);
  const lines = linesOf(chart);
  const [w, h] = [WIDTH / chart.width, height / lines.count];
  ctx.fillStyle = TOKENS.ruleHeavy;
  for (const { line } of lines.bands) ctx.fillRect(0, (lines.count - 1 - line) * h, WIDTH, Math.max(1, h));
  chart.rows.forEach((row, r) => {
    for (const { crossing, column } of rowCrossings(row, book)) {
      const span = spanOf(crossing, book);
      ctx.fillStyle = crossing.lean === 'left' ? TOKENS.woad : TOKENS.weld;
      ctx.fillRect(
        (chart.width - column - span) * w,
        (lines.count - 1 - lines.of(r)) * h,
        Math.max(1, span * w),
        Math.max(1, h),
      );
    }
  });
}
