import { linesOf, type Chart, type Settings } from '@cordelina/core';
import { useRef } from 'react';
import type { Cell } from '../desk/state/bench.js';
import { ChartPicture } from '../ui/ChartPicture.js';

/** The picture of the chart is this wide at most, and so high before it scrolls. */
const WIDE = 240;
/** Beside and below it stand numbers, no nearer to each other than this. */
const GUTTER = 24;
const APART = 15;

/** Every how manieth is numbered where each is so many pixels. */
const numbered = (px: number): number => [1, 2, 5, 10, 20, 50, 100].find((n) => n * px >= APART) ?? 200;
const HIGH = 300;
const CELL = { least: 3, most: 16 } as const;

/** The chart beside its cloth: pointing at a stitch shows its loops, and the other way round. */
export function ClothChart({
  chart,
  settings,
  cell,
  describe,
  onPoint,
  onPick,
  onOpen,
}: {
  chart: Chart;
  settings: Settings;
  cell: Cell | null;
  describe: (cell: Cell) => string;
  onPoint: (cell: Cell | null) => void;
  onPick: (cell: Cell) => void;
  /** Shows the stitch on the bench. */
  onOpen: (cell: Cell) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const { width } = chart;
  const height = chart.rows.length;
  const lines = linesOf(chart);
  const px = Math.max(CELL.least, Math.min(CELL.most, Math.floor(WIDE / width)));
  const cellAt = (e: React.PointerEvent): Cell | null => {
    const { left, top } = box.current!.getBoundingClientRect();
    const column = width - 1 - Math.floor((e.clientX - left) / px);
    const { row } = lines.at(lines.count - 1 - Math.floor((e.clientY - top) / px));
    return row >= 0 && row < height && column >= 0 && column < width ? { row, column } : null;
  };
  const at = cell ?? { row: 0, column: 0 };
  const onKeyDown = (e: React.KeyboardEvent) => {
    const by: Record<string, [number, number]> = {
      ArrowLeft: [0, 1],
      ArrowRight: [0, -1],
      ArrowUp: [1, 0],
      ArrowDown: [-1, 0],
    };
    if (e.key === 'Enter') {
      e.preventDefault();
      onOpen(at);
      return;
    }
    const move = by[e.key];
    if (!move || e.ctrlKey || e.metaKey || e.altKey) return;
    e.preventDefault();
    onPick({
      row: Math.max(0, Math.min(height - 1, at.row + move[0])),
      column: Math.max(0, Math.min(width - 1, at.column + move[1])),
    });
  };
  const every = numbered(px);
  const isNumbered = (n: number) => n === 1 || n % every === 0;
  const rowNumbers = Array.from({ length: lines.count }, (_, line) => ({
    line,
    row: lines.at(line).row + 1,
  })).filter(({ row }) => row > 0 && isNumbered(row));
  const columnNumbers = Array.from({ length: width }, (_, c) => c + 1).filter(isNumbered);
  return (
    <div
      className="relative mt-1.5 overflow-auto border border-rule bg-chalk"
      style={{ maxHeight: HIGH, paddingRight: GUTTER }}
    >
      <div
        ref={box}
        role="application"
        tabIndex={0}
        aria-label={`The chart. Arrows go from stitch to stitch, Enter shows it on the Bench. ${describe(at)}`}
        className="relative cursor-crosshair"
        style={{ width: width * px + 1, height: lines.count * px + 1 }}
        onPointerMove={(e) => onPoint(cellAt(e))}
        onPointerLeave={() => onPoint(null)}
        onClick={(e) => {
          const where = cellAt(e as unknown as React.PointerEvent);
          if (where) onPick(where);
        }}
        onKeyDown={onKeyDown}
      >
        <ChartPicture
          chart={chart}
          settings={settings}
          rows={{ from: 0, to: height - 1 }}
          columns={{ from: 0, to: width - 1 }}
          cell={px}
          label=""
        />
        {cell && cell.row < height && cell.column < width && (
          <span
            aria-hidden
            data-testid="cloth-cell"
            className="pointer-events-none absolute border-2 border-woad outline outline-chalk"
            style={{
              left: (width - 1 - cell.column) * px - 1,
              top: (lines.count - 1 - lines.of(cell.row)) * px - 1,
              width: px + 3,
              height: px + 3,
            }}
          />
        )}
      </div>
      <div
        aria-hidden
        className="relative h-4 text-center font-mono text-[10.5px] text-slate"
        style={{ width: width * px + 1 }}
      >
        {columnNumbers.map((n) => (
          <span key={n} className="absolute top-0 -translate-x-1/2" style={{ left: (width - n + 0.5) * px }}>
            {n}
          </span>
        ))}
        {rowNumbers.map(({ line, row }) => (
          <span
            key={line}
            className="absolute"
            style={{ left: width * px + 5, bottom: 16 + (line + 0.5) * px, transform: 'translateY(50%)' }}
          >
            {row}
          </span>
        ))}
      </div>
    </div>
  );
}
