import { unmeant } from '../checks/index.js';
import { cornerOf } from '../chart/corner.js';
import { castOnOf, timesOf } from '../chart/frame.js';
import { wayOf } from '../construction/index.js';
import type { Summary } from '../api/designs.js';
import type { Chart, Design } from '../chart/schema.js';
import { findingsIn } from './findings.js';

const PREVIEW = { columns: 44, rows: 44 };

function previewOf(chart: Chart): Summary['preview'] {
  const { width, rows, own, construction, firstRow, ground, jogs, bands } = cornerOf(chart, PREVIEW);
  return { width, rows, own, construction, firstRow, ground, jogs, bands };
}

export function summarise(design: Design): Summary {
  const chart = design.charts[0]!;
  const findings = design.charts.flatMap((c) => unmeant(findingsIn(design, c)));
  const level = (wanted: string) => findings.filter((f) => f.level === wanted).length;
  return {
    construction: chart.construction,
    columns: chart.width,
    rows: chart.rows.length,
    // Loops on the needle, of which a cell may be two.
    castOn: castOnOf(chart) * wayOf(chart).loops,
    repeats: timesOf(chart),
    errors: level('error'),
    cautions: level('caution'),
    yarn: design.settings.cloth.yarn,
    second: design.settings.cloth.second,
    preview: previewOf(chart),
  };
}
