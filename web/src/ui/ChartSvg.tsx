import { reaches, sceneOf, sideOf, type Chart, type Mark, type Scene, type Shape } from '@cordelina/core';
import { Fragment, memo, useId } from 'react';
import { PALETTE, TOKENS, type Inks } from './inks.js';
import { bandsOf, type Band, type Manner } from './paint.js';

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
  const { beyond } = scene;
  const numbers = Array.from({ length: height }, (_, i) => shown.from + i);
  const drawings = drawingsOf(numbers.map(scene.row), prefix);
  const [left, right] = [-beyond.left, width + beyond.right];
  const total = right - left;
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`${left - margin.side} -0.1 ${total + 2 * margin.side} ${height + margin.foot + 0.1}`}
      style={{ width: `${(total + 2 * margin.side) * 18}px`, maxWidth: '100%', maxHeight: '230mm' }}
    >
      {bandsOf(
        scene,
        { rows: shown, columns: { from: -beyond.right, to: width + beyond.left - 1 } },
        width,
      ).map((band) => (
        <PaperBand key={band.rows.from} band={band} chart={chart} inks={inks} xOf={xOf} yOf={yOf} />
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
                x={xOf(mark.column + mark.span + scene.startOf(r))}
                y={yOf(r + 1)}
              />
            ))}
          <text
            x={sideOf(chart, r) === 'RS' ? right + 0.25 : left - 0.25}
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
      <path
        d={repeatLines(scene, numbers, xOf, yOf)}
        fill="none"
        stroke={TOKENS.peat}
        strokeWidth={0.09}
        strokeLinecap="square"
      />
      {scene.lines.rows
        .filter((r) => r >= shown.from && r <= shown.to + 1)
        .map((r) => (
          <line
            key={r}
            x1={left}
            x2={right}
            y1={yOf(r)}
            y2={yOf(r)}
            stroke={TOKENS.peat}
            strokeWidth={0.09}
          />
        ))}
    </svg>
  );
});

/** The squared paper under rows that are drawn over the same columns. */
function PaperBand({
  band: { rows, columns },
  chart,
  inks,
  xOf,
  yOf,
}: {
  band: Band;
  chart: Chart;
  inks: Inks;
  xOf: (column: number) => number;
  yOf: (row: number) => number;
}) {
  const [left, right] = [xOf(columns.to + 1), xOf(columns.from)];
  const [top, bottom] = [yOf(rows.to + 1), yOf(rows.from)];
  const inkOf = (at: number, last: number) => (at % 5 && at !== last ? TOKENS.rule : TOKENS.ruleHeavy);
  const upTo = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);
  return (
    <>
      <rect x={left} y={top} width={right - left} height={bottom - top} fill={inks.casing} />
      {upTo(columns.from, columns.to + 1).map((c) => (
        <line
          key={`c${c}`}
          x1={xOf(c)}
          x2={xOf(c)}
          y1={top}
          y2={bottom}
          stroke={inkOf(c, chart.width)}
          strokeWidth={0.035}
        />
      ))}
      {upTo(rows.from, rows.to + 1).map((r) => (
        <line
          key={`r${r}`}
          x1={left}
          x2={right}
          y1={yOf(r)}
          y2={yOf(r)}
          stroke={inkOf(r, chart.rows.length)}
          strokeWidth={0.035}
        />
      ))}
    </>
  );
}

/** The lines of the repeat across through rows, stepping sideways where one begins its repeat elsewhere. */
function repeatLines(
  { lines }: Scene,
  rows: readonly number[],
  xOf: (column: number) => number,
  yOf: (row: number) => number,
): string {
  const [first] = rows;
  return lines
    .columns(first ?? 0)
    .map((_, i) => i)
    .map((i) =>
      rows
        .map((r, k) => {
          const x = xOf(lines.columns(r)[i]!);
          return `${k ? 'L' : 'M'} ${x} ${yOf(r)} L ${x} ${yOf(r + 1)}`;
        })
        .join(' '),
    )
    .join(' ');
}
