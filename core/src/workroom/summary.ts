import { unmeant } from '../checks/index.js';
import { cornerOf } from '../chart/corner.js';
import { castOnOf, timesOf } from '../chart/frame.js';
import { wayOf } from '../construction/index.js';
import { SUMMARY_FORM, type Summary } from '../api/designs.js';
import { rowUse } from '../chart/rows.js';
import { bookOf, type Chart, type Design } from '../chart/schema.js';
import { nameOf, namingOf } from '../names/schools.js';
import { isCrossing } from '../stitches/book.js';
import { cutText } from '../values.js';
import { findingsIn } from './findings.js';

const PREVIEW = { columns: 44, rows: 44 };

function previewOf(chart: Chart): Summary['preview'] {
  const { width, rows, own, construction, firstRow, ground, jogs, bands } = cornerOf(chart, PREVIEW);
  return { width, rows, own, construction, firstRow, ground, jogs, bands };
}

/** So many words of stitches, and characters of what it says, are enough to find a design by. */
const MOST_STITCHES = 200;
const MOST_SAID = 4000;

/** The words of all stitches a chart is worked with, from both sides where they differ. */
function stitchWords(chart: Chart, design: Design): string[] {
  const book = bookOf(chart);
  const naming = namingOf(design.settings, chart);
  const words = new Set<string>();
  for (const row of chart.rows)
    rowUse(row).forEach((_, stitch) => {
      const kind = isCrossing(stitch) ? null : book.kind(stitch);
      for (const side of ['RS', 'WS'] as const) {
        const word = isCrossing(stitch)
          ? nameOf(stitch, naming, side)
          : (kind && (side === 'RS' ? kind.rs : kind.ws)) || null;
        if (word) words.add(word.replace('#', ''));
      }
      if (kind) words.add(kind.name);
    });
  return [...words];
}

/** What a design says of itself besides its rows. */
const saidBy = ({ notes, sheet, charts }: Design): string =>
  cutText(
    [...charts.map((c) => c.name), sheet.by, sheet.materials, notes].filter(Boolean).join('\n'),
    MOST_SAID,
  );

export function summarise(design: Design): Summary {
  const chart = design.charts[0]!;
  const findings = design.charts.flatMap((c) => unmeant(findingsIn(design, c)));
  const level = (wanted: string) => findings.filter((f) => f.level === wanted).length;
  return {
    form: SUMMARY_FORM,
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
    tags: [...design.tags],
    stitches: [...new Set(design.charts.flatMap((c) => stitchWords(c, design)))].slice(0, MOST_STITCHES),
    said: saidBy(design),
    preview: previewOf(chart),
  };
}
