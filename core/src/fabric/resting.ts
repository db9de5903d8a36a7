import { repeatsAcross, repeatsUp } from '../chart/frame.js';
import type { Chart } from '../chart/schema.js';
import { unfold } from '../chart/unfold.js';
import { FLAT, wayOf } from '../construction/index.js';
import { remembered } from '../remember.js';
import { knitFabric } from './fabric.js';
import { extentOf, repeatAcross, wideOver } from './measure.js';
import { settled } from './settle.js';
import { ORDINARY, type Proportions } from './proportions.js';

/**
 * How wide a chart's cloth lies where it has not been knitted yet: the one answer of every room that needs a width and has no swatch
 * to take it from.
 */

/**
 * A width told by the cloth is right to about so much of it, to either side: what yarns, hands and needles leave open where nothing
 * was measured (custom, no source).
 */
export const RIGHT_TO = 0.05;

/** A sample is drawn out to about so many stitches and rows, and has at most so many loops: enough that its middle lies as it would in a larger one. */
const SAMPLE = { columns: 24, rows: 24, loops: 4000 } as const;
/** A panel is measured between so many stitches of its ground. */
const BESIDE = 5;

/** How often so many are needed to come to `enough`. */
const often = (one: number, enough: number): number => Math.max(1, Math.ceil(enough / Math.max(1, one)));

const restingIn = remembered((chart: Chart, slack: number, curl: number, height: number): number | null => {
  const proportions = { slack, curl, height };
  const isRepeated = repeatsAcross(chart);
  const once = unfold(chart, 1, 1).chart;
  const more = isRepeated ? Math.max(1, unfold(chart, 2, 1).chart.width - once.width) : 0;
  const drawn = unfold(
    chart,
    isRepeated ? Math.max(3, often(more, SAMPLE.columns)) : 1,
    repeatsUp(chart) ? often(once.rows.length, SAMPLE.rows) : 1,
  ).chart;
  const rows = drawn.rows.slice(0, Math.max(12, Math.floor(SAMPLE.loops / Math.max(1, drawn.width))));
  // A sample lies flat, with edges: what is worked round lies as wide.
  const construction = wayOf(chart).hasEdges ? chart.construction : FLAT.id;
  const sample = { ...drawn, rows, construction, jogs: {}, bands: {}, across: null, up: null, mirror: null };
  // What repeats at least once more, whether that is marked or not, is measured over its repeat.
  if (isRepeated || 2 * repeatAcross(sample) <= sample.width)
    return extentOf(settled(knitFabric(sample), proportions), proportions)?.wide ?? null;
  const ground = Array<Chart['ground']>(BESIDE).fill(chart.ground);
  const between = {
    ...sample,
    width: sample.width + 2 * BESIDE,
    rows: rows.map((row) => [...ground, ...row, ...ground]),
  };
  return wideOver(settled(knitFabric(between), proportions), { from: BESIDE, to: BESIDE + sample.width });
});

/**
 * How wide the cloth of a chart lies, in widths of plain stitches of its yarn: 0.8 where it draws in by a fifth. Over a repeat of it where
 * it has one across, else over all of it, between stitches of its ground. Null where it has too few stitches.
 */
export const restingWidth = (chart: Chart, { slack, curl, height }: Proportions = ORDINARY): number | null =>
  restingIn(chart, slack, curl, height);
