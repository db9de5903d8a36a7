import type { Hand } from '../construction/index.js';
import { TWIST_WAYS, twistOf, type TwistMethod } from '../stitches/twist.js';
import { mirrorCrossing, sameCrossing, type Crossing } from '../stitches/crossing.js';
import { otherSide, type Side, type Worked } from '../stitches/face.js';
import type { Loose, Move, Reorder, Twist } from './pattern.js';
import type { Manner } from './manner.js';
import { movesText } from './render.js';

/** Stitches of a group as the knitter of `side` meets and works them. */
function asWorked(group: readonly Worked[], side: Side): Worked[] {
  return side === 'RS' ? [...group] : [...group].reverse().map(otherSide);
}

/** A left-handed knitter who makes the same fabric does what a right-handed one does for its mirror image. */
const inHand = (c: Crossing, hand: Hand): Crossing => (hand === 'left-same-fabric' ? mirrorCrossing(c) : c);

/**
 * The cable-needle moves of a crossing. The group met first is slipped and held: in front where it passes in
 * front as the knitter sees it, else in back; a centre group is held where the RS has its back, deepest of all.
 * On the WS the stitches are met from the other end, show the other face, and front and back change places.
 */
export function cableMoves(c: Crossing, side: Side, hand: Hand = 'right'): Move[] {
  const seen = inHand(c, hand);
  const onRs = side === 'RS';
  const frontFirst = (seen.lean === 'left') === onRs;
  const [met, last] = frontFirst ? [seen.front, seen.back] : [seen.back, seen.front];
  const behind = onRs ? 'back' : 'front';
  const ahead = onRs ? 'front' : 'back';
  const hold = frontFirst ? ahead : behind;
  const moves: Move[] = [{ slip: met.length, needle: 1, hold, depth: null }];
  if (seen.centre.length) {
    // Behind on the right side is behind the other needle there, and before it where the knitter sees the wrong side.
    const depth = hold === behind ? (onRs ? 'behind' : 'before') : null;
    moves.push({ slip: seen.centre.length, needle: 2, hold: behind, depth });
  }
  moves.push({ work: asWorked(last, side), from: 'left' });
  if (seen.centre.length) moves.push({ work: asWorked(seen.centre, side), from: 2 });
  moves.push({ work: asWorked(met, side), from: 1 });
  return moves;
}

/** The steps of a crossing in words: "sl 2 to cable needle, hold in front, k2, k2 from cable needle". */
export const crossingSteps = (c: Crossing, side: Side, hand: Hand, manner?: Manner): string =>
  movesText(cableMoves(c, side, hand), manner);

const MOST_LOOSE = 3;

/**
 * How to cross without a cable needle (custom), for groups of up to three stitches and no centre: the loops are
 * put in order on the needle they wait on first. Where the group met first passes in front, the others are entered
 * from behind. Null where the groups are too large.
 */
export function reorderOf(c: Crossing, side: Side, hand: Hand = 'right'): Reorder | null {
  if (c.centre.length || Math.max(c.front.length, c.back.length) > MOST_LOOSE) return null;
  const moves = cableMoves(c, side, hand);
  const [held] = moves as [Extract<Move, { slip: number }>];
  const [first, second] = moves.flatMap((m) => ('work' in m ? [m.work] : [])) as [Worked[], Worked[]];
  const slide = held.slip + first.length;
  return {
    type: 'reorder',
    needle: hand === 'left-same-fabric' ? 'left' : 'right',
    enter: { from: held.slip + 1, to: slide },
    way: held.hold === 'front' ? 'behind' : 'front',
    slide,
    pinch: held.slip,
    hold: held.hold,
    first,
    second,
  };
}

/** The crossing that a method makes in these hands. */
export const twistBySide = (method: TwistMethod, lean: 'left' | 'right', side: Side, hand: Hand): Crossing =>
  twistOf(method, lean, side, hand === 'left-same-fabric');

/** A 1/1 crossing without a cable needle, as the method of the design works it; null where it makes another one. */
export function twistBy(method: TwistMethod, c: Crossing, side: Side, hand: Hand): Twist | null {
  if (method === 'cable' || !sameCrossing(c, twistBySide(method, c.lean, side, hand))) return null;
  const seen = inHand(c, hand).lean;
  return { type: 'twist', work: side === 'RS' ? 'k' : 'p', ...TWIST_WAYS[method][seen] };
}

/** Another way than the cable needle, beside it, where the design's settings want one. */
export function looseOf(
  c: Crossing,
  side: Side,
  { cableless }: { cableless: boolean },
  hand: Hand,
): Loose | null {
  return cableless ? reorderOf(c, side, hand) : null;
}
