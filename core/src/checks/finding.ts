import { EditError, type Edit } from '../chart/edit.js';
import type { Change } from '../chart/steps.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { workChart, type RowWork } from '../needle/needle.js';
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
  fix?: Omit<Change, 'id'>;
}

/** What a check may look at: the chart and what the needle did with it. */
export interface Knitted {
  chart: Chart;
  book: StitchBook;
  works: readonly RowWork[];
}

/** One rule of the craft that looks at the chart as a whole. */
export type Check = (knitted: Knitted) => Finding[];

/**
 * One rule of the craft that is asked row by row (from 0). It may look at its row, the row below, what the needle
 * did in both, and at the chart's settings: what it finds is remembered by just these.
 */
export type RowCheck = (knitted: Knitted, r: number) => Finding[];

export function knit(chart: Chart): Knitted {
  return { chart, book: bookOf(chart), works: workChart(chart) };
}

export const fixBy = ({ steps }: Edit, label: string): Finding['fix'] => ({ label, steps });

/** The same where the edit may be refused: then there is no mend. */
export function fixIf(edit: () => Edit, label: string): Finding['fix'] {
  try {
    return fixBy(edit(), label);
  } catch (error) {
    if (error instanceof EditError) return undefined;
    throw error;
  }
}

/** "1 stitch", "2 stitches". */
export function counted(n: number, one: string, many = one.endsWith('ch') ? `${one}es` : `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}
