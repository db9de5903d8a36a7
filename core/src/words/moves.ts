import { mirrorCrossing, type Crossing } from '../stitches/crossing.js';
import { otherSide, type Side, type Worked } from '../stitches/face.js';
import type { Hand } from '../chart/schema.js';

/** One thing the hands do in a crossing. Cable needle 2 holds a centre group. */
export type Move =
  { slip: number; needle: 1 | 2; hold: 'front' | 'back' } | { work: readonly Worked[]; from: 'left' | 1 | 2 };

type WorkMove = Extract<Move, { work: unknown }>;

/** Stitches of a group as the knitter of `side` meets and works them. */
function asWorked(group: readonly Worked[], side: Side): Worked[] {
  return side === 'RS' ? [...group] : [...group].reverse().map(otherSide);
}

/**
 * The cable-needle moves of a crossing. The group met first is slipped and held: in front where it passes in
 * front as the knitter sees it, else in back; a centre group is held where the RS has its back. On the WS the
 * stitches are met from the other end, show the other face, and front and back change places.
 *
 * A left-handed knitter who makes the same fabric does what a right-handed one does for its mirror image.
 */
export function cableMoves(c: Crossing, side: Side, hand: Hand = 'right'): Move[] {
  const seen = hand === 'left-same-fabric' ? mirrorCrossing(c) : c;
  const onRs = side === 'RS';
  const frontFirst = (seen.lean === 'left') === onRs;
  const [met, last] = frontFirst ? [seen.front, seen.back] : [seen.back, seen.front];
  const behind = onRs ? 'back' : 'front';
  const ahead = onRs ? 'front' : 'back';
  const moves: Move[] = [{ slip: met.length, needle: 1, hold: frontFirst ? ahead : behind }];
  if (seen.centre.length) moves.push({ slip: seen.centre.length, needle: 2, hold: behind });
  moves.push({ work: asWorked(last, side), from: 'left' });
  if (seen.centre.length) moves.push({ work: asWorked(seen.centre, side), from: 2 });
  moves.push({ work: asWorked(met, side), from: 1 });
  return moves;
}

function runs(work: readonly Worked[]): string[] {
  const out: { worked: Worked; n: number }[] = [];
  for (const w of work) {
    const last = out.at(-1);
    if (last?.worked === w) last.n++;
    else out.push({ worked: w, n: 1 });
  }
  return out.map(({ worked, n }) => `${worked[0]}${n}${worked.length > 1 ? ' tbl' : ''}`);
}

/** A group as it is written: `k2`, or `[k1, p1]` where its stitches differ. */
function workText(work: readonly Worked[]): string {
  const parts = runs(work);
  return parts.length === 1 ? parts[0]! : `[${parts.join(', ')}]`;
}

const NEEDLE = { 1: 'cable needle', 2: 'second cable needle' } as const;

function moveText(move: Move): string {
  if ('slip' in move) return `sl ${move.slip} to ${NEEDLE[move.needle]}, hold in ${move.hold}`;
  const from = move.from === 'left' ? '' : ` from ${NEEDLE[move.from]}`;
  return workText(move.work) + from;
}

/** The full steps in words: "sl 2 to cable needle, hold in front, k2, k2 from cable needle". */
export function movesText(moves: readonly Move[]): string {
  return moves.map(moveText).join(', ');
}

const MOST_LOOSE = 3;

/**
 * How to cross without a cable needle (custom), for groups of up to three stitches and no centre: the loops are
 * put in order on the left needle first. Null where the groups are too large.
 */
export function cablelessText(c: Crossing, side: Side, hand: Hand = 'right'): string | null {
  if (c.centre.length || Math.max(c.front.length, c.back.length) > MOST_LOOSE) return null;
  const moves = cableMoves(c, side, hand);
  const held = moves.find((m) => 'slip' in m)!;
  const [first, second] = moves.filter((m) => 'work' in m) as [WorkMove, WorkMove];
  const total = held.slip + first.work.length;
  const which = first.work.length === 1 ? `stitch ${total}` : `stitches ${held.slip + 1}–${total}`;
  const way = held.hold === 'front' ? 'from behind' : 'from the front';
  return `with the right needle enter ${which} ${way}, slide all ${total} off, catch the ${held.slip} loose in ${held.hold} with the left needle, put the others back beside them, ${workText(first.work)}, ${workText(second.work)}`;
}

/** Ways to work a 1/1 all-knit twist on the RS without a cable needle; they differ by region. */
export const TWIST_TEXT = {
  together: {
    right: 'knit 2 together but leave them on the needle, knit the first again, slip both off',
    left: 'knit the second stitch through its back loop from behind, knit the first through the front, slip both off',
  },
  'second-first': {
    right: 'knit the second stitch in front of the first, knit the first, slip both off',
    left: 'knit the second stitch through its back loop from behind, knit the first through the front, slip both off',
  },
  'both-tbl': {
    right: 'knit 2 together but leave them on the needle, knit the first again, slip both off',
    left: 'knit the second stitch through its back loop from behind, knit the first through its back loop, slip both off',
  },
} as const;
