import { bookOf, type Chart } from '../chart/schema.js';
import type { Hand } from '../construction/index.js';
import { wayOf, type Way } from '../construction/index.js';
import { ofEach } from '../remember.js';
import { isCrossing, kindOf, type Stitch, type StitchBook } from '../stitches/book.js';
import type { Crossing } from '../stitches/crossing.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH, type StitchKind } from '../stitches/kinds.js';
import { nameOf, namingOf, type NameSettings, type Naming } from '../names/schools.js';
import { cableMoves } from './moves.js';
import type { Item } from './pattern.js';

/** Who works the words and how crossings are named in them. */
export interface Diction {
  way: Way;
  naming: Naming;
  hand: Hand;
  book: StitchBook;
  /** Words and items found so far, by side, and runs of them. */
  words: Record<Side, Map<Stitch, string | null>>;
  items: Record<Side, Map<Stitch, Item>>;
  runs: Map<string, Item[]>;
}

/** Whether these hands begin a row of a side at its right end, as the right side looks. */
export const beginsRight = (side: Side, { way, hand }: Pick<Diction, 'way' | 'hand'>): boolean =>
  way.beginsAt(side, hand) === 'right';

/** Stitches of a row, from the right, put in the order the hands meet them; gaps are not worked. */
export function workingOrder(
  stitches: readonly Stitch[],
  side: Side,
  diction: Pick<Diction, 'way' | 'hand'>,
): Stitch[] {
  const worked = stitches.filter((s) => s !== NO_STITCH);
  return beginsRight(side, diction) ? worked : worked.reverse();
}

/** An increase is called by the way it leans; other stitches by what the hands do. */
const saysLean = ({ group, lean }: StitchKind): boolean => group === 'increase' && lean !== undefined;

/** Left and right of needles and legs change places in the words of a left-handed knitter. */
const otherHand = (text: string): string =>
  text.replace(/\b(left|right)\b/g, (way) => (way === 'left' ? 'right' : 'left'));

/** The word of a stitch on a side, `#` where its run is counted; a left-handed knitter works its mirror image. */
function kindWord(kind: StitchKind, side: Side, { hand, book }: Diction): string {
  const worked = hand === 'left-same-fabric' && !saysLean(kind) ? kindOf(kind.mirror, book) : kind;
  return side === 'RS' ? worked.rs : worked.ws;
}

/** What the hands do for a stitch on a side, in words. */
export function kindSteps(kind: StitchKind, side: Side, { hand, book }: Diction): string {
  const mirrored = hand === 'left-same-fabric';
  const worked = mirrored ? kindOf(kind.mirror, book) : kind;
  const text = side === 'RS' ? worked.rsSteps : worked.wsSteps;
  return mirrored && kind.group !== 'own' ? otherHand(text) : text;
}

/** The word of a stitch on a side; `#` where its run is counted. Null where a crossing is spelled out in the row. */
export function wordOf(stitch: Stitch, side: Side, diction: Diction): string | null {
  const known = diction.words[side];
  let word = known.get(stitch);
  if (word === undefined) {
    word = isCrossing(stitch)
      ? nameOf(stitch, diction.naming, side)
      : kindWord(kindOf(stitch, diction.book), side, diction);
    known.set(stitch, word);
  }
  return word;
}

/** A stitch as an item of a row, without the number of its run; the same object each time, so that items compare. */
export function itemOf(stitch: Stitch, side: Side, diction: Diction): Item {
  const known = diction.items[side];
  let item = known.get(stitch);
  if (!item) {
    const word = wordOf(stitch, side, diction);
    item =
      word === null
        ? { type: 'spelled', moves: cableMoves(stitch as Crossing, side, diction.hand) }
        : { type: 'word', word, spelled: null };
    known.set(stitch, item);
  }
  return item;
}

/** A run of one counted word: k3, sl 2 wyib. */
export function runOf(word: string, n: number, { runs }: Diction): Item {
  let items = runs.get(word);
  if (!items) runs.set(word, (items = []));
  return (items[n] ??= { type: 'word', word: word.replace('#', String(n)), spelled: null });
}

const MOST_DICTIONS = 12;
/** The dictions of a book, the one asked for last first. */
const dictionsOf = ofEach((_book: StitchBook): Diction[] => []);

/** The diction of a chart's words; equal settings give the same one, so what is written can be remembered by it. */
export function dictionOf(chart: Chart, settings: NameSettings & { hand: Hand }): Diction {
  const naming = namingOf(settings, chart);
  const { hand } = settings;
  const { school, names, twist, twistNames, each } = naming;
  const book = bookOf(chart);
  const way = wayOf({ construction: chart.construction });
  const known = dictionsOf(book);
  const sameNames = (n: Naming['names']) => n === names || JSON.stringify(n) === JSON.stringify(names);
  let diction = known.find(
    ({ way: worked, hand: own, naming: n }) =>
      worked === way &&
      own === hand &&
      n.school === school &&
      n.twist === twist &&
      n.twistNames === twistNames &&
      n.each === each &&
      sameNames(n.names),
  );
  if (!diction) {
    diction = {
      way,
      naming,
      hand,
      book,
      words: { RS: new Map(), WS: new Map() },
      items: { RS: new Map(), WS: new Map() },
      runs: new Map(),
    };
    known.unshift(diction);
    known.length = Math.min(known.length, MOST_DICTIONS);
  }
  return diction;
}
