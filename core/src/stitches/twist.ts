import { crossing, type Crossing } from './crossing.js';
import type { Lean, Side, Worked } from './face.js';

/**
 * Two stitches that change places on the needle itself, by the methods of different regions. Which of the two lies in front is
 * worked out by the loops: worked from behind, the second passes under the first; in front of it, over it; and where both are
 * knit together first, the one that the needle enters last lies on top: the second, or through the back loops the first.
 */

export const TWIST_METHODS = ['cable', 'together', 'second-first', 'left-tbl', 'both-tbl'] as const;
export type TwistMethod = (typeof TWIST_METHODS)[number];

/** How two stitches change places: both together and the first again; the second in front of the first, or from behind it. */
export interface TwistWay {
  way: 'together' | 'in-front' | 'from-behind';
  /** Which of the two are worked through the back loop. */
  back: 'none' | 'second' | 'both';
}

/** The ways of a method for the twist that leans right and the one that leans left, as right hands see them. */
export const TWIST_WAYS: Readonly<Record<Exclude<TwistMethod, 'cable'>, Readonly<Record<Lean, TwistWay>>>> = {
  together: {
    right: { way: 'together', back: 'none' },
    left: { way: 'from-behind', back: 'second' },
  },
  'second-first': {
    right: { way: 'in-front', back: 'none' },
    left: { way: 'from-behind', back: 'second' },
  },
  'left-tbl': {
    right: { way: 'in-front', back: 'none' },
    left: { way: 'from-behind', back: 'both' },
  },
  'both-tbl': {
    right: { way: 'in-front', back: 'both' },
    left: { way: 'from-behind', back: 'both' },
  },
};

/**
 * The 1/1 crossing, as the RS shows it, that a method makes of knit stitches. A stitch it works through the back
 * loop is twisted; on the WS the stitch worked second is the one in front. `isMirrored` where the hands work its mirror image.
 */
export function twistOf(method: TwistMethod, lean: Lean, side: Side, isMirrored: boolean): Crossing {
  if (method === 'cable') return crossing(lean, ['k'], ['k']);
  const seen = isMirrored ? (lean === 'left' ? 'right' : 'left') : lean;
  const { back } = TWIST_WAYS[method][seen];
  const [first, second]: [Worked, Worked] = [back === 'both' ? 'ktbl' : 'k', back === 'none' ? 'k' : 'ktbl'];
  // From behind, the second stitch passes under the first; met from the other side it lies over it.
  const secondInFront = (seen === 'right') === (side === 'RS');
  return secondInFront ? crossing(lean, [second], [first]) : crossing(lean, [first], [second]);
}

/** The method whose ways are these; null where none has them. */
export function methodOf(ways: Partial<Record<Lean, TwistWay>>): TwistMethod | null {
  const isLike = (a: TwistWay | undefined, b: TwistWay) => !a || (a.way === b.way && a.back === b.back);
  const methods = TWIST_METHODS.filter((m) => m !== 'cable');
  if (!ways.left && !ways.right) return null;
  return (
    methods.find((m) => isLike(ways.left, TWIST_WAYS[m].left) && isLike(ways.right, TWIST_WAYS[m].right)) ??
    null
  );
}
