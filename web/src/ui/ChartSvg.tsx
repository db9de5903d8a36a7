import {
  inksOfMark,
  pictureOf,
  type Chart,
  type Figure,
  type Inks,
  type Mark,
  type Part,
  type Shape,
} from '@cordelina/core';
import { memo, useId } from 'react';
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

/** A mark at its upper left corner, in cells. */
function MarkDrawing({ mark, inks }: { mark: Mark; inks: Inks }) {
  const own = inksOfMark(mark, inks);
  return (
    <>
      {mark.isWhole && <rect x={0.03} y={0.03} width={mark.span - 0.06} height={0.94} fill={inks.casing} />}
      <Shapes shapes={mark.shapes} inks={own.inks} />
      {own.letter && (
        <text x={0.2} y={0.3} fontSize={0.36} fontWeight={600} textAnchor="middle">
          {own.letter}
        </text>
      )}
    </>
  );
}

/** Each mark of the picture drawn once; its cells only point to it. */
function drawingsOf(figures: readonly Figure[], prefix: string): Map<string, { id: string; mark: Mark }> {
  const drawings = new Map<string, { id: string; mark: Mark }>();
  for (const figure of figures)
    if (figure.kind === 'mark' && !drawings.has(figure.mark.key))
      drawings.set(figure.mark.key, { id: `${prefix}${drawings.size}`, mark: figure.mark });
  return drawings;
}

/** Figures of a picture; marks point to where they are drawn once. */
export function Figures({
  figures,
  markOf,
}: {
  figures: readonly Figure[];
  markOf?: (mark: Mark) => string;
}) {
  return figures.map((figure, i) => {
    if (figure.kind === 'mark')
      return markOf && <use key={i} href={`#${markOf(figure.mark)}`} x={figure.x} y={figure.y} />;
    if (figure.kind === 'path')
      return (
        <path
          key={i}
          d={figure.d}
          fill={figure.fill ?? 'none'}
          stroke={figure.stroke ?? 'none'}
          strokeWidth={figure.width}
          strokeLinecap="square"
        />
      );
    return (
      <text
        key={i}
        x={figure.x}
        y={figure.y}
        fontSize={figure.size}
        textAnchor={figure.anchor}
        fill={figure.ink}
      >
        {figure.text}
      </text>
    );
  });
}

/** A chart as a vector drawing, for print and the words' sheet. */
export const ChartSvg = memo(function ChartSvg({
  chart,
  manner,
  label,
  part,
  cell = 18,
  tallest = '230mm',
}: {
  chart: Chart;
  manner: Manner;
  label: string;
  /** The part of it to draw; all of it unless told otherwise. */
  part?: Part;
  /** The size of a cell where there is room for it, in pixels. */
  cell?: number;
  /** The greatest height, that of a printed page. */
  tallest?: string;
}) {
  const prefix = useId();
  const { box, clip, figures } = pictureOf(chart, manner, manner.inks, part);
  const drawings = drawingsOf(figures, prefix);
  return (
    <svg
      className="charted"
      role="img"
      aria-label={label}
      viewBox={`${box.x} ${box.y} ${box.width} ${box.height}`}
      style={{ width: `${box.width * cell}px`, maxWidth: '100%', maxHeight: tallest }}
    >
      <defs>
        {[...drawings.values()].map(({ id, mark }) => (
          <g key={id} id={id}>
            <MarkDrawing mark={mark} inks={manner.inks} />
          </g>
        ))}
      </defs>
      {clip && (
        <clipPath id={`${prefix}clip`}>
          <rect {...clip} />
        </clipPath>
      )}
      <g clipPath={clip && `url(#${prefix}clip)`}>
        <Figures
          figures={figures.filter(({ kind }) => kind !== 'text')}
          markOf={(mark) => drawings.get(mark.key)!.id}
        />
      </g>
      <Figures figures={figures.filter(({ kind }) => kind === 'text')} />
    </svg>
  );
});
