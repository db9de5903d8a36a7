import { spanOfAll, rowFacts } from '../chart/rows.js';
import { withRow } from '../chart/edits.js';
import type { Row } from '../chart/schema.js';
import { isCrossing, spanOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { counted, type RowCheck } from './finding.js';

/** The row without what lies beyond the width; null when a stitch lies across the edge. */
function trimmed(row: Row, width: number, book: StitchBook): Row | null {
  const kept: Stitch[] = [];
  for (const s of row) {
    if (spanOfAll(kept, book) >= width) break;
    kept.push(s);
  }
  return spanOfAll(kept, book) === width ? kept : null;
}

/** Every row fills exactly the chart's columns; a crossing never reaches over the chart's edge. */
export const fillsColumns: RowCheck = ({ chart, book }, r) => {
  const row = chart.rows[r]!;
  const { span, starts } = rowFacts(row, book);
  const { width } = chart;
  if (span === width) return [];
  if (span < width) {
    const short = width - span;
    const filled = [...row, ...Array<Stitch>(short).fill(chart.ground)];
    return [
      {
        id: 'row-short',
        level: 'error',
        row: r + 1,
        columns: [span + 1, width],
        message: `Row ${r + 1} is ${counted(short, 'stitch')} short: it fills ${span} of ${width} columns.`,
        mend: {
          label: `Fill row ${r + 1} with ${counted(short, chart.ground === 'k' ? 'knit stitch' : 'purl stitch')}`,
          edit: (c) => withRow(c, r, filled),
        },
      },
    ];
  }
  const last = row.findIndex((s, i) => starts[i]! + spanOf(s, book) > width);
  const start = starts[last]!;
  if (isCrossing(row[last]!) && start < width)
    return [
      {
        id: 'crossing-over-edge',
        level: 'error',
        row: r + 1,
        columns: [start + 1, width],
        message: `Row ${r + 1}: the crossing from column ${start + 1} reaches ${counted(start + spanOf(row[last], book) - width, 'stitch')} over the edge of the chart.`,
      },
    ];
  const cut = trimmed(row, width, book);
  return [
    {
      id: 'row-long',
      level: 'error',
      row: r + 1,
      columns: [1, width],
      message: `Row ${r + 1} is ${counted(span - width, 'stitch')} too long: it fills ${span} columns where the chart has ${width}.`,
      ...(cut && {
        mend: { label: `Trim row ${r + 1} to ${width} columns`, edit: (c) => withRow(c, r, cut) },
      }),
    },
  ];
};
