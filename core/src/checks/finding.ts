import { EditError, type Edit } from '../chart/edit.js';
import type { Meant } from '../chart/meant.js';
import type { Rules } from '../chart/rules.js';
import type { Change } from '../chart/steps.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { workChart, type RowWork } from '../needle/needle.js';
import { ropedOf, type Roped } from '../ropes/roped.js';
import type { StitchBook } from '../stitches/book.js';

/** One thing the chart should be told. Rows and columns count from 1, bottom and right. */
export interface Finding {
  /** Which check found it: stable, kebab-case. */
  id: string;
  level: 'error' | 'caution' | 'note';
  row?: number;
  columns?: [from: number, to: number];
  message: string;
  /** A mend that can be applied and undone; it becomes a change when it is given an id. */
  fix?: Fix;
  /** Other mends beside it, where what is meant is hers to say. */
  others?: readonly Fix[];
  /** The reason the designer gave for having it so: it is told no more. */
  meant?: string;
}

export type Fix = Omit<Change, 'id'>;

/** How a finding is mended: it is told itself, so that many of a row can share one mend. */
export interface Mend {
  label: string;
  edit: (chart: Chart, found: Told) => Edit;
  /** Whether it is offered beside those before it, and not only in their place. */
  isBesides?: boolean;
}

type Told = Omit<Finding, 'fix' | 'others' | 'meant'>;

/**
 * What a check says. A mend is worked out at the end, on the chart as it then is: what a check finds is remembered
 * longer than its chart.
 */
export type Found = Told & {
  /** One; or several, the likeliest first. */
  mend?: Mend | readonly Mend[];
};

/** What a check may look at: the chart, what the needle and the ropes do in it, where custom draws its lines. */
export interface Knitted {
  chart: Chart;
  book: StitchBook;
  works: readonly RowWork[];
  roped: Roped;
  rules: Rules;
  /** What the design accepts of the checks throughout. */
  meant: Meant;
}

/** One rule of the craft that looks at the chart as a whole. */
export type Check = (knitted: Knitted) => Found[];

/**
 * One rule of the craft that is asked row by row (from 0). It may look at its row, the row below, what the needle
 * did in both, and at the chart's settings: what it finds is remembered by just these.
 */
export type RowCheck = (knitted: Knitted, r: number) => Found[];

export function knit(chart: Chart, rules: Rules, meant: Meant): Knitted {
  return { chart, book: bookOf(chart), works: workChart(chart), roped: ropedOf(chart), rules, meant };
}

/** The mends of a finding that can be done, in their order; those whose edit is refused are left out. */
function* mendsOf({ mend, ...finding }: Found, chart: Chart): Iterable<{ mend: Mend; edit: Edit }> {
  for (const one of mend ? [mend].flat() : []) {
    let edit: Edit | null = null;
    try {
      edit = one.edit(chart, finding);
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
    }
    if (edit?.steps.length) yield { mend: one, edit };
  }
}

/** A finding with its mends: the first that `mends`, and those beside it that do. */
export function finished(
  found: Found,
  chart: Chart,
  mends: ((found: Found, edit: Edit) => boolean) | null,
): Finding {
  const { mend: _, ...finding } = found;
  const fixes: Fix[] = [];
  if (!mends) return finding;
  for (const { mend, edit } of mendsOf(found, chart))
    if ((!fixes.length || mend.isBesides) && mends(found, edit))
      fixes.push({ label: mend.label, steps: edit.steps });
  const [fix, ...others] = fixes;
  return { ...finding, ...(fix && { fix }), ...(others.length && { others }) };
}

/** "1 stitch", "2 stitches". */
export function counted(n: number, one: string, many = one.endsWith('ch') ? `${one}es` : `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}

/** The same of a row of the chart with its repeats drawn out, by what the ropes do in it and the row below. */
export type RopeCheck = RowCheck;

/** One rule of the craft that looks at all ropes of the chart: what it finds is remembered by them and its settings. */
export type RopesCheck = (knitted: Knitted) => Iterable<Found>;
