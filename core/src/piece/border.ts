import type { Border, GroundCloth } from '../chart/piece-document.js';
import type { Way } from '../construction/index.js';
import type { Stitch } from '../stitches/book.js';
import type { Face } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { CLOTH_KINDS, comesOut, type ClothRow } from '../sizes/cloths.js';
import { endsOf, gapsBetween } from '../sizes/evenly.js';

/** Borders: how many stitches they have, where stitches come and go between them and the parts, and their rows. */

/** A loop where border and parts meet, from the right: its face, and the rope it belongs to (from 0), or -1. */
export interface MeetingLoop {
  face: Face;
  rope: number;
}

/** Ropes narrower than this are not drawn in by a stitch. */
const NARROWEST_ROPE = 3;

/** How many stitches a rope has more than the border below it: about one for four (custom). */
export const growthOfRope = (stitches: number): number =>
  stitches < NARROWEST_ROPE ? 0 : Math.max(1, Math.round(stitches / 5));

/** The loops of each rope, by their places. */
function ropesOf(loops: readonly MeetingLoop[]): number[][] {
  const ropes = new Map<number, number[]>();
  loops.forEach(({ rope }, i) => {
    if (rope >= 0) ropes.set(rope, [...(ropes.get(rope) ?? []), i]);
  });
  return [...ropes.values()];
}

/** The most stitches that may come inside the ropes. */
export const mostInRopes = (loops: readonly MeetingLoop[]): number =>
  ropesOf(loops).reduce((sum, rope) => sum + growthOfRope(rope.length), 0);

const clothOf = ({ kind }: Border): GroundCloth | null =>
  kind === 'runs-on' ? null : kind === 'hem' ? 'stocking' : kind;

/** Whether a border of so many stitches begins and ends as its rib wants. */
export const borderComesOut = (border: Border, stitches: number, way: Way): boolean => {
  const cloth = clothOf(border);
  return cloth === null || comesOut(cloth, stitches, way);
};

/**
 * How many stitches fewer a border has: as asked; or by custom, a rope's fewer below each rope, or as many as plain cloth
 * of the same width wants (`plain`), and of those about that the nearest its rib comes out with.
 */
export function fewerIn(
  border: Border,
  loops: readonly MeetingLoop[],
  plain: number | null,
  way: Way,
): number {
  if (border.changes === 'none') return 0;
  if (border.fewer !== null) return border.fewer;
  const ropes = mostInRopes(loops);
  if (border.kind === 'runs-on') return ropes;
  const wish = border.changes === 'even' && plain !== null ? Math.max(0, loops.length - plain) : ropes;
  for (let by = 0; by <= 4; by++)
    for (const n of [wish + by, wish - by])
      if (n >= 0 && n < loops.length && borderComesOut(border, loops.length - n, way)) return n;
  return wish;
}

/** Places of changes; `isSpread` where they were to lie in the ropes and found no room there. */
export interface Changes {
  places: number[];
  isSpread: boolean;
}

/** Why a row cannot make so many changes, and what could be done. */
export interface TooMany {
  problem: string;
}

/** Every loop that is not chosen yet, with its neighbours not either, in groups of `size` loops side by side. */
const isFree = (
  chosen: readonly boolean[],
  i: number,
  size: number,
  allowed: (i: number) => boolean,
): boolean =>
  Array.from({ length: size }, (_, k) => i + k).every((k) => allowed(k) && !chosen[k]) &&
  !chosen[i - 1] &&
  !chosen[i + size];

/**
 * Places for `n` changes of `size` loops among those allowed, evenly spaced and the same from both ends where that goes;
 * null where there is no room. No change stands right beside another, or at an end.
 */
