import { wayOf } from '../construction/index.js';
import { EditError } from './edit.js';
import { copyBlock } from './edits.js';
import { repeatColumns, timesOf } from './frame.js';
import { within } from './repeat-lines.js';
import type { Chart } from './schema.js';
import { unfold } from './unfold.js';

/**
 * The lower right corner of a chart, at most so many columns and rows of it, with as many of its repeats drawn out as
 * have room: for a picture. A chart that cannot be cut there keeps its width.
 */
export function cornerOf(
  chart: Chart,
  most: { columns: number; rows: number },
  times = timesOf(chart),
  passes = 1,
): Chart {
  const { start, end } = repeatColumns(chart);
  const room = Math.floor((most.columns - chart.width) / (end - start)) + 1;
  const drawn = unfold(chart, Math.max(1, Math.min(room, times)), passes).chart;
  const { rows, construction } = drawn;
  // Where rounds begin shows only in a picture of whole rounds.
  const isWhole = !wayOf({ construction }).hasEdges && drawn.width <= most.columns;
  const width = Math.min(drawn.width, most.columns);
  const top = Math.min(rows.length, most.rows) - 1;
  const corner = {
    ...drawn,
    across: null,
    up: null,
    mirror: null,
    meant: {},
    jogs: isWhole ? within(drawn.jogs, 0, most.rows) : {},
    bands: within(drawn.bands, 0, top + 1),
  };
  try {
    const block = { columns: { from: 0, to: width - 1 }, rows: { from: 0, to: top } };
    return { ...corner, width, rows: copyBlock(drawn, block) };
  } catch (error) {
    // An increase lies across the cut: show the full width instead.
    if (!(error instanceof EditError)) throw error;
    return { ...corner, rows: rows.slice(0, top + 1), jogs: within(drawn.jogs, 0, top + 1) };
  }
}
