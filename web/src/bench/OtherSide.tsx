import { bothCount, linesOf, seenBehind, type Chart, type Settings } from '@cordelina/core';
import { Layers2 } from 'lucide-react';
import { useRef } from 'react';
import { bench } from '../desk/state/bench.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { ChartPicture } from '../ui/ChartPicture.js';

/** Beside the chart, its width at most, in pixels; the size of its cells; its edges, and the line with its name. */
const WIDE = 244;
const CELL = { least: 4, most: 14 } as const;
const EDGE = 12;
const HEAD = 32;

/** Where the other side of a chart stands, and what it takes of the room there, in pixels. */
export interface OtherSidePlace {
  under: boolean;
  cell: number;
  width: number;
  height: number;
}

/**
 * Where the other side of a chart stands: under one that is wider than high and leaves so much height, so that chart and words keep their
 * width; else beside it. Null where one side counts.
 *
 * @param spare the height that is left under the chart, in pixels
 */
export function placeOfOtherSide(chart: Chart, spare: number): OtherSidePlace | null {
  if (!bothCount(chart)) return null;
  const lines = linesOf(chart).count;
  const low = Math.floor((spare - HEAD - EDGE - 2) / lines);
  if (chart.width > lines && low >= CELL.least) {
    const cell = Math.min(CELL.most, low);
    return { under: true, cell, width: 0, height: lines * cell + HEAD + EDGE + 2 };
  }
  const cell = Math.max(CELL.least, Math.min(CELL.most, Math.floor((WIDE - 2 * EDGE) / chart.width)));
  return { under: false, cell, width: Math.min(WIDE, chart.width * cell + 2 * EDGE + 1), height: 0 };
}

/**
 * The other side of the chart, beside the one that is worked on or under it: it follows each edit, the cursor's stitch is shown in it,
 * and a click turns the cloth over and puts the cursor there.
 */
export function OtherSide({
  own,
  settings,
  place: { under, cell, width: wide, height: high },
  after,
}: {
  /** The chart as the design has it. */
  own: Chart;
  settings: Settings;
  place: OtherSidePlace;
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
  const name = `Side ${isBehind ? 1 : 2}`;
  const turnOver = () => {
    dispatch(bench.turnedOver(!isBehind));
    after();
  };
  return (
    <aside
      aria-label={`${name}, the other side`}
      data-testid="other-side"
      className={`flex shrink-0 flex-col overflow-hidden border-rule ${under ? 'border-t' : 'border-l'}`}
      style={under ? { height: high } : { width: wide }}
    >
      <button
        type="button"
        title="Turn the cloth over (J)"
        onClick={turnOver}
        className="flex h-8 shrink-0 items-center gap-1.5 px-3 text-left text-[13px] text-slate hover:bg-wash"
      >
        <Layers2 size={14} aria-hidden /> {name}
      </button>
      <div
        className={`grid min-h-0 flex-1 content-center overflow-auto px-3 ${under ? 'justify-center pb-3' : 'pb-8'}`}
      >
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
