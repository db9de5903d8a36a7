import { ChartSchema, jogOf, jogsFrom, type Chart } from '@cordelina/core';
import { useEffect, useRef } from 'react';
import type { Card } from '../store/api.js';
import { INKS } from '@cordelina/core';
import { paintChart } from './paint.js';

/** A piece of the fabric, drawn small with the same cords as everywhere. */
export function Thumbnail({
  preview,
  width,
  height,
  least = 7,
}: {
  preview: NonNullable<Card['summary']>['preview'];
  width: number;
  height: number;
  /** The least size of a cell, in pixels: smaller, and more of it shows. */
  least?: number;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    const ctx = canvas?.getContext('2d');
    if (!canvas || !ctx) return;
    const scale = window.devicePixelRatio || 1;
    canvas.width = width * scale;
    canvas.height = height * scale;
    ctx.scale(scale, scale);
    const tiled = tile(ChartSchema.parse(preview), width, height, least);
    const cell = Math.max(least, Math.min(18, width / tiled.chart.width));
    ctx.fillStyle = INKS.casing;
    ctx.fillRect(0, 0, width, height);
    const { chart } = tiled;
    const shown = { rows: { from: 0, to: chart.rows.length - 1 }, columns: { from: 0, to: chart.width - 1 } };
    const x = Math.round((width - chart.width * cell) / 2);
    const y = Math.round((height - chart.rows.length * cell) / 2);
    paintChart(
      ctx,
      chart,
      { x, y, cell, scale, window: shown },
      { plain: 'empty', cords: true, grid: false, colours: {}, inks: INKS },
    );
  }, [preview, width, height, least]);
  return <canvas ref={ref} style={{ width, height }} aria-hidden className="block bg-chalk" />;
}

/** Rows repeated upward until they fill the picture, so that a few rows look like cloth. */
function tile(chart: Chart, width: number, height: number, least: number): { chart: Chart } {
  const cell = Math.max(least, Math.min(18, width / chart.width));
  const passes = Math.ceil(height / cell / chart.rows.length);
  const rows = Array.from({ length: passes }, () => chart.rows).flat();
  return {
    chart: { ...chart, rows, jogs: jogsFrom(rows.map((_, r) => jogOf(chart, r % chart.rows.length))) },
  };
}
