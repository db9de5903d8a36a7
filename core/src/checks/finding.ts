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
  /** The part of a piece, and the size of it, that it is found in, by their ids. */
  part?: string;
  size?: string;
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

/** What a check may ask of the settings besides the frame of the repeats, how the chart is worked and its own stitches. */
export type Asked = 'ground' | 'bothFaces' | 'part' | 'mirror' | 'rules' | 'meant';

/** What is said of a check. */
export interface About {
  /** The ids of what it tells, and what these are called where they stand together. */
  tells: Readonly<Record<string, string>>;
  /** The gravest level it tells of. */
  level: Finding['level'];
  /** What it asks: its findings are remembered until one of these is another. */
  reads?: readonly Asked[];
}

/**
 * One rule of the craft. It looks at one row (from 0) and what the needle did in it and in the row below; at one row of the ropes,
 * repeats drawn out; at all ropes; or at the chart as a whole. What it finds is remembered by just these and by what it `reads`.
 */
export type Check = About &
  (
    | { scope: 'row' | 'rope-row'; find: (knitted: Knitted, r: number) => Found[] }
    | { scope: 'ropes'; find: (knitted: Knitted) => Iterable<Found> }
    | { scope: 'chart'; find: (knitted: Knitted) => Found[] }
  );
export type CheckOf<S extends Check['scope']> = Extract<Check, { scope: S }>;
export type RowCheck = Extract<Check, { scope: 'row' | 'rope-row' }>;

export const rowCheck = (about: About, find: RowCheck['find']): RowCheck => ({
  ...about,
  scope: 'row',
  find,
});
export const ropeRowCheck = (about: About, find: RowCheck['find']): RowCheck => ({
  ...about,
  scope: 'rope-row',
  find,
});
export const ropesCheck = (about: About, find: CheckOf<'ropes'>['find']): CheckOf<'ropes'> => ({
  ...about,
  scope: 'ropes',
  find,
});
export const chartCheck = (about: About, find: CheckOf<'chart'>['find']): CheckOf<'chart'> => ({
  ...about,
  scope: 'chart',
  find,
});

export function knit(chart: Chart, rules: Rules, meant: Meant): Knitted {
  return { chart, book: bookOf(chart), works: workChart(chart), roped: ropedOf(chart), rules, meant };
}

/** The mends of a finding that can be done, in their order; those whose edit is refused are left out. */
function* mendsToTry({ mend, ...finding }: Found, chart: Chart): Iterable<{ mend: Mend; edit: Edit }> {
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

/** The mends of a finding: the first that `does`, and those beside it that do. */
export function mendsThatDo(
  found: Found,
  chart: Chart,
  does: (found: Found, edit: Edit) => boolean,
): Pick<Finding, 'fix' | 'others'> {
  const fixes: Fix[] = [];
  for (const { mend, edit } of mendsToTry(found, chart))
    if ((!fixes.length || mend.isBesides) && does(found, edit))
      fixes.push({ label: mend.label, steps: edit.steps });
  const [fix, ...others] = fixes;
  return { ...(fix && { fix }), ...(others.length && { others }) };
}
