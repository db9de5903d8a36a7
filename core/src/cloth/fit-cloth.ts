import { CLOTH_BOUNDS } from '../chart/cloth-settings.js';
import { knitFabric } from './fabric.js';
import { extentOf } from './measure.js';
import { settled } from './settle.js';
import { ORDINARY, type Proportions } from './springs.js';
import type { Chart } from '../chart/schema.js';

/** A swatch of a chart, drawn out as far as it was knitted, and how wide its cloth lies against plain cloth. */
export interface Sample {
  chart: Chart;
  /** Width of a stitch in it, in widths of a plain stitch of the same yarn and needle. */
  wide: number;
}

export interface FittedCloth {
  proportions: Proportions;
  /** How wide each sample comes out with them. */
  widths: number[];
}

/** How exactly a swatch is measured, and how far yarns differ from the ordinary one (custom). */
const MEASURED = 0.004;
const SPREADS = { slack: 0.25, curl: 0.3 } as const;
const STEP = 0.04;
const MOST_ROUNDS = 8;

const clamp = (n: number, { least, most }: { least: number; most: number }) =>
  Math.max(least, Math.min(most, n));

/**
 * The slack and the curl with which samples come out as they were measured, as near to the ordinary ones as that
 * allows: least squares by Levenberg and Marquardt's method.
 *
 * @param height a plain row's, in widths of its stitch
 */
export function fitCloth(samples: readonly Sample[], height = ORDINARY.height): FittedCloth {
  const fabrics = samples.map(({ chart }) => knitFabric(chart));
  const widthsWith = (p: Proportions) =>
    fabrics.map((fabric) => extentOf(settled(fabric, p), p)?.wide ?? Number.NaN);
  let now: Proportions = { ...ORDINARY, height };
  let widths = widthsWith(now);
  const used = samples.map((_, i) => Number.isFinite(widths[i]));
  const residuals = (p: Proportions, w: readonly number[]) => [
    ...samples.flatMap((s, i) => (used[i] ? [(w[i]! - s.wide) / MEASURED] : [])),
    (p.slack - ORDINARY.slack) / SPREADS.slack,
    (p.curl - ORDINARY.curl) / SPREADS.curl,
  ];
  const sumOf = (r: readonly number[]) => r.reduce((sum, x) => sum + x * x, 0);
  let off = residuals(now, widths);
  let damping = 1e-3;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const moved = (['slack', 'curl'] as const).map((key) => {
      const step = now[key] + STEP > CLOTH_BOUNDS[key].most ? -STEP : STEP;
      const p = { ...now, [key]: now[key] + step };
      return residuals(p, widthsWith(p)).map((r, i) => (r - off[i]!) / step);
    });
    const [s, c] = moved as [number[], number[]];
    const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, x, i) => sum + x * b[i]!, 0);
    const [ss, sc, cc] = [dot(s, s), dot(s, c), dot(c, c)];
    const [sr, cr] = [dot(s, off), dot(c, off)];
    let better = false;
    for (let tries = 0; tries < 4 && !better; tries++, damping *= 10) {
      const [a, d] = [ss * (1 + damping), cc * (1 + damping)];
      const det = a * d - sc * sc;
      const p = {
        ...now,
        slack: clamp(now.slack - (sr * d - cr * sc) / det, CLOTH_BOUNDS.slack),
        curl: clamp(now.curl - (a * cr - sc * sr) / det, CLOTH_BOUNDS.curl),
      };
      const w = widthsWith(p);
      const r = residuals(p, w);
      if (sumOf(r) >= sumOf(off)) continue;
      const gain = sumOf(off) - sumOf(r);
      [now, widths, off] = [p, w, r];
      better = gain > 1e-3;
      damping /= 100;
    }
    if (!better) break;
  }
  return { proportions: now, widths };
}
