import { repeatColumns, repeatsAcross, timesOf } from '../chart/frame.js';
import type { Chart } from '../chart/schema.js';
import { partColumns } from '../piece/told-rows.js';
import { panelRowAt } from '../piece/up.js';
import { rowInHands } from './groups.js';
import { titleOf, type Job } from './job.js';
import type { At } from './place.js';

/** Where something a knitter noticed is in the design. */
export interface InDesign {
  /** As it is told: "M, row 7". */
  where: string;
  /** The chart, its row and column, from 0; null where it is of none of the design's charts. */
  chart: string | null;
  row: number | null;
  column: number | null;
}

/** The column of a chart that a column with its repeats carried out stands for. */
function folded(chart: Chart, row: number, column: number): number {
  if (!repeatsAcross(chart)) return column;
  const { start, end } = repeatColumns(chart, row);
  const period = end - start;
  const wider = (timesOf(chart) - 1) * period;
  if (column < start) return column;
  return column < end + wider ? start + ((column - start) % period) : column - wider;
}

/** Where a place of a job is in its design, by the group that comes next; or by one of the row's columns. */
export function inDesign(job: Job, { row, group }: At, column?: number): InDesign {
  const n = Math.min(row, job.rows.length - 1);
  const { chart, of, name } = job;
  const { section, text } = titleOf(job, n);
  const where = [of ? name : '', section ?? '', text.toLowerCase()].filter(Boolean).join(', ');
  const told = where.charAt(0).toUpperCase() + where.slice(1);
  const at = column ?? rowInHands(job, n).groups[group]?.from ?? 0;
  const { row: r, worked } = job.rows[n]!;
  if (!of) return { where: told, chart: chart.id, row: r, column: folded(chart, r, at) };
  const { made } = of;
  const number = worked - made.below + 1;
  const nowhere = { where: told, chart: null, row: null, column: null };
  if (number < 1 || number > made.body) return nowhere;
  const found = partColumns(made).find(({ from, to }) => at >= from && at < to);
  if (!found?.part.chart || !found.part.going) return nowhere;
  const { part, from } = found;
  const panelRow = panelRowAt(part.going!, number, made.body);
  if (panelRow === null) return nowhere;
  const own = folded(part.chart!, panelRow - 1, at - from);
  const isMirrored = 'isMirrored' in part.part && part.part.isMirrored === true;
  return {
    where: told,
    chart: 'chart' in part.part ? part.part.chart : null,
    row: panelRow - 1,
    column: isMirrored ? part.chart!.width - 1 - own : own,
  };
}