function placesAmong(
  chosen: boolean[],
  n: number,
  size: number,
  allowed: (i: number) => boolean,
): number[] | null {
  const last = chosen.length - 1;
  const able = (i: number) => i > 0 && i + size - 1 < last && isFree(chosen, i, size, allowed);
  const places: number[] = [];
  const put = (wish: number): boolean => {
    for (let by = 0; by <= last; by++)
      for (const at of [wish - by, wish + by])
        if (able(at)) {
          for (let k = 0; k < size; k++) chosen[at + k] = true;
          places.push(at);
          return true;
        }
    return false;
  };
  const among = chosen.flatMap((_, i) => (allowed(i) ? [i] : []));
  const gaps = gapsBetween(Math.max(0, among.length - n * size), n, 'whole');
  let at = 0;
  const wishes = gaps.slice(0, n).map((gap) => {
    at += gap;
    const wish = among[Math.min(at, among.length - 1)] ?? 0;
    at += size;
    return wish;
  });
  // From both ends towards the middle, so that what is chosen for want of room is alike on both sides.
  for (let i = 0, k = n - 1; i <= k; i++, k--) {
    if (!put(wishes[i]!)) return null;
    if (k > i && !put(last - (wishes[i]! + size - 1)) && !put(wishes[k]!)) return null;
  }
  return places.sort((a, b) => a - b);
}

/** Places inside the ropes for `n` changes of `size` loops, spread over the ropes; at most what each takes. */
function placesInRopes(loops: readonly MeetingLoop[], n: number, size: number): number[] {
  const ropes = ropesOf(loops);
  const rooms = ropes.flatMap((rope, r) => Array<number>(growthOfRope(rope.length)).fill(r));
  const taken = ropes.map(() => 0);
  if (n >= rooms.length) for (const r of rooms) taken[r]!++;
  else {
    const gaps = gapsBetween(rooms.length - n, n, 'whole');
    let at = 0;
    for (const gap of gaps.slice(0, n)) {
      at += gap;
      taken[rooms[at++]!]!++;
    }
  }
  return ropes.flatMap((rope, r) => {
    const of = taken[r]!;
    if (!of) return [];
    const even = gapsBetween(rope.length - of * size, of, 'whole');
    // What cannot lie in the middle of a rope lies on the other side of it beyond the middle of the piece.
    const gaps = r > (ropes.length - 1) / 2 ? even.reverse() : even;
    let at = 0;
    return gaps.slice(0, of).map((gap) => {
      at += gap;
      const place = rope[at]!;
      at += size;
      return place;
    });
  });
}

/**
 * Where `n` stitches are made (`size` 1: the loops that are new) or pairs are worked together (`size` 2: the first loop
 * of each), among the loops where border and parts meet. Evenly spaced; or inside the ropes as far as these take them, and the
 * rest evenly in what lies between; where that finds no room, evenly all along.
 */
export function changesAmong(
  loops: readonly MeetingLoop[],
  n: number,
  size: 1 | 2,
  changes: Border['changes'],
  way: Way,
): Changes | TooMany {
  const room = size === 1 ? Math.floor((loops.length - 1) / 2) : Math.floor(loops.length / 2);
  const what = size === 1 ? 'made between the stitches of the border' : 'worked together in pairs';
  const tooMany = {
    problem: `${n} stitches cannot be ${what} in one row of ${loops.length}: at most ${Math.max(0, room)} can. Give border and parts counts that are nearer.`,
  };
  if (n === 0) return { places: [], isSpread: false };
  if (n > room) return tooMany;
  const inRopes = changes === 'ropes' ? placesByRopes(loops, n, size) : null;
  if (inRopes) return { places: inRopes, isSpread: false };
  const gaps = gapsBetween(loops.length - n * size, n, endsOf(way));
  let at = 0;
  const places = gaps.slice(0, n).map((gap) => {
    at += gap;
    const place = at;
    at += size;
    return place;
  });
  return { places, isSpread: changes === 'ropes' };
}

