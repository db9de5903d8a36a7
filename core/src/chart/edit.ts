import { cutText } from '../values.js';
import type { Stitch } from '../stitches/book.js';
import { wayOf } from '../construction/index.js';
import { rowSteps, setSteps } from './differences.js';
import { hasJogs } from './frame.js';
import { keptWithin, outsideOf } from './repeat-lines.js';
import { rowFacts } from './rows.js';
import { bookOf, invariants, type Chart, type Row } from './schema.js';
import { applyToChart, type Change, type ColumnsStep, type RowsStep, type Step } from './steps.js';

/** An edit that cannot be done; the message is for the designer and nothing has changed. */
export class EditError extends Error {}

/** What an edit makes of a chart, and the steps that lead there. */
export interface Edit {
  readonly chart: Chart;
  readonly steps: readonly Step[];
  /** The cells it set, in the chart it makes, whether or not they were so before: what was set is the designer's own. */
  readonly laid?: readonly Laid[];
}

/** Cells of a row (from 0), from one column up to, not including, another. */
export interface Laid {
  readonly row: number;
  readonly from: number;
  readonly to: number;
}

export const unchanged = (chart: Chart): Edit => ({ chart, steps: [] });

/** One edit after the other. */
export function andThen(first: Edit, next: (chart: Chart) => Edit): Edit {
  const second = next(first.chart);
  const laid = [...second.steps.reduce(laidAfter, first.laid ?? []), ...(second.laid ?? [])];
  const steps = [...first.steps, ...second.steps];
  return laid.length ? { chart: second.chart, steps, laid } : { chart: second.chart, steps };
}

/** Cells that were set, where they are once rows or columns came or went. */
function laidAfter(laid: readonly Laid[], step: Step): readonly Laid[] {
  if (step.kind !== 'rows' && step.kind !== 'columns') return laid;
  const count = step.kind === 'rows' ? step.rows.length : step.count;
  const moved = (place: number): number =>
    place < step.at ? place : step.done === 'in' ? place + count : Math.max(step.at, place - count);
  return laid.flatMap((one): Laid[] => {
    if (step.kind === 'columns') return [{ ...one, from: moved(one.from), to: moved(one.to) }];
    const isGone = step.done === 'out' && one.row >= step.at && one.row < step.at + count;
    return isGone ? [] : [{ ...one, row: moved(one.row) }];
  });
}

/** An edit that leaves a chart that may be kept. @throws EditError */
export function sound(edit: Edit): Edit {
  const [fault] = invariants(edit.chart);
  if (fault) throw new EditError(fault.message);
  return edit;
}

function apply(chart: Chart, steps: readonly Step[]): Edit {
  return { chart: applyToChart(chart, steps), steps };
}

/** The chart with its rows replaced in their places, and whatever else differs set. @throws EditError */
export function become(chart: Chart, now: Chart): Edit {
  const book = bookOf(chart);
  const settings = setSteps(['charts', chart.id], chart, now, ['rows', 'id', 'width']);
  const steps: Step[] = [...settings];
  now.rows.forEach((row, r) => {
    if (row !== chart.rows[r]) steps.push(...rowSteps(chart.id, r, chart.rows[r]!, row, book));
  });
  return steps.length ? sound({ chart: now, steps }) : unchanged(chart);
}

/** Rows put in so that the first becomes row `at` (from 0); `outside` the repeat where they meet its lines. */
export function putRows(chart: Chart, at: number, rows: readonly Row[], outside: RowsStep['outside']): Edit {
  return apply(chart, [
    { kind: 'rows', done: 'in', chart: chart.id, at, high: chart.rows.length, rows, outside },
  ]);
}

export function takeRows(chart: Chart, at: number, count: number): Edit {
  const high = chart.rows.length;
  const outside = outsideOf(chart, 'rows', at, count);
  const rows = chart.rows.slice(at, at + count);
  const kept = keptWithin(chart, at, at + count);
  return apply(chart, [{ kind: 'rows', done: 'out', chart: chart.id, at, high, rows, outside, ...kept }]);
}

function columnsStep(
  chart: Chart,
  done: 'in' | 'out',
  at: number,
  count: number,
  cells: readonly Row[],
  outside: ColumnsStep['outside'],
): ColumnsStep {
  if (wayOf(chart).shifts === 'start' && hasJogs(chart))
    throw new EditError(
      'Rounds of this chart begin at different columns. Let them all begin together before columns come or go.',
    );
  const book = bookOf(chart);
  const reach = done === 'in' ? at : at + count;
  const short = chart.rows.some((row) => rowFacts(row, book).span < reach);
  return { kind: 'columns', done, chart: chart.id, at, count, wide: chart.width, cells, short, outside };
}

/** Columns put in from `at` leftwards. No stitch may lie across the place. */
export function putColumns(
  chart: Chart,
  at: number,
  count: number,
  cells: readonly Row[],
  outside: ColumnsStep['outside'],
): Edit {
  return apply(chart, [columnsStep(chart, 'in', at, count, cells, outside)]);
}

/** Columns taken out; `cells` are what each row has there. */
export function takeColumns(chart: Chart, at: number, count: number, cells: readonly Row[]): Edit {
  return apply(chart, [columnsStep(chart, 'out', at, count, cells, outsideOf(chart, 'columns', at, count))]);
}

/** The stitches a row has in `count` columns from `at`; fewer where it is too short. No stitch may lie across an end. */
export function cellsIn(row: Row, at: number, count: number, chart: Chart): Stitch[] {
  const book = bookOf(chart);
  const { starts } = rowFacts(row, book);
  return row.filter((_, i) => starts[i]! >= at && starts[i]! < at + count);
}

/** What an edit does to a design, as one change; null when it does nothing. */
export function changeOf(edit: Edit, label: string, id: string): Change | null {
  return edit.steps.length ? { id, label: cutText(label, 200), steps: edit.steps } : null;
}
