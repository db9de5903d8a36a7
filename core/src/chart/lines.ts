import { z } from 'zod';

/**
 * The fields of the repeats, what must hold of them, and how their lines move when rows or columns are put in or
 * taken out. What the repeats mean for the rows is `frame`'s.
 */

const count = z.int().min(0);
const repeats = z.int().min(1);

/**
 * The repeat across, in columns: `before` columns at the right and `after` at the left are worked once, the
 * columns between `times` times; `least` is the smallest number of repeats the pattern may be worked with.
 */
export const AcrossSchema = z.strictObject({
  before: count,
  after: count,
  times: repeats,
  least: repeats.default(1),
});
export type Across = z.infer<typeof AcrossSchema>;

/** The repeat up: `setup` rows once, the rows between `times` times, `closing` rows once. */
export const UpSchema = z.strictObject({ setup: count, closing: count, times: repeats });
export type Up = z.infer<typeof UpSchema>;

/** What of a chart its repeats lie in. */
interface Framed {
  width: number;
  rows: readonly unknown[];
  across: Across | null;
  up: Up | null;
}

/** What must hold of the repeats of a chart; the first of these that fails is told. */
export function lineRules({ width, rows, across, up }: Framed, most: number): [boolean, string[], string][] {
  const rules: [boolean, string[], string][] = [];
  if (across)
    rules.push(
      [
        across.before + across.after < width,
        ['across'],
        `The chart is ${width} columns wide: ${across.before} before and ${across.after} after leave nothing to repeat.`,
      ],
      [
        across.least <= across.times,
        ['across', 'times'],
        `This pattern needs at least ${across.least} repeats; ${across.times} is too few.`,
      ],
      [
        across.times <= most,
        ['across', 'times'],
        `At most ${most} repeats can be worked; ${across.times} is too many.`,
      ],
    );
  if (up)
    rules.push(
      [
        up.setup + up.closing < rows.length,
        ['up'],
        `The chart has ${rows.length} rows: ${up.setup} before and ${up.closing} after leave nothing to repeat.`,
      ],
      [up.times <= most, ['up', 'times'], `At most ${most} repeats can be worked; ${up.times} is too many.`],
    );
  return rules;
}

/** How many of the places from `at` on, `count` long, fall in [from, to). */
export function overlap(at: number, count: number, from: number, to: number): number {
  return Math.max(0, Math.min(at + count, to) - Math.max(at, from));
}

/**
 * Rows or columns put in or taken out, as the lines of a repeat see it. A line keeps its place among the
 * stitches; what is put in right on it lies inside the repeat or outside, as the step says.
 */
export interface Shift {
  of: 'rows' | 'columns';
  done: 'in' | 'out';
  at: number;
  count: number;
  /** Places there were before. */
  among: number;
  outside: readonly [near: number, far: number];
}

/** The places before the first line. */
function movedNear(near: number, { done, at, count, outside }: Shift): number {
  if (done === 'out') return near - overlap(at, count, 0, near);
  return at < near ? near + count : at === near ? near + outside[0] : near;
}

/** The places after the second line, counted from the far end. */
function movedFar(far: number, { done, at, count, among, outside }: Shift): number {
  const line = among - far;
  if (done === 'out') return far - overlap(at, count, line, among);
  return at > line ? far + count : at === line ? far + outside[1] : far;
}

export function movedUp(up: Up | null, shift: Shift): Up | null {
  return up && { ...up, setup: movedNear(up.setup, shift), closing: movedFar(up.closing, shift) };
}

export function movedAcross(across: Across | null, shift: Shift): Across | null {
  return (
    across && { ...across, before: movedNear(across.before, shift), after: movedFar(across.after, shift) }
  );
}

/** The fields of the repeat whose lines a shift moves: near and far. */
const movedFields = {
  rows: { key: 'up', near: 'setup', far: 'closing' },
  columns: { key: 'across', near: 'before', far: 'after' },
} as const;

/** A setting of a chart's frame as it is after rows or columns were put in or taken out elsewhere. */
export function movedSetting(path: readonly string[], value: unknown, shift: Shift): unknown {
  const { key, near, far } = movedFields[shift.of];
  if (path[2] !== key || value === null || value === undefined) return value;
  if (typeof value === 'number')
    return path[3] === near ? movedNear(value, shift) : path[3] === far ? movedFar(value, shift) : value;
  if (path.length > 3 || typeof value !== 'object') return value;
  return shift.of === 'rows' ? movedUp(value as Up, shift) : movedAcross(value as Across, shift);
}

/** The places of a repeat among `among`: those before its first line, and those after its second. */
const margins = ({ across, up }: Framed, of: Shift['of']): [near: number, far: number] =>
  of === 'rows' ? [up?.setup ?? 0, up?.closing ?? 0] : [across?.before ?? 0, across?.after ?? 0];

/**
 * How many of the rows or columns taken out lie before the near and after the far line: what is put back right
 * on a line then finds its side again.
 */
export function outsideOf(chart: Framed, of: Shift['of'], at: number, count: number): [number, number] {
  const [near, far] = margins(chart, of);
  const among = of === 'rows' ? chart.rows.length : chart.width;
  return [overlap(at, count, 0, near), overlap(at, count, among - far, among)];
}

/** The same for rows or columns taken out after a line was set elsewhere: they lie to the lines as these are now. */
export function outsideOnceSet(path: readonly string[], now: unknown, shift: Shift): [number, number] {
  const { key, near, far } = movedFields[shift.of];
  if (shift.done === 'in' || path[2] !== key) return [...shift.outside];
  const line = (name: string): number | null => {
    const value =
      path.length === 3 ? (now as Record<string, unknown> | null)?.[name] : path[3] === name ? now : null;
    return typeof value === 'number' ? value : null;
  };
  const { at, count, among, outside } = shift;
  const [before, after] = [line(near), line(far)];
  return [
    before === null ? outside[0] : overlap(at, count, 0, before),
    after === null ? outside[1] : overlap(at, count, among - after, among),
  ];
}

/** On which side of the lines new rows lie that are put in right on one: outside, where there is an outside. */
export function outsideForNew(chart: Framed, of: Shift['of'], count: number): [number, number] {
  return [margins(chart, of)[0] ? count : 0, 0];
}

/** Whether the whole repeat goes with these rows or columns: it is no repeat any more then. */
export function takesWholeRepeat(chart: Framed, of: Shift['of'], at: number, count: number): boolean {
  if (!(of === 'rows' ? chart.up : chart.across)) return false;
  const [near, far] = margins(chart, of);
  const among = of === 'rows' ? chart.rows.length : chart.width;
  return overlap(at, count, near, among - far) === among - far - near;
}

/** The repeat across as a mirror shows it. */
export function mirroredAcross(across: Across | null): Across | null {
  return across && { ...across, before: across.after, after: across.before };
}
