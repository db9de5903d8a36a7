import { checkChart, unmeant } from '../checks/index.js';
import { checkNames } from '../names/check-names.js';
import { cornerOf } from '../chart/corner.js';
import { castOnOf, timesOf } from '../chart/frame.js';
import type { YarnName } from '../chart/cloth-settings.js';
import { asItStands } from '../piece/standing.js';
import type { Chart, Design } from '../chart/schema.js';

const PREVIEW = { columns: 44, rows: 44 };

/** What a card in the workroom shows of a design. */
export interface Summary {
  construction: Chart['construction'];
  columns: number;
  rows: number;
  castOn: number;
  repeats: number;
  errors: number;
  cautions: number;
  /** The lower right corner of the first chart, to be drawn small. */
  /** The yarn its cloth is shown in. */
  yarn: YarnName;
  preview: Pick<Chart, 'width' | 'rows' | 'own' | 'construction' | 'firstRow' | 'ground' | 'jogs'>;
}

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
