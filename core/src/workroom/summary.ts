import { checkChart, unmeant } from '../checks/index.js';
import { checkNames } from '../names/check-names.js';
import { cornerOf } from '../chart/corner.js';
import { castOnOf, timesOf } from '../chart/frame.js';
import type { Summary } from '../api/designs.js';
import { asItStands } from '../piece/standing.js';
import type { Chart, Design } from '../chart/schema.js';

const PREVIEW = { columns: 44, rows: 44 };

function previewOf(chart: Chart): Summary['preview'] {
  const { width, rows, own, construction, firstRow, ground, jogs } = cornerOf(chart, PREVIEW);
  return { width, rows, own, construction, firstRow, ground, jogs };
}

export function summarise(design: Design): Summary {
  const chart = design.charts[0]!;
  const findings = design.charts.flatMap((c, i) => [
    ...unmeant(checkChart(asItStands(c, design.piece), design.settings, 'untried')),
    ...checkNames(c, design.settings, design.charts.slice(0, i)),
  ]);
  const level = (wanted: string) => findings.filter((f) => f.level === wanted).length;
  return {
    construction: chart.construction,
    columns: chart.width,
    rows: chart.rows.length,
    castOn: castOnOf(chart),
    repeats: timesOf(chart),
    errors: level('error'),
    cautions: level('caution'),
    yarn: design.settings.cloth.yarn,
    preview: previewOf(chart),
  };
}
