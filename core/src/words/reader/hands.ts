import type { Hand } from '../../construction/index.js';
import { kindOf, type Stitch, type StitchBook } from '../../stitches/book.js';
import type { Side } from '../../stitches/face.js';
import type { StitchKind } from '../../stitches/kinds.js';

/**
 * How the reader of words goes along a row, and what a left-handed knitter's words make. It is the reader's own
 * account, told apart from the writer's, so that neither can hide a slip of the other.
 */

/** From which end of the row, as the right side looks, these hands begin. */
const BEGINS: Record<Hand, Record<Side, 'right' | 'left'>> = {
  right: { RS: 'right', WS: 'left' },
  'left-same-words': { RS: 'right', WS: 'left' },
  'left-same-fabric': { RS: 'left', WS: 'right' },
};

/** Places of a row in working order, put from the right as the right side looks; or the other way about. */
export function turned<T>(row: readonly T[], side: Side, hand: Hand): T[] {
  return BEGINS[hand][side] === 'right' ? [...row] : [...row].reverse();
}

/** How far a marker moved on in working order goes to the left as the right side looks; back, or the other way, where negative. */
export const leftwards = (moved: number, side: Side, hand: Hand): number =>
  BEGINS[hand][side] === 'right' ? moved : -moved;

/** Words that say what the hands do: mirrored hands make of each the other. */
const MADE_BY_OTHER_HAND: ReadonlyMap<string, string> = new Map(
  [
    ['k2tog', 'ssk'],
    ['p2tog', 'ssp'],
    ['k3tog', 'sssk'],
    ['p3tog', 'sssp'],
    ['kfb', 'kfbr'],
  ].flatMap(([a, b]) => [
    [a!, b!],
    [b!, a!],
  ]),
);

/** What a stitch's word makes in these hands, as the right side shows it. */
export function madeBy(id: string, hand: Hand, ownMirror: (id: string) => string | undefined): Stitch {
  return hand === 'left-same-fabric' ? (MADE_BY_OTHER_HAND.get(id) ?? ownMirror(id) ?? id) : id;
}

/** Words that say the way an increase leans: these hands work it as others do the one that leans the other way. */
const CALLED_BY_LEAN: ReadonlyMap<string, string> = new Map([
  ['m1l', 'm1r'],
  ['m1r', 'm1l'],
  ['m1lp', 'm1rp'],
  ['m1rp', 'm1lp'],
  ['lli', 'rli'],
  ['rli', 'lli'],
]);

/** The steps that the key must give for the word of a kind on a side, in these hands. */
export function stepsIn(hand: Hand, kind: StitchKind, side: Side, book: StitchBook): string {
  const steps = (k: StitchKind) => (side === 'RS' ? k.rsSteps : k.wsSteps);
  if (hand !== 'left-same-fabric' || kind.group === 'own') return steps(kind);
  const worked = CALLED_BY_LEAN.has(kind.id) ? kindOf(CALLED_BY_LEAN.get(kind.id)!, book) : kind;
  const swap: Record<string, string> = { left: 'right', right: 'left' };
  return steps(worked).replace(/\b(?:left|right)\b/g, (way) => swap[way]!);
}
