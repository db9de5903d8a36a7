import { bookOf, type Chart, type Hand, type Settings } from '../chart/schema.js';
import { isCrossing, kindOf, type Stitch, type StitchBook } from '../stitches/book.js';
import type { Crossing } from '../stitches/crossing.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH, type StitchKind } from '../stitches/kinds.js';
import { nameOf, type Naming } from '../names/schools.js';
import { cableMoves, movesText } from './moves.js';

/** Who works the words and how crossings are named in them. */
export interface Diction {
  naming: Naming;
  hand: Hand;
  book: StitchBook;
  /** Words found so far, by side. */
  words: Record<Side, Map<Stitch, string>>;
}

/** Whether rows are met from the other end than a right-handed knitter meets them. */
export function readsLeftwards(side: Side, hand: Hand): boolean {
  return (side === 'RS') !== (hand === 'left-same-fabric');
}

/** Stitches of a row, from the right, put in the order the hands meet them; gaps are not worked. */
export function workingOrder(stitches: readonly Stitch[], side: Side, hand: Hand): Stitch[] {
  const worked = stitches.filter((s) => s !== NO_STITCH);
  return readsLeftwards(side, hand) ? worked : worked.reverse();
}

/** The kind whose word and steps the knitter follows: a left-handed one works each stitch's mirror image. */
export function kindInHand(kind: StitchKind, { hand, book }: Diction): StitchKind {
  return hand === 'left-same-fabric' ? kindOf(kind.mirror, book) : kind;
}

export function crossingSteps(c: Crossing, side: Side, hand: Hand): string {
  return movesText(cableMoves(c, side, hand));
}

/** The word of a stitch on a side; `#` where its run is counted. */
export function wordOf(stitch: Stitch, side: Side, diction: Diction): string {
  const known = diction.words[side];
  let word = known.get(stitch);
  if (word === undefined) known.set(stitch, (word = findWord(stitch, side, diction)));
  return word;
}

function findWord(stitch: Stitch, side: Side, diction: Diction): string {
  if (isCrossing(stitch))
    return nameOf(stitch, diction.naming) ?? `(${crossingSteps(stitch, side, diction.hand)})`;
  const kind = kindInHand(kindOf(stitch, diction.book), diction);
  return side === 'RS' ? kind.rs : kind.ws;
}

const dictions = new WeakMap<StitchBook, Diction[]>();
const MOST_DICTIONS = 12;

/** The diction of a chart's words; equal settings give the same one, so what is written can be remembered by it. */
export function dictionOf(
  chart: Chart,
  { school, names, hand }: Pick<Settings, 'school' | 'names' | 'hand'>,
): Diction {
  const book = bookOf(chart);
  const known = dictions.get(book) ?? [];
  const sameNames = (n: Naming['names']) => n === names || JSON.stringify(n) === JSON.stringify(names);
  let diction = known.find((d) => d.hand === hand && d.naming.school === school && sameNames(d.naming.names));
  if (!diction) {
    diction = { naming: { school, names }, hand, book, words: { RS: new Map(), WS: new Map() } };
    dictions.set(book, [diction, ...known.slice(0, MOST_DICTIONS - 1)]);
  }
  return diction;
}
