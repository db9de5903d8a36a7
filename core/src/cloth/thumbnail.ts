import { jogOf } from '../chart/frame.js';
import { jogsFrom } from '../chart/repeat-lines.js';
import type { Chart } from '../chart/schema.js';

/** So small may a stitch be, so that the eye still finds it, and so large need it be, in pixels. */
const STITCH = { least: 7, most: 15 } as const;
/** A row is lower than its stitches are wide. */
const ROW = 0.74;

/** Wider than this, in pixels, a stitch of a picture that is filled by its middle shows yarn and no cloth. */
const WIDEST = 24;

/** Whether a cloth is wide enough to fill a picture so wide; a narrower one is shown whole. */
export const canFill = (chart: Pick<Chart, 'width'>, width: number): boolean => chart.width * WIDEST >= width;

/**
 * A corner of a chart, its rows repeated upward until they fill a picture of so many pixels: a few rows look like cloth.
 *
 * @param stitch the least width of a stitch: smaller, and more of the cloth shows
 */
export function filling(
  chart: Chart,
  { width, height }: { width: number; height: number },
  stitch: number = STITCH.least,
): Chart {
  const wide = Math.max(stitch, Math.min(STITCH.most, width / chart.width));
  const passes = Math.max(1, Math.ceil((height / wide / ROW + 4) / chart.rows.length));
  const rows = Array.from({ length: passes }, () => chart.rows).flat();
  const high = chart.rows.length;
  const bands = Object.fromEntries(
    rows.flatMap((_, r) => (chart.bands[r % high] ? [[String(r), chart.bands[r % high]!] as const] : [])),
  );
  return { ...chart, rows, bands, jogs: jogsFrom(rows.map((_, r) => jogOf(chart, r % high))) };
}
