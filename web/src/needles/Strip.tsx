import {
  mirrored,
  seenBehind,
  unfold,
  type Chart,
  type Group,
  type Job,
  type Settings,
  type Side,
} from '@cordelina/core';
import { useMemo } from 'react';
import { ChartPicture } from '../ui/ChartPicture.js';

/** Rows below the one in hand that are shown with it. */
const BELOW = 2;

/** How the strip lies: as the chart is drawn, or as the cloth is turned to the knitter; and whether it is her mirror image. */
function turnedChart(chart: Chart, isBehind: boolean, isMirrored: boolean): Chart {
  const turned = isBehind ? seenBehind(chart) : chart;
  return isMirrored ? mirrored(turned) : turned;
}

/** The row in hand as a strip of the chart, the group that comes next marked in it. */
export function Strip({
  job,
  row,
  side,
  group,
  settings,
  width,
  facing,
}: {
  job: Job;
  /** The row of the job's chart, from 0. */
  row: number;
  side: Side;
  group: Group | undefined;
  settings: Settings;
  /** Room across, in pixels. */
  width: number;
  /** Whether it is shown as the cloth is turned to her. */
  facing: boolean;
}) {
  const drawn = useMemo(() => unfold(job.chart, job.times, 1).chart, [job]);
  const isBehind = facing && side === 'WS';
  const isMirrored = facing && job.diction.hand === 'left-same-words';
  const chart = useMemo(() => turnedChart(drawn, isBehind, isMirrored), [drawn, isBehind, isMirrored]);
  const cell = Math.max(16, Math.min(30, Math.floor(width / Math.min(drawn.width, 14))));
  const room = Math.max(1, Math.min(drawn.width, Math.floor((width - 2) / cell)));
  const isTurned = isBehind !== isMirrored;
  const [from, to] = group
    ? isTurned
      ? [drawn.width - group.to, drawn.width - group.from]
      : [group.from, group.to]
    : [0, 0];
  const middle = Math.floor((from + to) / 2);
  const first = Math.max(0, Math.min(drawn.width - room, middle - Math.floor(room / 2)));
  const last = first + room - 1;
  const columns = useMemo(() => ({ from: first, to: last }), [first, last]);
  const low = Math.max(0, row - BELOW);
  const rows = useMemo(() => ({ from: low, to: row }), [low, row]);
  const lit = group && to > from ? { right: (from - first) * cell, wide: (to - from) * cell } : null;
  return (
    <div className="relative mx-auto w-max overflow-hidden bg-white" data-testid="strip">
      <ChartPicture
        chart={chart}
        settings={settings}
        rows={rows}
        columns={columns}
        cell={cell}
        label={`Row ${row + 1} of the chart, ${facing ? 'as it faces you' : 'as it is charted'}, with the rows below it`}
      />
      <div
        className="pointer-events-none absolute inset-x-0 bottom-0 bg-white/55"
        style={{ top: cell + 1 }}
        aria-hidden
      />
      {lit && (
        <div
          aria-hidden
          className="pointer-events-none absolute top-0 border-[3px] border-[#2b5876]"
          style={{ right: lit.right, width: lit.wide + 1, height: cell + 2 }}
        />
      )}
      {first > 0 && <More side="right" />}
      {last < drawn.width - 1 && <More side="left" />}
    </div>
  );
}

const More = ({ side }: { side: 'left' | 'right' }) => (
  <div
    aria-hidden
    className={`pointer-events-none absolute inset-y-0 w-3 ${side === 'right' ? 'right-0 border-r-2' : 'left-0 border-l-2'} border-dashed border-[#5b6470]`}
  />
);
