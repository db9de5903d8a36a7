import { TOKENS, type Plait, type Unfolded } from '@cordelina/core';
import { line } from 'd3-shape';
import { rowTop, type Layout } from './geometry.js';

const WIDTH = 12;
const MIDDLE = WIDTH / 2;

/** The rhythm of a plait beside the rows: a dot at each row that crosses, a wavy stretch where the distance is another. */
export function RhythmStrip({ plait, view, layout }: { plait: Plait; view: Unfolded; layout: Layout }) {
  const places = plait.rows.map((row) => ({
    row,
    y: rowTop(layout, view.drawnRow(row)) + layout.cell / 2,
  }));
  const { usual } = plait.rhythm;
  const path = line<[number, number]>();
  const stretches = places.slice(1).map(({ row, y }, i) => {
    const below = places[i]!;
    const gap = row - below.row;
    return {
      row,
      gap,
      isUsual: !usual || gap === usual,
      d: path(zigzag(below.y, y, !usual || gap === usual)),
    };
  });
  const told = `Rhythm: crosses in rows ${plait.rows.map((r) => r + 1).join(', ')}${usual ? `; mostly every ${usual} rows` : ''}.`;
  return (
    <svg
      role="img"
      aria-label={told}
      className="charted pointer-events-none absolute top-0 right-0"
      width={WIDTH}
      height={layout.pane.height}
    >
      {stretches.map(({ row, isUsual, d }) => (
        <path
          key={row}
          d={d ?? ''}
          fill="none"
          stroke={isUsual ? TOKENS.slate : TOKENS.madder}
          strokeWidth={isUsual ? 1 : 1.75}
        />
      ))}
      {places.map(({ row, y }) => (
        <circle
          key={row}
          cx={MIDDLE}
          cy={y}
          r={3}
          fill={TOKENS.chalk}
          stroke={TOKENS.peat}
          strokeWidth={1.5}
        />
      ))}
    </svg>
  );
}

/** Straight, or to and fro where the distance is another than the usual one. */
function zigzag(from: number, to: number, isStraight: boolean): [number, number][] {
  if (isStraight)
    return [
      [MIDDLE, from],
      [MIDDLE, to],
    ];
  const steps = Math.max(2, Math.round(Math.abs(to - from) / 6));
  return Array.from({ length: steps + 1 }, (_, i) => [
    MIDDLE + (i === 0 || i === steps ? 0 : i % 2 ? 3 : -3),
    from + ((to - from) * i) / steps,
  ]);
}
