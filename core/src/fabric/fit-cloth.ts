import { CLOTH_BOUNDS } from '../chart/cloth-settings.js';
import { finished } from '../in-turns.js';
import { sameValue } from '../values.js';
import { restingWidth } from './resting.js';
import { ORDINARY, type Proportions } from './proportions.js';
import type { Chart } from '../chart/schema.js';

/** A chart that a swatch was knitted of, and how wide its cloth lies against plain cloth. */
export interface Sample {
  chart: Chart;
  /** Width of a stitch in it, in widths of a plain stitch of the same yarn and needle. */
  wide: number;
}

export interface FittedCloth {
  proportions: Proportions;
  /** How wide each sample comes out with them. */
  widths: number[];
  /** Why they are not to be used: samples that contradict each other, as one sentence tells. Null where they agree. */
  refused: { samples: readonly number[]; message: string } | null;
}

/** Two samples of one chart, and a sample and what it comes out as, may differ by so much of a plain stitch: more is another yarn, needle or hand, or a slip (custom). */
const APART = { sameChart: 0.06, fitted: 0.1 } as const;

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
  return finished(fittingCloth(samples, height));
}

/** How wide samples lie with some proportions, one after the other. */
export function* widthsOf(
  samples: readonly Pick<Sample, 'chart'>[],
  proportions: Proportions,
): Generator<void, number[]> {
  const widths: number[] = [];
  for (const { chart } of samples) {
    widths.push(restingWidth(chart, proportions) ?? Number.NaN);
    yield;
  }
  return widths;
}

/** The same a sample at a time, so that it can be stopped. */
export function* fittingCloth(
  samples: readonly Sample[],
  height = ORDINARY.height,
): Generator<void, FittedCloth> {
  const widthsWith = (p: Proportions) => widthsOf(samples, p);
  let now: Proportions = { ...ORDINARY, height };
  let widths = yield* widthsWith(now);
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
    const moved: number[][] = [];
    for (const key of ['slack', 'curl'] as const) {
      const step = now[key] + STEP > CLOTH_BOUNDS[key].most ? -STEP : STEP;
      const p = { ...now, [key]: now[key] + step };
      const before = off;
      moved.push(residuals(p, yield* widthsWith(p)).map((r, i) => (r - before[i]!) / step));
    }
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
      const w = yield* widthsWith(p);
      const r = residuals(p, w);
      if (sumOf(r) >= sumOf(off)) continue;
      const gain = sumOf(off) - sumOf(r);
      [now, widths, off] = [p, w, r];
      better = gain > 1e-3;
      damping /= 100;
    }
    if (!better) break;
  }
  return { proportions: now, widths, refused: contradictionIn(samples, widths) };
}

const percent = (wide: number): string => `${Math.round((1 - wide) * 100)} %`;

/** Samples that no one yarn and hand can have made: two of one chart that differ, or one that what fits the others misses by far. */
function contradictionIn(samples: readonly Sample[], widths: readonly number[]): FittedCloth['refused'] {
  for (const [i, one] of samples.entries())
    for (const [j, other] of samples.entries())
      if (j > i && sameValue(one.chart, other.chart) && Math.abs(one.wide - other.wide) > APART.sameChart)
        return {
          samples: [i, j],
          message: `Two swatches of the same chart draw in by ${percent(one.wide)} and by ${percent(other.wide)}: one yarn, needle and hand does not. Measure them again, or fit to one of them.`,
        };
  const off = (i: number) => Math.abs(widths[i]! - samples[i]!.wide);
  const furthest = widths.reduce((most, w, i) => (Number.isFinite(w) && off(i) > off(most) ? i : most), 0);
  if (!(off(furthest) > APART.fitted)) return null;
  return {
    samples: [furthest],
    message: `No yarn and hand gives what was measured: one swatch draws in by ${percent(samples[furthest]!.wide)}, and with what fits best it would by ${percent(widths[furthest]!)}. Measure it again, and see that plain and cabled swatch are of one yarn and needle.`,
  };
}
