import { z } from 'zod';
import { memory } from '../remember.js';
import type { Side } from '../stitches/face.js';
import { DOUBLE, DOUBLE_ROUND } from './double.js';
import { FLAT } from './flat.js';
import { ROUND } from './round.js';
import type { Alike, Way } from './way.js';

export { FLAT, ROUND };
export * from './way.js';

/** The ways of working there are, the usual one first: the only list of them. */
const LIST = [FLAT, ROUND, DOUBLE, DOUBLE_ROUND] as const;

export type WayId = (typeof LIST)[number]['id'];

let ways: readonly Way[] = LIST;

/** All ways, in the order they are offered. */
export const allWays = (): readonly Way[] => ways;

/** Takes a way into the list: for one that is tried before it is put there. */
export function addWay(way: Way): WayId {
  if (!named(way.id)) ways = [...ways, way];
  return way.id as WayId;
}

const named = (id: string): Way | undefined => ways.find((way) => way.id === id);

/** What of a document says how it is worked. */
export const WaySchema = z
  .string()
  .refine((id): id is WayId => named(id) !== undefined, {
    // Nothing that follows from a way can be asked of one there is not.
    abort: true,
    error: ({ input }) =>
      `It is worked in a way that is not known here${typeof input === 'string' ? ` ("${input.slice(0, 40)}")` : ''}; these are: ${ways.map(({ id }) => id).join(', ')}.`,
  })
  .meta({ enum: LIST.map(({ id }) => id) }) as unknown as z.ZodType<WayId, WayId>;

/** The settings that ways have of their own, as fields of a chart. */
export const WayFields = { ...FLAT.settings.shape, ...ROUND.settings.shape, ...DOUBLE.settings.shape };

/** Whether a setting is one of those that a way has. */
export const hasSetting = (id: WayId, setting: keyof typeof WayFields): boolean =>
  setting in named(id)!.settings.shape;

/** Whether both faces of a chart count, so that its sides have numbers: where it says so, or is worked in pairs. */
export const bothCount = (of: { construction: WayId; bothFaces?: boolean }): boolean =>
  saysBothCount(of) || isInPairs(of);

/** Whether stitches are pairs of loops; not where nothing says how it is worked. */
export const isInPairs = ({ construction }: { construction?: WayId | null }): boolean =>
  construction ? named(construction)?.loops === 2 : false;

/** Whether a chart says that both its faces count, where the way does not. */
export const saysBothCount = ({
  construction,
  bothFaces,
}: {
  construction: WayId;
  bothFaces?: boolean;
}): boolean => bothFaces === true && hasSetting(construction, 'bothFaces');

/** Of what tells how it is worked. */
export type HowWorked = { construction: WayId; firstRow: Side };
interface Shifted extends Pick<HowWorked, 'construction'>, Partial<Pick<HowWorked, 'firstRow'>> {
  jogs?: Readonly<Record<string, number>>;
}

/**
 * A way as a chart is worked by it, rows asked for by their place (from 0 at the bottom). Charts whose rows go alike have the
 * very same, so that what is worked out of it can be remembered by it.
 */
export interface WayOf extends Way {
  readonly id: WayId;
  sideAt(r: number): Side;
  /** How many stitches later than the first a row itself begins; 0 where rows begin at their edges. */
  startAt(r: number): number;
  /** How many stitches later than the others a row begins its repeat, or itself. */
  jogAt(r: number): number;
}

const NO_SHIFTS = {};
const hasAny = (jogs: object): boolean => {
  for (const _ in jogs) return true;
  return false;
};
const remember = memory<WayOf>();

/** How something is worked: a chart, a piece, or just the name of a way. */
export function wayOf({ construction, firstRow = 'RS', jogs = NO_SHIFTS }: Shifted): WayOf {
  const way = named(construction);
  if (!way) throw new Error(`No way of working is called ${construction}.`);
  return remember(hasAny(jogs) ? jogs : way, [way, firstRow], () => {
    const jogAt = (r: number) => jogs[r] ?? 0;
    return {
      ...way,
      id: construction,
      sideAt: (r) => way.sideOf(r, firstRow),
      jogAt,
      startAt: way.shifts === 'start' ? jogAt : () => 0,
    };
  });
}

/** The side the row at `index` (from 0, bottom) is worked on. */
export const sideOf = (chart: HowWorked, index: number): Side => wayOf(chart).sideAt(index);

/** Whether rows take turns between the sides, so that words must say which. */
export const takesTurns = ({ rowsToSameSide }: Way): boolean => rowsToSameSide > 1;

/** Whether a row is one of those told together, by its place from 0. */
export const isAmong = (alike: Alike, way: Pick<WayOf, 'sideAt'>, r: number): boolean =>
  'side' in alike ? way.sideAt(r) === alike.side : (r + 1) % 2 === alike.parity;

/** "Row", "Round", as it begins a line. */
export const rowWord = ({ construction }: Pick<HowWorked, 'construction'>): 'Row' | 'Round' =>
  wayOf({ construction }).row === 'round' ? 'Round' : 'Row';

/** "Row 7", "Round 7"; rows count from 1. */
export const rowTitle = (chart: Pick<HowWorked, 'construction'>, row: number): string =>
  `${rowWord(chart)} ${row}`;

/** The way a text calls so, in small letters and single spaces; null where none is. */
export const wayCalled = (text: string): WayId | null =>
  (ways.find(({ worked, called }) => worked === text || called.includes(text))?.id as WayId) ?? null;

/** The usual way that fits what a text tells: what it calls its rows, or that its ends are joined. */
export const wayWith = (told: Partial<Pick<Way, 'row' | 'hasEdges' | 'loops'>>): WayId =>
  ways.find((way) => Object.entries(told).every(([of, is]) => way[of as keyof typeof told] === is))!
    .id as WayId;

/**
 * How a text is worked that does not say so outright: as is wished where its rows are called so and told by sides as they are
 * in that way; else in the usual way in which they are.
 */
export function wayOfRows(
  wished: WayId,
  rows: { areRounds: boolean; areSided: boolean; arePairs: boolean },
): WayId {
  const way = wayOf({ construction: wished });
  const loops = rows.arePairs ? 2 : way.loops;
  if (rows.areRounds)
    return way.row === 'round' && way.loops === loops ? wished : wayWith({ row: 'round', loops });
  const isAsWished = (takesTurns(way) || !rows.areSided) && way.loops === loops;
  return isAsWished ? wished : wayWith({ row: rows.areSided ? 'row' : way.row, loops });
}