/** As many changes inside the ropes as these take, and the rest evenly in what lies between, beside no rope; null where there is no room. */
function placesByRopes(loops: readonly MeetingLoop[], n: number, size: 1 | 2): number[] | null {
  const most = Math.min(n, mostInRopes(loops));
  // A single one beside the ropes would stand on one side only: the rope in the middle is left as it is for it.
  const inside = placesInRopes(loops, most - (most > 1 ? (n - most) % 2 : 0), size);
  const rest = n - inside.length;
  if (!rest) return inside;
  const chosen = () => loops.map((_, i) => inside.some((at) => i >= at && i < at + size));
  const isGround = (i: number) => loops[i]!.rope < 0;
  const isBesideRope = (i: number) => (loops[i - 1]?.rope ?? -1) >= 0 || (loops[i + 1]?.rope ?? -1) >= 0;
  const among =
    placesAmong(chosen(), rest, size, (i) => isGround(i) && !isBesideRope(i)) ??
    placesAmong(chosen(), rest, size, isGround);
  return among && [...inside, ...among].sort((a, b) => a - b);
}

/** The end of a piece that a border stands at. */
export type End = 'bottom' | 'top';

/** What a border is called on the sheet. */
export const borderHeading = ({ kind, cord }: Border, end: End): string =>
  kind !== 'hem' ? (end === 'bottom' ? 'Border' : 'Upper border') : end === 'top' && cord ? 'Casing' : 'Hem';

/** Whether a hem ends, below, with a row that joins each stitch to its loop of the cast-on. */
export const isJoinedBelow = ({ kind, join }: Border, end: End): boolean =>
  kind === 'hem' && join === 'joined' && end === 'bottom';

/** How many rows a border has: a hem is as deep twice, with its fold between, and below a row that joins it where it is joined. */
export const borderRows = (border: Border, end: End): number =>
  border.kind === 'hem' ? 2 * border.rows + 1 + (isJoinedBelow(border, end) ? 1 : 0) : border.rows;

/** Stitches between the eyelets of a cord (custom). */
const CORD_EVERY = 6;

/** An eyelet after the beginning of a row and one before its end, each the other's mirror image; as many stitches as before. */
function eyeletsAtEnds(stitches: number): Stitch[] {
  if (stitches < 8) return eyelets(stitches, 1);
  return ['k', 'yo', 'k2tog', ...Array<Stitch>(stitches - 6).fill('k'), 'k2tog', 'yo', 'k'];
}

/** A row of eyelets: two together and a yarn over, in their places evenly spaced; as many stitches as before. */
function eyelets(stitches: number, wish: number): Stitch[] {
  const n = Math.min(wish, Math.floor(stitches / 2));
  if (!n) return Array<Stitch>(stitches).fill('k');
  const gaps = gapsBetween(stitches - 2 * n, n, 'whole');
  return gaps.flatMap((gap, i) => [...Array<Stitch>(gap).fill('k'), ...(i < n ? ['k2tog', 'yo'] : [])]);
}

/**
 * The stitches of one row of a border, from the right.
 *
 * @param r its number, from 0 at the lowest
 * @param faces of the loops where it meets the parts, without those that are made
 */
export function borderCells(
  border: Border,
  r: number,
  faces: readonly Face[],
  row: ClothRow,
  end: End,
): Stitch[] {
  if (border.kind === 'runs-on') return faces.map((face) => (face === 'knit' ? 'k' : 'p'));
  const n = faces.length;
  if (border.kind === 'hem') {
    const fold = border.rows;
    if (r === fold)
      return border.fold === 'ridge'
        ? Array<Stitch>(n).fill('p')
        : eyelets(n, Math.max(1, Math.floor((n - 1) / 2)));
    // The cord runs in the half that is seen, in its middle: below that is the upper one, above the lower.
    const half = Math.ceil((fold + 1) / 2);
    const cord = end === 'bottom' ? fold + half : fold - half;
    if (border.cord && r === cord)
      return border.eyelets === 'ends'
        ? eyeletsAtEnds(n)
        : eyelets(n, Math.max(1, Math.floor(n / CORD_EVERY)));
    return Array<Stitch>(n).fill('k');
  }
  const { cell } = CLOTH_KINDS[border.kind];
  return Array.from({ length: n }, (_, c) => cell(c, row));
}

/** A border's cells with gaps in the columns of the stitches that it has not. */
export function withGaps(cells: readonly Stitch[], columns: readonly boolean[]): Stitch[] {
  let i = 0;
  return columns.map((isThere) => (isThere ? cells[i++]! : NO_STITCH));
}
