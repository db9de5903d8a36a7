import { reaches, sceneOf, sideOf, type Chart, type Mark, type Shape } from '@cordelina/core';
import { Fragment, memo, useId } from 'react';
import { PALETTE, TOKENS, type Inks } from './inks.js';
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

interface Drawing {
  id: string;
  mark: Mark;
}

/** Each mark of the chart drawn once; its cells only point to it. */
function drawingsOf(rows: readonly (readonly Mark[])[], prefix: string): Map<string, Drawing> {
  const drawings = new Map<string, Drawing>();
  for (const marks of rows)
    for (const mark of marks)
      if (!drawings.has(mark.key)) drawings.set(mark.key, { id: `${prefix}${drawings.size}`, mark });
  return drawings;
}

/** A mark at its upper left corner, in cells. */
function MarkDrawing({ mark, inks }: { mark: Mark; inks: Inks }) {
  const chosen = mark.colour === null ? undefined : PALETTE[mark.colour];
  return (
    <>
      {mark.isWhole && <rect x={0.03} y={0.03} width={mark.span - 0.06} height={0.94} fill={inks.casing} />}
      <Shapes
        shapes={mark.shapes}
        inks={chosen ? { ...inks, left: chosen.colour, right: chosen.colour } : inks}
      />
      {chosen && (
        <text x={0.2} y={0.3} fontSize={0.36} fontWeight={600} textAnchor="middle">
          {chosen.mark}
        </text>
      )}
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
  rows: shown = { from: 0, to: chart.rows.length - 1 },
}: {
  chart: Chart;
  manner: Manner;
  label: string;
  /** The rows to draw, from 0, both ends included; all of them unless told otherwise. */
  rows?: { from: number; to: number };
}) {
  const height = shown.to - shown.from + 1;
  const { width } = chart;
  const margin = { side: 1.5, foot: 1 };
  const xOf = (c: number) => width - c;
  const yOf = (r: number) => shown.to + 1 - r;
  const { inks } = manner;
  const prefix = useId();
  const scene = sceneOf(chart, manner);
  const numbers = Array.from({ length: height }, (_, i) => shown.from + i);
  const drawings = drawingsOf(numbers.map(scene.row), prefix);
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
          stroke={c % 5 && c !== width ? TOKENS.rule : TOKENS.ruleHeavy}
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
          stroke={r % 5 && r !== chart.rows.length ? TOKENS.rule : TOKENS.ruleHeavy}
          strokeWidth={0.035}
        />
      ))}
      <defs>
        {[...drawings.values()].map(({ id, mark }) => (
          <g key={id} id={id}>
            <MarkDrawing mark={mark} inks={inks} />
          </g>
        ))}
      </defs>
      {numbers.map((r) => (
        <g key={r}>
          {[...scene.row(r)]
            .sort((a, b) => Number(reaches(a)) - Number(reaches(b)))
            .map((mark) => (
              <use
                key={mark.column}
                href={`#${drawings.get(mark.key)!.id}`}
                x={xOf(mark.column + mark.span)}
                y={yOf(r + 1)}
              />
            ))}
          <text
            x={sideOf(chart, r) === 'RS' ? width + 0.25 : -0.25}
            y={yOf(r + 1) + 0.72}
            fontSize={0.58}
            textAnchor={sideOf(chart, r) === 'RS' ? 'start' : 'end'}
            fill={TOKENS.peat}
          >
            {r + 1}
          </text>
        </g>
      ))}
      {Array.from({ length: width }, (_, c) => (
        <Fragment key={c}>
          {(width <= 30 || c === 0 || (c + 1) % 5 === 0) && (
            <text
              x={xOf(c + 1) + 0.5}
              y={height + 0.75}
              fontSize={0.5}
              textAnchor="middle"
              fill={TOKENS.slate}
            >
              {c + 1}
            </text>
          )}
        </Fragment>
      ))}
      {scene.lines.columns.map((c) => (
        <line
          key={c}
          x1={xOf(c)}
          x2={xOf(c)}
          y1={-0.1}
          y2={height + 0.1}
          stroke={TOKENS.peat}
          strokeWidth={0.09}
        />
      ))}
      {scene.lines.rows
        .filter((r) => r >= shown.from && r <= shown.to + 1)
        .map((r) => (
          <line key={r} x1={0} x2={width} y1={yOf(r)} y2={yOf(r)} stroke={TOKENS.peat} strokeWidth={0.09} />
        ))}
    </svg>
  );
});
