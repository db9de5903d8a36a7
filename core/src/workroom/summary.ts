import { checkChart, unmeant } from '../checks/index.js';
import { checkNames } from '../names/check-names.js';
import { EditError } from '../chart/edit.js';
import { copyBlock } from '../chart/edits.js';
import { constructionOf } from '../construction/construction.js';
import { jogsWithin } from '../chart/lines.js';
import { castOnOf, repeatColumns, timesOf } from '../chart/frame.js';
import { unfold } from '../chart/unfold.js';
import type { YarnName } from '../chart/cloth-settings.js';
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

function previewOf(design: Chart): Summary['preview'] {
  // As many repeats as have room, so that the picture shows how they join.
  const { start, end } = repeatColumns(design);
  const room = Math.floor((PREVIEW.columns - design.width) / (end - start)) + 1;
  const { chart } = unfold(design, Math.max(1, Math.min(room, timesOf(design))), 1);
  const { own, construction, firstRow, ground } = chart;
  // Where rounds begin shows only in a picture of whole rounds.
  const isWhole = !constructionOf(chart).hasEdges && chart.width <= PREVIEW.columns;
  const jogs = isWhole ? jogsWithin(chart.jogs, 0, PREVIEW.rows) : {};
  const width = Math.min(chart.width, PREVIEW.columns);
  const top = Math.min(chart.rows.length, PREVIEW.rows) - 1;
  try {
    const rows = copyBlock(chart, { columns: { from: 0, to: width - 1 }, rows: { from: 0, to: top } });
    return { width, rows, own, construction, firstRow, ground, jogs };
  } catch (error) {
    // An increase lies across the cut: show the full width instead.
    if (!(error instanceof EditError)) throw error;
    return {
      width: chart.width,
      rows: chart.rows.slice(0, top + 1),
      own,
      construction,
      firstRow,
      ground,
      jogs,
    };
  }
}

export function summarise(design: Design): Summary {
  const chart = design.charts[0]!;
  const findings = design.charts.flatMap((c, i) => [
    ...unmeant(checkChart(c, design.settings)),
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
