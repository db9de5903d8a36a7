import type { Chart, Design } from '@cordelina/core';
import { useEffect, useRef } from 'react';
import { INKS, TOKENS } from '@cordelina/core';
import { paintChart } from './paint.js';

interface Span {
  from: number;
  to: number;
}

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
  const height = (rows.to - rows.from + 1) * cell + 1;
  useEffect(() => {
    const ctx = ref.current?.getContext('2d');
    if (!ctx) return;
    const scale = window.devicePixelRatio || 1;
    ctx.canvas.width = width * scale;
    ctx.canvas.height = height * scale;
    ctx.scale(scale, scale);
    const x = edge - (chart.width - 1 - columns.to) * cell;
    const y = -(chart.rows.length - 1 - rows.to) * cell;
    paintChart(
      ctx,
      chart,
      { x, y, cell, scale, window: { rows, columns } },
      { plain: settings.plain, cords: true, grid: true, colours: settings.colours, inks: INKS },
    );
    ctx.fillStyle = TOKENS.woad;
    for (let r = rows.from; r <= rows.to; r++)
      if (marked?.has(r)) ctx.fillRect(0, (rows.to - r) * cell + 1, 3, cell - 1);
  }, [chart, settings, rows, columns, cell, marked, width, height, edge]);
  return <canvas ref={ref} role="img" aria-label={label} style={{ width, height }} className="block" />;
}
