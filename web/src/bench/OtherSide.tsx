import { bothCount, linesOf, seenBehind, type Chart, type Settings } from '@cordelina/core';
import { Layers2 } from 'lucide-react';
import { useRef } from 'react';
import { bench } from '../desk/state/bench.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { ChartPicture } from '../ui/ChartPicture.js';

/** Its width at most, in pixels, and that of its cells. */
const WIDE = 244;
const CELL = { least: 4, most: 14 } as const;
const EDGE = 12;

const cellOf = (chart: Chart): number =>
  Math.max(CELL.least, Math.min(CELL.most, Math.floor((WIDE - 2 * EDGE) / chart.width)));

/** The width that the other side of a chart takes beside it, in pixels; 0 where one side counts. */
export const otherSideWidth = (chart: Chart): number =>
  bothCount(chart) ? Math.min(WIDE, chart.width * cellOf(chart) + 2 * EDGE + 1) : 0;

/**
 * The other side of the chart, beside the one that is worked on: it follows each edit, the cursor's stitch is shown in it, and a click
 * turns the cloth over and puts the cursor there.
 */
export function OtherSide({
  own,
  settings,
  after,
}: {
  /** The chart as the design has it. */
  own: Chart;
  settings: Settings;
  /** Gives the keys back to the chart. */
  after: () => void;
}) {
  const dispatch = useAppDispatch();
  const isBehind = useAppSelector((s) => s.bench.isBehind);
  const cursor = useAppSelector((s) => s.bench.cursor);
  const box = useRef<HTMLDivElement>(null);
  const chart = isBehind ? own : seenBehind(own);
  const { width } = chart;
  const height = chart.rows.length;
  const lines = linesOf(chart);
  const cell = cellOf(chart);
  const name = `Side ${isBehind ? 1 : 2}`;
  const turnOver = () => {
    dispatch(bench.turnedOver(!isBehind));
    after();
  };
  return (
    <aside
      aria-label={`${name}, the other side`}
      data-testid="other-side"
      className="flex shrink-0 flex-col overflow-hidden border-l border-rule"
      style={{ width: otherSideWidth(own) }}
    >
      <button
        type="button"
        title="Turn the cloth over (J)"
        onClick={turnOver}
        className="flex h-8 shrink-0 items-center gap-1.5 px-3 text-left text-[13px] text-slate hover:bg-wash"
      >
        <Layers2 size={14} aria-hidden /> {name}
      </button>
      <div className="grid min-h-0 flex-1 content-center overflow-auto px-3 pb-8">
        <div
          ref={box}
          className="relative cursor-pointer"
          style={{ width: width * cell + 1, height: lines.count * cell + 1, flexShrink: 0 }}
          onClick={(e) => {
            const { left, top } = box.current!.getBoundingClientRect();
            const column = width - 1 - Math.floor((e.clientX - left) / cell);
            const { row } = lines.at(lines.count - 1 - Math.floor((e.clientY - top) / cell));
            dispatch(bench.turnedOver(!isBehind));
            dispatch(bench.moved({ cell: { row, column } }));
            after();
          }}
        >
          <ChartPicture
            chart={chart}
            settings={settings}
            rows={{ from: 0, to: height - 1 }}
            columns={{ from: 0, to: width - 1 }}
            cell={cell}
            label={`The chart as ${name.toLowerCase()} shows it`}
          />
          {cursor.row < height && cursor.column < width && (
            <span
              aria-hidden
              className="pointer-events-none absolute border-2 border-woad outline outline-chalk"
              style={{
                left: cursor.column * cell - 1,
                top: (lines.count - 1 - lines.of(cursor.row)) * cell - 1,
                width: cell + 3,
                height: cell + 3,
              }}
            />
          )}
        </div>
      </div>
    </aside>
  );
}
