import { linesOf, styleOf, type Chart, type Design } from '@cordelina/core';
import { useEffect, useMemo, useRef } from 'react';
import { INKS, TOKENS } from '@cordelina/core';
import { paintChart } from './paint.js';

interface Span {
  from: number;
  to: number;
}

/** A large chart is painted in turns of so many milliseconds, so many cells at once, and the page answers in between. */
const [TURN, CELLS_AT_ONCE] = [12, 800];

/** A part of a chart, drawn at rest: for looking, not for working on. Rows in `marked` get a bar at the edge. */
export function ChartPicture({
  chart,
  settings,
  rows,
  columns,
  cell,
  marked,
  label,
}: {
  chart: Chart;
  settings: Design['settings'];
  rows: Span;
  columns: Span;
  cell: number;
  marked?: ReadonlySet<number>;
  label: string;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  const edge = marked ? 6 : 0;
  const width = (columns.to - columns.from + 1) * cell + edge + 1;
  const [from, to] = [rows.from, rows.to];
  // It is painted anew only when what it shows is another.
  const lines = useMemo(() => linesOf(chart), [chart]);
  const { first, last } = lines.span(from, to);
  const height = (last - first + 1) * cell + 1;
  const [right, left] = [columns.from, columns.to];
  useEffect(() => {
    const ctx = ref.current?.getContext('2d');
    if (!ctx) return;
    const scale = window.devicePixelRatio || 1;
    ctx.canvas.width = width * scale;
    ctx.canvas.height = height * scale;
    ctx.scale(scale, scale);
    const x = edge - (chart.width - 1 - left) * cell;
    const y = -(lines.count - 1 - last) * cell;
    const manner = { ...styleOf(settings), grid: true, inks: INKS };
    const band = Math.max(1, Math.floor(CELLS_AT_ONCE / (left - right + 1)));
    let next = from;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const paintOn = () => {
      const until = performance.now() + TURN;
      do {
        const end = Math.min(to, next + band - 1);
        const columns = { from: right, to: left };
        paintChart(
          ctx,
          chart,
          { x, y, cell, scale, window: { rows: { from: next, to: end }, columns } },
          manner,
        );
        next = end + 1;
      } while (next <= to && performance.now() < until);
      if (next <= to) timer = setTimeout(paintOn);
    };
    paintOn();
    ctx.fillStyle = TOKENS.woad;
    for (let r = from; r <= to; r++)
      if (marked?.has(r)) ctx.fillRect(0, (last - lines.of(r)) * cell + 1, 3, cell - 1);
    return () => clearTimeout(timer);
  }, [chart, settings, from, to, last, lines, right, left, cell, marked, width, height, edge]);
  return (
    <canvas
      ref={ref}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
      style={{ width, height }}
      className="charted block"
    />
  );
}
