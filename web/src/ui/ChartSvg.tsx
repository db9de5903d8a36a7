import {
  bookOf,
  cordCells,
  drawCord,
  drawStitch,
  isCrossing,
  linesAcross,
  linesUp,
  rowFacts,
  sideOf,
  spanOf,
  stitchId,
  stitchUse,
  type Chart,
  type Shape,
  type Stitch,
} from '@cordelina/core';
import { Fragment, memo, useId } from 'react';
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

const CORD = '#cord';

interface Drawing {
  id: string;
  shapes: readonly Shape[];
  span: number;
  colour?: string;
  mark?: string;
}

/** Each stitch of the chart drawn once; its cells only point to it. Stitches with nothing to draw are left out. */
function drawingsOf(chart: Chart, { plain, colours }: Manner, prefix: string): Map<Stitch, Drawing> {
  const book = bookOf(chart);
  const drawings = new Map<Stitch, Drawing>([[CORD, { id: `${prefix}cord`, shapes: drawCord(), span: 1 }]]);
  for (const { stitch } of stitchUse(chart)) {
    const shapes = drawStitch(stitch, plain, book);
    if (!shapes.length) continue;
    const place = isCrossing(stitch) ? colours[stitchId(stitch)] : undefined;
    const chosen = place === undefined ? undefined : PALETTE[place];
    const id = `${prefix}${drawings.size}`;
    drawings.set(stitch, {
      id,
      shapes,
      span: spanOf(stitch, book),
      colour: chosen?.colour,
      mark: chosen?.mark,
    });
  }
  return drawings;
}

/**
 * A chart as a vector drawing, for print and the words' sheet: cells, rules, repeat frame, row numbers on the
 * side where the row begins, column numbers from the right.
 */
export const ChartSvg = memo(function ChartSvg({
  chart,
  manner,
  label,
  rows: shown = { from: 0, to: chart.rows.length - 1 },
}: {
  chart: Chart;
  manner: Manner;
  label: string;
  /** The rows to draw, from 0, both ends included; all of them unless told otherwise. */
  rows?: { from: number; to: number };
}) {
  const book = bookOf(chart);
  const height = shown.to - shown.from + 1;
  const { width } = chart;
  const cords = manner.cords ? cordCells(chart) : null;
  const margin = { side: 1.5, foot: 1 };
  const xOf = (c: number) => width - c;
  const yOf = (r: number) => shown.to + 1 - r;
  const { inks } = manner;
  const prefix = useId();
  const drawings = drawingsOf(chart, manner, prefix);
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
      {Array.from({ length: height + 1 }, (_, i) => shown.from + i).map((r) => (
        <line
          key={`r${r}`}
          x1={0}
          x2={width}
          y1={yOf(r)}
          y2={yOf(r)}
          stroke={r % 5 && r !== chart.rows.length ? '#c9cbc6' : '#8f948f'}
          strokeWidth={0.035}
        />
      ))}
      <defs>
        {[...drawings.values()].map(({ id, shapes, span, colour, mark }) => (
          <g key={id} id={id}>
            {span > 1 && <rect x={0.03} y={0.03} width={span - 0.06} height={0.94} fill={inks.casing} />}
            <Shapes shapes={shapes} inks={colour ? { ...inks, left: colour, right: colour } : inks} />
            {mark && (
              <text x={0.2} y={0.3} fontSize={0.36} fontWeight={600} textAnchor="middle">
                {mark}
              </text>
            )}
          </g>
        ))}
      </defs>
      {chart.rows
        .slice(shown.from, shown.to + 1)
        .map((row, i) => [row, shown.from + i] as const)
        .map(([row, r]) => (
          <g key={r}>
            {row.map((stitch, i) => {
              const start = rowFacts(row, book).starts[i]!;
              const drawing = drawings.get(stitch === 'k' && cords?.[r]?.[start] ? CORD : stitch);
              if (!drawing) return null;
              return <use key={i} href={`#${drawing.id}`} x={xOf(start + drawing.span)} y={yOf(r + 1)} />;
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
      {linesAcross(chart).map((c) => (
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
      {linesUp(chart)
        .filter((r) => r >= shown.from && r <= shown.to + 1)
        .map((r) => (
          <line key={r} x1={0} x2={width} y1={yOf(r)} y2={yOf(r)} stroke="#231f1a" strokeWidth={0.09} />
        ))}
    </svg>
  );
});
