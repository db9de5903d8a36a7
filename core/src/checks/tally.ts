import type { Found } from './finding.js';

/** A chart may be told so many things at once; past that, only how many more there are. */
export const MOST_FINDINGS = 1000;

/** So many of a row are kept; where there are more they are only counted, and found again when they are told. */
const KEPT_OF_A_ROW = 24;

const LEVELS = { error: 0, caution: 1, note: 2 } as const;

/** Errors first, then from the bottom row up. */
const inOrder = (a: Pick<Found, 'level' | 'row'>, b: Pick<Found, 'level' | 'row'>): number =>
  LEVELS[a.level] - LEVELS[b.level] || (a.row ?? 0) - (b.row ?? 0);

/** Findings of one level in one row; without a list where they are many, and only counted. */
export interface Sheaf extends Pick<Found, 'level' | 'row'> {
  count: number;
  found: readonly Found[] | null;
}

const NONE: readonly Sheaf[] = [];

/** The findings of a row, by their level and the row they are told of; those of more than `most` are only counted. */
export function sheavesOf(found: readonly Found[], most = KEPT_OF_A_ROW): readonly Sheaf[] {
  if (!found.length) return NONE;
  const sheaves: (Sheaf & { found: Found[] })[] = [];
  for (const one of found) {
    const own = sheaves.find((s) => s.level === one.level && s.row === one.row);
    if (own) own.found.push(one);
    else sheaves.push({ level: one.level, row: one.row, count: 0, found: [one] });
  }
  return sheaves.map(({ found: own, ...sheaf }) => ({
    ...sheaf,
    count: own.length,
    found: own.length > most ? null : own,
  }));
}

/** Those of a row's findings that a sheaf counts. */
export const ofSheaf = (found: readonly Found[], { level, row }: Sheaf): readonly Found[] =>
  found.filter((one) => one.level === level && one.row === row);

/** The first findings of many, in order, and how many there are in all. */
export interface Tally {
  first: readonly Found[];
  count: number;
}

/** Of however many findings, those that would be told first; the others are let go of as they come. */
export function firstOf(findings: Iterable<Found>): Tally {
  let first: Found[] = [];
  let count = 0;
  const cut = () => (first = first.sort(inOrder).slice(0, MOST_FINDINGS + 1));
  for (const found of findings) {
    count++;
    if (first.push(found) > 4 * MOST_FINDINGS) cut();
  }
  return { first: cut(), count };
}

/** Something to be told at its place in the order: findings, or a way to find them. */
export interface ToTell extends Pick<Found, 'level' | 'row'> {
  count: number;
  found: () => readonly Found[];
}

/** The findings that are told, and of those left out the level of the first and the number. */
export function toldOf(all: ToTell[]): { told: Found[]; more: number; level: Found['level'] } {
  const told: Found[] = [];
  let more = 0;
  let level: Found['level'] = 'note';
  for (const one of all.sort(inOrder)) {
    const room = Math.max(0, MOST_FINDINGS - told.length);
    const some = room ? one.found().slice(0, room) : [];
    told.push(...some);
    if (one.count === some.length) continue;
    if (!more) ({ level } = one);
    more += one.count - some.length;
  }
  return { told, more, level };
}
