import { ChartSchema, jogOf, jogsFrom, type Chart, type YarnName, type Card } from '@cordelina/core';
import { useMemo } from 'react';
import { SmallCloth } from './SmallCloth.js';

/** So small may a stitch be, so that the eye still finds it, and so large need it be, in pixels. */
const STITCH = { least: 7, most: 15 } as const;
/** A row is lower than its stitches are wide. */
const ROW = 0.74;

/** A piece of the fabric, as a card shows it. */
export function Thumbnail({
  preview,
  width,
  height,
  yarn,
  stitch = STITCH.least,
}: {
  preview: NonNullable<Card['summary']>['preview'];
  width: number;
  height: number;
  yarn?: YarnName;
  /** The least width of a stitch, in pixels: smaller, and more of the cloth shows. */
  stitch?: number;
}) {
  const chart = useMemo(
    () => tile(ChartSchema.parse(preview), width, height, stitch),
    [preview, width, height, stitch],
  );
  return <SmallCloth chart={chart} width={width} height={height} yarn={yarn} />;
}

/** Rows repeated upward until they fill the picture, so that a few rows look like cloth. */
function tile(chart: Chart, width: number, height: number, stitch: number): Chart {
  const wide = Math.max(stitch, Math.min(STITCH.most, width / chart.width));
  const passes = Math.max(1, Math.ceil((height / wide / ROW + 4) / chart.rows.length));
  const rows = Array.from({ length: passes }, () => chart.rows).flat();
  return { ...chart, rows, jogs: jogsFrom(rows.map((_, r) => jogOf(chart, r % chart.rows.length))) };
}
