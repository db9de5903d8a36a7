import {
  columnsOfPart,
  INKS,
  linesOf,
  styleOf,
  workedRows,
  type Chart,
  type Laid,
  type Settings,
} from '@cordelina/core';
import { useEffect, useMemo, useRef } from 'react';
import { paintChart } from '../ui/paint.js';
import type { Survey } from '../workers/piece.worker.js';

const CLOTH_HEIGHT = 240;
/** Cells are painted at this size, in pixels. */
const CELL = 16;
/** The share of the picture that a border may take. */
const MOST_BORDER = 0.4;

/** So many rows of a piece as they are worked, its repeat carried out; of a high border only the last. */
function firstRows(chart: Chart, below: number, most: number): Chart {
  const skipped = Math.max(0, below - Math.floor(most * MOST_BORDER));
  const rows: Chart['rows'][number][] = [];
  const bands: Record<string, Chart['bands'][string]> = {};
  let n = 0;
  for (const { row } of workedRows(chart)) {
    if (rows.length === most) break;
    if (n++ < skipped) continue;
    if (chart.bands[row]) bands[rows.length] = chart.bands[row];
    rows.push(chart.rows[row]!);
  }
  return { ...chart, rows, bands, up: null };
}

/** The first rows of the piece, borders and all, each part as wide as it lies. */
export function PieceCloth({
  laid,
  survey,
  settings,
  room,
  widths,
  chosen,
  onChoose,
}: {
  laid: Laid;
  survey: Survey | null;
  settings: Settings;
  room: number;
  widths: readonly number[];
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const made = survey?.made ?? null;
  const columns = laid.parts.map(columnsOfPart);
  const fits = made !== null && columns.reduce((a, b) => a + b, 0) === made.chart.width;
  // Rows as high as they lie beside the width; a little flatter than wide where that is not known.
  const perRow =
    laid.width && made?.length
      ? (made.length / (made.below + made.body + made.above)) * (room / laid.width)
      : 6;
  const most = Math.max(8, Math.ceil(CLOTH_HEIGHT / perRow));
  const cloth = useMemo(() => made && firstRows(made.chart, made.below, most), [made, most]);
  const rows = cloth?.rows.length ?? 0;
  const high = cloth ? linesOf(cloth).count : 0;
  useEffect(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx || !cloth || !fits) return;
    const dpr = window.devicePixelRatio || 1;
    ctx.canvas.width = room * dpr;
    ctx.canvas.height = CLOTH_HEIGHT * dpr;
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.fillStyle = INKS.casing;
    ctx.fillRect(0, 0, room * dpr, CLOTH_HEIGHT * dpr);
    let right = room;
    let column = 0;
    laid.parts.forEach((_, i) => {
      const [wide, count] = [widths[i]!, columns[i]!];
      const left = right - wide;
      if (count > 0 && rows > 0) {
        // Drawn in square cells, then stretched to how the part lies: cords stay whole at every width.
        const [w, h] = [count * CELL, high * CELL];
        const square = document.createElement('canvas');
        square.width = w;
        square.height = h;
        paintChart(
          square.getContext('2d')!,
          cloth,
          {
            x: -(cloth.width - column - count) * CELL,
            y: 0,
            cell: CELL,
            scale: 1,
            window: {
              rows: { from: 0, to: rows - 1 },
              columns: { from: column, to: column + count - 1 },
            },
          },
          { ...styleOf(settings), grid: false, inks: INKS },
        );
        ctx.imageSmoothingQuality = 'high';
        const top = CLOTH_HEIGHT - high * perRow;
        ctx.drawImage(square, left * dpr, top * dpr, wide * dpr, high * perRow * dpr);
      }
      right = left;
      column += count;
    });
  });
  const lefts = laid.parts.map((_, i) => room - widths.slice(0, i + 1).reduce((a, b) => a + b, 0));
  return (
    <div className="relative border-x border-rule bg-chalk" style={{ height: CLOTH_HEIGHT }}>
      {made && fits ? (
        <canvas
          ref={canvas}
          role="img"
          aria-label={`The first ${rows} rows of the piece, ${made.below ? 'its border below, ' : ''}as the right side looks`}
          style={{ width: room, height: CLOTH_HEIGHT }}
          className="charted block"
        />
      ) : (
        <p className="grid h-full place-content-center text-slate">
          {survey && !made
            ? 'It cannot be put together yet: what is wrong is told below.'
            : 'Putting it together …'}
        </p>
      )}
      {laid.parts.map(({ part }, i) => (
        <div
          key={part.id}
          onClick={() => onChoose(part.id)}
          className={`absolute inset-y-0 cursor-pointer border-l ${part.id === chosen ? 'border-woad bg-woad/10 shadow-[inset_0_0_0_2px_var(--woad)]' : 'border-slate/25 hover:bg-wash/50'} ${part.kind === 'marker' ? 'border-dashed border-peat' : ''}`}
          style={{ left: lefts[i], width: widths[i] }}
        />
      ))}
    </div>
  );
}
