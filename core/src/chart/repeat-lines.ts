import { counted } from '../values.js';
import { z } from 'zod';
import { wayOf, rowTitle, type HowWorked } from '../construction/index.js';
import { RowPlace, type Bands } from './bands.js';

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

/**
 * The repeat up: `setup` rows once, the rows between `times` times, `closing` rows once. With `end` one more pass is
 * begun and ended before the row of that place (from 0, counted from the bottom as `setup` is).
 */
export const UpSchema = z.strictObject({
  setup: count,
  closing: count,
  times: repeats,
  end: z.int().min(1).optional(),
});
export type Up = z.infer<typeof UpSchema>;

/** No row begins its repeat further off than a chart is wide. */
const FURTHEST = 600;

/**
 * Rows, by their place from 0, whose repeat begins so many stitches later than the others' (earlier where negative):
 * flat, the lines of the repeat step sideways in the row; in the round, the round itself begins there.
 */
export const JogsSchema = z.record(
  RowPlace,
  z
    .int()
    .min(-FURTHEST)
    .max(FURTHEST)
    .refine((j) => j !== 0, 'A row that begins where the others do is not named.'),
);
export type Jogs = Readonly<z.infer<typeof JogsSchema>>;

/** What a chart keeps of its rows by their place: it moves with them, and is put in and taken out with them. */
type ByRow<T> = Readonly<Record<string, T>>;
const BY_ROW = ['jogs', 'bands'] as const;
type ByRowName = (typeof BY_ROW)[number];

/** What is kept of rows by their place, of those that have any. */
export interface Kept {
  jogs?: Jogs;
  bands?: Bands;
}

/** The shifts of all rows, from the bottom, as a chart keeps them. */
export const jogsFrom = (shifts: readonly number[]): Jogs =>
  Object.fromEntries(shifts.flatMap((jog, r) => (jog ? [[String(r), jog] as const] : [])));

/** What of a chart its repeats lie in. */
interface Framed {
  width: number;
  rows: readonly unknown[];
  across: Across | null;
  up: Up | null;
}

/** What of a chart its shifted rows lie in. */
interface Jogged extends Framed, Pick<HowWorked, 'construction'> {
  jogs: Jogs;
}

const inStitches = (n: number) => counted(n, 'stitch');
const inColumns = (n: number) => counted(n, 'column');

/** Why a row cannot begin its repeat so many stitches later; null where it can. */
export function jogFault(chart: Omit<Jogged, 'jogs'>, r: number, jog: number): string | null {
  const { width, rows, across } = chart;
  const shiftsRepeat = wayOf(chart).shifts === 'repeat';
  const whose = shiftsRepeat ? 'its repeat ' : '';
  const cannot = `${rowTitle(chart, r + 1)} cannot begin ${whose}${inStitches(Math.abs(jog))} ${jog > 0 ? 'later' : 'earlier'}: `;
  if (r >= rows.length) return `${cannot}the chart has ${rows.length} rows.`;
  if (shiftsRepeat && !across) return `${cannot}no repeat across is set.`;
  const repeat = across ? width - across.before - across.after : width;
  if (Math.abs(jog) >= repeat)
    return `${cannot}${across ? 'the repeat' : 'the chart'} is ${inColumns(repeat)} wide.`;
  // The other way round is nearer then: a start has one name.
  const nearer = jog > 0 ? jog - repeat : jog + repeat;
  // Where stitches stand beside the repeat, half of it earlier and half of it later are two places.
  const isHalfBack = 2 * jog === -repeat && repeat === width;
  if (!shiftsRepeat && (2 * jog > repeat || 2 * jog < -repeat || isHalfBack))
    return `${cannot}in a ${across ? 'repeat' : 'round'} of ${repeat} that is ${inStitches(Math.abs(nearer))} ${nearer > 0 ? 'later' : 'earlier'}.`;
  if (!across || (!shiftsRepeat && repeat === width)) return null;
  // Flat, the lines step over what stands beyond them; in the round, the start moves over what lies before them.
  const isLeft = jog > 0 === shiftsRepeat;
  const room = isLeft ? across.after : across.before;
  if (Math.abs(jog) <= room) return null;
  return `${cannot}${room === 0 ? 'no column stands' : room === 1 ? 'only 1 column stands' : `only ${room} columns stand`} beyond the repeat at its ${isLeft ? 'left' : 'right'}.`;
}

/** What must hold of the repeats of a chart; the first of these that fails is told. */
export function lineRules(chart: Jogged & { bands: Bands }, most: number): [boolean, string[], string][] {
  const { width, rows, across, up, jogs } = chart;
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
      [
        up.end === undefined || (up.end > up.setup && up.end < rows.length - up.closing),
        ['up', 'end'],
        `The last pass cannot end after row ${up.end}: the repeat is rows ${up.setup + 1}–${rows.length - up.closing}, and its last row would end a whole pass.`,
      ],
    );
  for (const [r, jog] of Object.entries(jogs)) {
    const fault = jogFault(chart, Number(r), jog);
    rules.push([fault === null, ['jogs', r], fault ?? '']);
  }
  for (const r of Object.keys(chart.bands))
    rules.push([
      Number(r) < rows.length,
      ['bands', r],
      `A band stands before a row; the chart has ${rows.length} rows.`,
    ]);
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
  outside: Outside;
  /** What is kept of the rows put in or taken out, by their place among these. */
  kept?: Kept;
}

