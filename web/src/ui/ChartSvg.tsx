import {
  bookOf,
  cordCells,
  drawCord,
  drawStitch,
  isCrossing,
  rowFacts,
  sideOf,
  spanOf,
  stitchId,
  type Chart,
  type Shape,
} from '@cordelina/core';
import { Fragment, memo } from 'react';
import { PALETTE, type Inks } from './inks.js';
import type { Manner } from './paint.js';

/** Shapes of a drawing as SVG paths, in cells. */
export function Shapes({ shapes, inks }: { shapes: readonly Shape[]; inks: Inks }) {
  return (
    <>
      {shapes.map(({ d, dx, fill, stroke, width }, i) => (
        <path
          key={i}
          d={d}
          transform={dx ? `translate(${dx} 0)` : undefined}
          fill={fill ? inks[fill] : 'none'}
          stroke={stroke ? inks[stroke] : 'none'}
          strokeWidth={stroke ? (width ?? 0.06) : undefined}
          strokeLinejoin="round"
        />
      ))}
    </>
  );
}

/**
 * A chart as a vector drawing, for print and the words' sheet: cells, rules, repeat frame, row numbers on the
 * side where the row begins, column numbers from the right.
 */
export const ChartSvg = memo(function ChartSvg({
  chart,
  manner,
  label,
}: {
  chart: Chart;
  manner: Manner;
  label: string;
}) {
  const book = bookOf(chart);
  const height = chart.rows.length;
  const { width } = chart;
  const cords = manner.cords ? cordCells(chart) : null;
  const margin = { side: 1.5, foot: 1 };
  const xOf = (c: number) => width - c;
  const yOf = (r: number) => height - r;
  const { inks, colours } = manner;
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`${-margin.side} -0.1 ${width + 2 * margin.side} ${height + margin.foot + 0.1}`}
      style={{ width: `${(width + 2 * margin.side) * 18}px`, maxWidth: '100%', maxHeight: '230mm' }}
    >
      <rect x={0} y={0} width={width} height={height} fill={inks.casing} />
      {Array.from({ length: width + 1 }, (_, c) => (
        <line
          key={`c${c}`}
          x1={xOf(c)}
          x2={xOf(c)}
          y1={0}
          y2={height}
          stroke={c % 5 && c !== width ? '#c9cbc6' : '#8f948f'}
          strokeWidth={0.035}
        />
      ))}
      {Array.from({ length: height + 1 }, (_, r) => (
        <line
          key={`r${r}`}
          x1={0}
          x2={width}
          y1={yOf(r)}
          y2={yOf(r)}
          stroke={r % 5 && r !== height ? '#c9cbc6' : '#8f948f'}
          strokeWidth={0.035}
        />
      ))}
      {chart.rows.map((row, r) => (
        <g key={r}>
          {row.map((stitch, i) => {
            const start = rowFacts(row, book).starts[i]!;
            const isCord = stitch === 'k' && cords?.[r]?.[start];
            const span = spanOf(stitch, book);
            const shapes = isCord ? drawCord() : drawStitch(stitch, manner.plain, book);
            if (!shapes.length) return null;
            const place = isCrossing(stitch) ? colours[stitchId(stitch)] : undefined;
            const chosen = place === undefined ? undefined : PALETTE[place];
            return (
              <g key={i} transform={`translate(${xOf(start + span)} ${yOf(r + 1)})`}>
                {span > 1 && <rect x={0.03} y={0.03} width={span - 0.06} height={0.94} fill={inks.casing} />}
                <Shapes
                  shapes={shapes}
                  inks={chosen ? { ...inks, left: chosen.colour, right: chosen.colour } : inks}
                />
                {chosen && (
                  <text x={0.2} y={0.3} fontSize={0.36} fontWeight={600} textAnchor="middle">
                    {chosen.mark}
                  </text>
                )}
              </g>
            );
          })}
          <text
            x={sideOf(chart, r) === 'RS' ? width + 0.25 : -0.25}
            y={yOf(r + 1) + 0.72}
            fontSize={0.58}
            textAnchor={sideOf(chart, r) === 'RS' ? 'start' : 'end'}
            fill="#231f1a"
          >
            {r + 1}
          </text>
        </g>
      ))}
      {Array.from({ length: width }, (_, c) => (
        <Fragment key={c}>
          {(width <= 30 || c === 0 || (c + 1) % 5 === 0) && (
            <text x={xOf(c + 1) + 0.5} y={height + 0.75} fontSize={0.5} textAnchor="middle" fill="#5b6470">
              {c + 1}
            </text>
          )}
        </Fragment>
      ))}
      {chart.across &&
        [chart.across.before, width - chart.across.after].map((c) => (
          <line
            key={c}
            x1={xOf(c)}
            x2={xOf(c)}
            y1={-0.1}
            y2={height + 0.1}
            stroke="#231f1a"
            strokeWidth={0.09}
          />
        ))}
      {chart.up &&
        [chart.up.setup, height - chart.up.closing].map((r) => (
          <line key={r} x1={0} x2={width} y1={yOf(r)} y2={yOf(r)} stroke="#231f1a" strokeWidth={0.09} />
        ))}
    </svg>
  );
});
