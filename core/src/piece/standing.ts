import { chartName } from '../chart/charts.js';
import { cutsAlike } from '../chart/frame.js';
import { mirrorChart } from '../chart/edits.js';
import type { Piece, PiecePart } from '../chart/piece-document.js';
import type { Chart } from '../chart/schema.js';
import { sameStitches } from '../chart/steps.js';
import { wayOf } from '../construction/index.js';
import { remembered } from '../remember.js';

/**
 * Charts as they stand in a piece: mirrored where a part wants that, and charted as the piece is worked, so that their
 * printed rows are the rows that are worked there.
 */

export type ChartPart = Extract<PiecePart, { kind: 'panel' | 'filling' }>;
export const isChartPart = (part: PiecePart): part is ChartPart =>
  part.kind === 'panel' || part.kind === 'filling';

/** What of a piece says how its charts stand. */
export type Stage = Pick<Piece, 'construction' | 'firstRow' | 'parts'>;

/** A chart under the name that words call it by. */
export interface NamedChart {
  chart: Chart;
  name: string;
}

/** The mirror image of a chart; the very same where a mirror shows it as it is. */
const mirrorOf = remembered((chart: Chart): Chart => {
  const mirrored = mirrorChart(chart);
  const isSame =
    mirrored.rows.every((row, r) => sameStitches(row, chart.rows[r]!)) && cutsAlike(mirrored, chart);
  return isSame ? chart : { ...mirrored, id: `${chart.id} mirrored` };
});

const workedAs = remembered(
  (chart: Chart, construction: Chart['construction'], firstRow: Chart['firstRow']): Chart =>
    chart.construction === construction && chart.firstRow === firstRow
      ? chart
      : { ...chart, construction, firstRow },
);

/**
 * A chart as a piece works it. One charted another way is worked as the piece is: its first row is of the side that the first part
 * which works it gives it.
 */
function asWorked(chart: Chart, { construction, firstRow, parts }: Stage): Chart {
  if (chart.construction === construction) return chart;
  const first = parts.find((p): p is ChartPart => isChartPart(p) && p.chart === chart.id);
  const before = first ? first.starts - first.begins : 0;
  return workedAs(chart, construction, wayOf({ construction, firstRow }).sideAt(before));
}

/** The chart a part works, as it works it; null where the design has it no more. */
export function chartOfPart(charts: readonly Chart[], stage: Stage, part: ChartPart): Chart | null {
  const chart = charts.find((c) => c.id === part.chart);
  if (!chart) return null;
  const worked = asWorked(chart, stage);
  return part.isMirrored ? mirrorOf(worked) : worked;
}

/** Whether something that has stitches stands at both sides of a part; in the round it does. */
function isBetween({ parts, construction }: Stage, i: number): boolean {
  if (!wayOf({ construction }).hasEdges) return parts.length > 1;
  const hasStitches = (p: PiecePart) => p.kind !== 'marker';
  return parts.slice(0, i).some(hasStitches) && parts.slice(i + 1).some(hasStitches);
}

const asPanel = remembered((chart: Chart): Chart => ({ ...chart, part: 'panel' }));

/** A chart as the checks should look at it: one that a piece works between other parts has no edges of the piece, wherever it says so itself. */
export function asItStands(chart: Chart, stage: Stage | null): Chart {
  const places = stage?.parts.flatMap((p, i) => (isChartPart(p) && p.chart === chart.id ? [i] : [])) ?? [];
  if (chart.part === 'panel' || !places.length) return chart;
  return places.every((i) => isBetween(stage!, i)) ? asPanel(chart) : chart;
}

/** What the chart of a part is called. */
export function nameOfChart(charts: readonly Chart[], stage: Stage, part: ChartPart): string {
  const chart = charts.find((c) => c.id === part.chart);
  if (!chart) return 'a chart taken out';
  const isMirrored = part.isMirrored && mirrorOf(asWorked(chart, stage)) !== asWorked(chart, stage);
  return `${chartName({ charts }, chart)}${isMirrored ? ' mirrored' : ''}`;
}

/** The charts whose rows are printed for a design: its own in their order, each as it stands in the piece, followed by its mirror image where a part works that. */
export function chartsPrinted(charts: readonly Chart[], stage: Stage | null): NamedChart[] {
  const parts = stage?.parts.filter(isChartPart) ?? [];
  return charts.flatMap((chart): NamedChart[] => {
    const own = {
      chart: stage && parts.some((p) => p.chart === chart.id) ? asWorked(chart, stage) : chart,
      name: chartName({ charts }, chart),
    };
    const mirrored = parts.find((p) => p.chart === chart.id && p.isMirrored);
    const image = mirrored && chartOfPart(charts, stage!, mirrored);
    return image && image !== own.chart
      ? [own, { chart: image, name: nameOfChart(charts, stage!, mirrored) }]
      : [own];
  });
}