/**
 * How many of the rows or columns put in or taken out lie before the near line of a repeat, beyond the far one and,
 * of rows, in the part of the repeat that its last pass works. It is asked only where they meet a line.
 */
export type Outside = readonly [near: number, far: number, ended?: number];

/** The places before a line counted from the near end; `outside` of what is put in on the line lie before it. */
function movedLine(line: number, { done, at, count }: Shift, outside: number): number {
  if (done === 'out') return line - overlap(at, count, 0, line);
  return at < line ? line + count : at === line ? line + outside : line;
}

/** The places before the first line. */
const movedNear = (near: number, shift: Shift): number => movedLine(near, shift, shift.outside[0]);

/** The place the last pass ends before. */
const movedEnd = (end: number, shift: Shift): number => movedLine(end, shift, shift.outside[2] ?? 0);

/** The places after the second line, counted from the far end. */
function movedFar(far: number, { done, at, count, among, outside }: Shift): number {
  const line = among - far;
  if (done === 'out') return far - overlap(at, count, line, among);
  return at > line ? far + count : at === line ? far + outside[1] : far;
}

export function movedUp(up: Up | null, shift: Shift): Up | null {
  if (!up) return null;
  const moved = { ...up, setup: movedNear(up.setup, shift), closing: movedFar(up.closing, shift) };
  return up.end === undefined ? moved : { ...moved, end: movedEnd(up.end, shift) };
}

/** The place of a row after rows were put in or taken out; null where it was taken out itself. */
function movedRow(r: number, { done, at, count }: Shift): number | null {
  if (r < at) return r;
  if (done === 'in') return r + count;
  return r < at + count ? null : r - count;
}

/** What is kept of rows `from` up to, not including, `to`, by their place among these. */
export function within<T>(kept: ByRow<T>, from: number, to: number): ByRow<T> {
  const those = Object.entries(kept).filter(([r]) => Number(r) >= from && Number(r) < to);
  return Object.fromEntries(those.map(([r, of]) => [String(Number(r) - from), of]));
}

/** The same of all that is kept by row, without what none of them has. */
export function keptWithin(of: Kept, from: number, to: number): Kept {
  const all = BY_ROW.map((name) => [name, within<unknown>(of[name] ?? {}, from, to)] as const);
  return Object.fromEntries(all.filter(([, kept]) => Object.keys(kept).length));
}

/** What is kept of rows by their place, once rows were put in or taken out; those put in bring their own. */
function movedByRow<T>(kept: ByRow<T>, shift: Shift, own: ByRow<T> = {}): ByRow<T> {
  if (shift.of === 'columns') return kept;
  const put = shift.done === 'in' ? Object.entries(own) : [];
  if (!put.length && !Object.keys(kept).some((r) => movedRow(Number(r), shift) !== Number(r))) return kept;
  const moved = Object.entries(kept).flatMap(([r, of]) => {
    const place = movedRow(Number(r), shift);
    return place === null ? [] : [[String(place), of] as const];
  });
  return Object.fromEntries([...moved, ...put.map(([i, of]) => [String(Number(i) + shift.at), of] as const)]);
}

/** All that a chart keeps by row, once rows were put in or taken out. */
export const movedKept = ({ jogs, bands }: Required<Kept>, shift: Shift): Required<Kept> => ({
  jogs: movedByRow(jogs, shift, shift.kept?.jogs),
  bands: movedByRow(bands, shift, shift.kept?.bands),
});

export function movedAcross(across: Across | null, shift: Shift): Across | null {
  return (
    across && { ...across, before: movedNear(across.before, shift), after: movedFar(across.after, shift) }
  );
}

/** The fields of the repeat whose lines a shift moves: near and far. */
const movedFields = {
  rows: { key: 'up', near: 'setup', far: 'closing', end: 'end' },
  columns: { key: 'across', near: 'before', far: 'after', end: null },
} as const;

const isByRow = (name: string | undefined): name is ByRowName => BY_ROW.some((one) => one === name);

/** The row a setting is kept of; null where it is kept of none. */
export const rowSet = (path: readonly string[]): number | null =>
  isByRow(path[2]) && path[3] !== undefined ? Number(path[3]) : null;

/** The path of a setting after rows or columns were put in or taken out elsewhere; null where it went with them. */
export function movedPath(path: readonly string[], shift: Shift): readonly string[] | null {
  const row = rowSet(path);
  if (row === null || shift.of === 'columns') return path;
  const moved = movedRow(row, shift);
  return moved === null ? null : path.with(3, String(moved));
}

/** A setting of a chart's frame as it is after rows or columns were put in or taken out elsewhere. */
export function movedSetting(path: readonly string[], value: unknown, shift: Shift): unknown {
  const { key, near, far, end } = movedFields[shift.of];
  if (value === null || value === undefined) return value;
  if (isByRow(path[2]) && path.length === 3 && typeof value === 'object')
    return movedByRow(value as ByRow<unknown>, shift);
  if (path[2] !== key) return value;
  if (typeof value === 'number')
    return path[3] === near
      ? movedNear(value, shift)
      : path[3] === far
        ? movedFar(value, shift)
        : path[3] === end
          ? movedEnd(value, shift)
          : value;
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
export function outsideOf(chart: Framed, of: Shift['of'], at: number, count: number): Outside {
  const [near, far] = margins(chart, of);
  const among = of === 'rows' ? chart.rows.length : chart.width;
  const outside = [overlap(at, count, 0, near), overlap(at, count, among - far, among)] as const;
  const end = of === 'rows' ? chart.up?.end : undefined;
  return end === undefined ? outside : [...outside, overlap(at, count, 0, end)];
}

/** The same for rows or columns taken out after a line was set elsewhere: they lie to the lines as these are now. */
export function outsideOnceSet(path: readonly string[], now: unknown, shift: Shift): Outside {
  const { key, near, far, end } = movedFields[shift.of];
  if (shift.done === 'in' || path[2] !== key) return shift.outside;
  const line = (name: string | null): number | null => {
    const value =
      path.length === 3
        ? (now as Record<string, unknown> | null)?.[name ?? '']
        : path[3] === name
          ? now
          : null;
    return typeof value === 'number' ? value : null;
  };
  const { at, count, among, outside } = shift;
  const [before, after, ended] = [line(near), line(far), line(end)];
  const once = [
    before === null ? outside[0] : overlap(at, count, 0, before),
    after === null ? outside[1] : overlap(at, count, among - after, among),
  ] as const;
  const third = ended === null ? outside[2] : overlap(at, count, 0, ended);
  return third === undefined ? once : [...once, third];
}

/** On which side of the lines new rows lie that are put in right on one: outside, where there is an outside. */
export function outsideForNew(chart: Framed, of: Shift['of'], count: number): Outside {
  return [margins(chart, of)[0] ? count : 0, 0];
}

/**
 * The repeat up without an end of its last pass that rows taken out would leave without meaning: nothing of the pass
 * left, it is not begun; all of it left, it is one pass more.
 */
export function withoutEmptyEnd(chart: Framed, at: number, count: number): Up | null {
  const { up, rows } = chart;
  if (up?.end === undefined) return up;
  const [worked, all] = [up.end, rows.length - up.closing].map(
    (to) => to - up.setup - overlap(at, count, up.setup, to),
  ) as [number, number];
  if (worked > 0 && worked < all) return up;
  const { end: _, ...whole } = up;
  return worked > 0 ? { ...whole, times: whole.times + 1 } : whole;
}

/** Whether the whole repeat goes with these rows or columns: it is no repeat any more then. */
export function takesWholeRepeat(chart: Framed, of: Shift['of'], at: number, count: number): boolean {
  if (!(of === 'rows' ? chart.up : chart.across)) return false;
  const [near, far] = margins(chart, of);
  const among = of === 'rows' ? chart.rows.length : chart.width;
  return overlap(at, count, near, among - far) === among - far - near;
}

/** The shifts of rows as a mirror shows them: half a round of nothing but repeat is as far either way, and has one name. */
function mirroredJogs({ jogs, width, across, construction }: Omit<Jogged, 'up' | 'rows'>): Jogs {
  const repeat = across ? width - across.before - across.after : width;
  const shiftsStart = wayOf({ construction }).shifts === 'start';
  const isHalf = (jog: number) => shiftsStart && repeat === width && 2 * jog === repeat;
  return Object.fromEntries(Object.entries(jogs).map(([r, jog]) => [r, isHalf(jog) ? jog : -jog]));
}

/** The repeat across as a mirror shows it. */
function mirroredAcross(across: Across | null): Across | null {
  return across && { ...across, before: across.after, after: across.before };
}

/** The repeats across of a chart, and where its rows begin, as a mirror or the other side of the cloth shows them. */
export const mirroredFrame = (chart: Omit<Jogged, 'up' | 'rows'>): { across: Across | null; jogs: Jogs } => ({
  across: mirroredAcross(chart.across),
  jogs: mirroredJogs(chart),
});

/** The repeats of a chart whose further copies are drawn: its lines frame the first, and the rest stands beyond. */
export const drawnOut = (
  { across, up }: Pick<Framed, 'across' | 'up'>,
  wider: number,
  taller: number,
): Pick<Framed, 'across' | 'up'> => ({
  across: across && { ...across, after: across.after + wider, times: 1, least: 1 },
  up: up && { setup: up.setup, closing: up.closing + taller, times: 1 },
});
