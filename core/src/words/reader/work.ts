import { counted } from '../../values.js';
import type { Stitch } from '../../stitches/book.js';
import { sameCrossing } from '../../stitches/crossing.js';
import type { Hand } from '../../construction/index.js';
import type { Side } from '../../stitches/face.js';
import type { Needle } from '../../needle/loop.js';
import { freshNeedle, fromStart } from '../../needle/needle.js';
import type { Item } from '../pattern.js';
import type { OwnBody } from './order.js';
import { remembered } from '../../remember.js';
import { turned } from './hands.js';
import { Hands, LONG_NEEDLE, RowProblem, sts } from './at-work.js';
import { crossingOfMoves, stitchesNamed, WordProblem, type Lexicon } from './lexicon.js';

/** What a written row works: its stitches in working order, and which of them stand in the star repeat. */
export interface WorkedRow {
  stitches: Stitch[];
  /** Stitches before the star, in one pass of it, and after it; absent where there is no star. */
  star?: { head: Stitch[]; body: Stitch[]; passes: number; tail: Stitch[] };
  /** How far the marker of the round was moved on before it, in working order. */
  moved: number;
  /** The knitter's own markers behind it, each by the loops before it, in working order; absent where they stay. */
  markers?: readonly number[];
}

function word(node: Extract<Item, { type: 'word' | 'spelled' }>, hands: Hands): readonly Stitch[] {
  const { side, lexicon } = hands;
  if (node.type === 'spelled') return [crossingOfMoves(node.moves, side, lexicon.hand)];
  if (!node.spelled) return stitchesNamed(node.word, side, lexicon);
  const spelled = crossingOfMoves(node.spelled, side, lexicon.hand);
  if (!lexicon.defined.has(node.word.toLowerCase())) return [spelled];
  const [named] = stitchesNamed(node.word, side, lexicon);
  if (typeof named !== 'object' || !sameCrossing(named, spelled))
    throw new WordProblem('steps-differ', `"${node.word}" is spelled out otherwise here than in the key.`);
  return [named];
}

/** Works items in order; a star is left to `workRow`, which knows what comes before and after it. */
function workItems(items: readonly Item[], hands: Hands): void {
  for (const item of items) {
    hands.step();
    if (item.type === 'marker')
      throw new RowProblem(
        'marker-inside',
        'moves the marker of the round, which is done only where a round begins.',
      );
    if (item.type === 'star')
      throw new RowProblem('nested-star', 'has a repeat inside a repeat that cannot be told apart.');
    if (item.type === 'aside') {
      if (item.mark) hands.mark(item.mark);
      continue;
    }
    if (item.type === 'group') for (let i = 0; i < item.times; i++) workItems(item.items, hands);
    else
      try {
        workItem(item, hands);
      } catch (error) {
        if (error instanceof RowProblem || error instanceof WordProblem) error.item ??= item;
        throw error;
      }
  }
}

/** Works as many stitches as they present: so many, or all before the last ones. */
function workPresent({ n, last }: Extract<Item, { type: 'present' }>, hands: Hands): void {
  const many = n ?? hands.left - last;
  if (many < 0)
    throw new RowProblem(
      'row-overruns',
      `has only ${hands.left} left, fewer than the last ${last} it speaks of.`,
    );
  for (let i = 0; i < many; i++) {
    const { face } = hands.live[hands.taken] ?? { face: 'knit' };
    hands.work(face === 'knit' ? 'k' : 'p', 'as they present');
  }
}

/** Works one item that holds no others. */
function workItem(item: Exclude<Item, { type: 'star' | 'group' | 'marker' | 'aside' }>, hands: Hands): void {
  if (item.type === 'present') return workPresent(item, hands);
  if (item.type === 'panel')
    throw new RowProblem('of-a-piece', `works a panel, ${item.name}, as a piece does.`);
  if (item.type === 'rest') {
    const last = item.toMarker ? hands.left - hands.toMarker + item.last : item.last;
    if (hands.left < last)
      throw new RowProblem(
        'row-overruns',
        `has only ${hands.left} left, fewer than the last ${item.last} it speaks of.`,
      );
    const [stitch] = stitchesNamed(item.word, hands.side, hands.lexicon) as [Stitch];
    while (hands.left > last) hands.work(stitch, item.word);
  } else {
    const told =
      item.type === 'word' && !item.spelled ? hands.lexicon.told?.get(item.word.toLowerCase()) : undefined;
    if (told) return workItems(told, hands);
    const name = item.type === 'word' ? item.word : 'the spelled-out crossing';
    for (const stitch of word(item, hands)) hands.work(stitch, name);
  }
}

/** The loops that words take of a needle, also where they do not come out at its end; null where they cannot be worked. */
export function takenSoFar(body: OwnBody, below: Needle, side: Side, lexicon: Lexicon): number | null {
  if (body.type !== 'items') return below.length;
  const hands = new Hands(turned(below, side, lexicon.hand), side, lexicon);
  try {
    workStars(movedBy(body.items) ? body.items.slice(1) : body.items, hands);
    return hands.taken;
  } catch (error) {
    if (error instanceof RowProblem || error instanceof WordProblem) return null;
    throw error;
  }
}

/** How far a row moves the marker of the round on before it begins. */
export const movedBy = ([first]: readonly Item[]): number => (first?.type === 'marker' ? first.by : 0);

/** Loops that items take, worked on a needle that is long enough for anything. */
function takesOfItems(items: readonly Item[], { side, lexicon }: Hands): number {
  const trial = new Hands(freshNeedle(LONG_NEEDLE), side, lexicon);
  workItems(items, trial);
  return trial.taken;
}

type Star = Extract<Item, { type: 'star' }>;

/** The star that is the row's repeat: the first that goes on as far as there are stitches, or else the first. */
function repeatIn(items: readonly Item[]): number {
  const open = items.findIndex((i) => i.type === 'star' && !('more' in i.until));
  return open < 0 ? items.findIndex((i) => i.type === 'star') : open;
}

/** Works items among which stars may stand beside each other. */
function workStars(items: readonly Item[], hands: Hands): void {
  items.forEach((item, i) => {
    if (item.type === 'star') workStar(item, items.slice(i + 1), hands);
    else workItems([item], hands);
  });
}

/** The loops a row takes by itself, however many wait; null where it goes as far as there are stitches. @throws WordProblem */
export function takesByItself(body: OwnBody, side: Side, lexicon: Lexicon): number | null {
  if (body.type !== 'items') return null;
  const isOpen = (items: readonly Item[]): boolean =>
    items.some(
      (i) =>
        (i.type === 'star' && !('more' in i.until)) ||
        i.type === 'rest' ||
        i.type === 'marker' ||
        (i.type === 'present' && i.n === null) ||
        ((i.type === 'group' || i.type === 'star') && isOpen(i.items)),
    );
  if (isOpen(body.items)) return null;
  const trial = new Hands(freshNeedle(LONG_NEEDLE), side, lexicon);
  try {
    workStars(body.items, trial);
  } catch (error) {
    // No needle holds so many.
    if (error instanceof RowProblem) return error.id === 'row-overruns' ? LONG_NEEDLE + 1 : null;
    throw error;
  }
  return trial.taken;
}

/** Works a star; `tail` are the items after it, which decide where "ending with" stops. */
function workStar(star: Star, tail: readonly Item[], hands: Hands): number {
  const until =
    'tail' in star.until
      ? { last: takesOfItems(tail, hands) }
      : 'marker' in star.until
        ? { last: hands.left - hands.toMarker + star.until.last }
        : star.until;
  try {
    return workPasses(star, until, hands);
  } catch (error) {
    if (error instanceof RowProblem || error instanceof WordProblem) error.item ??= star;
    throw error;
  }
}

function workPasses(star: Star, until: { last: number } | { more: number }, hands: Hands): number {
  if ('more' in until) {
    for (let i = 0; i <= until.more; i++) workItems(star.items, hands);
    return until.more + 1;
  }
  let passes = 0;
  while (hands.left > until.last || passes === 0) {
    const before = hands.left;
    if (passes === 0 && before <= until.last && takesOfItems(star.items, hands) > 0)
      throw new RowProblem(
        'repeat-uneven',
        `has ${sts(before)} left before the repeat begins, but ${sts(until.last)} must stay for the end.`,
      );
    workPass(star.items, hands, passes);
    passes++;
    if (hands.left === before)
      throw new RowProblem(
        'repeat-uneven',
        'has a repeat that takes no stitches, so it never comes to an end.',
      );
    if (hands.left < until.last)
      throw new RowProblem(
        'repeat-uneven',
        `does not come out: after ${counted(passes, 'repeat')} ${hands.left} ${hands.left === 1 ? 'stitch is' : 'stitches are'} left, not the last ${until.last}.`,
      );
  }
  return passes;
}

/** One pass of a star; one that runs out of loops says how far the repeat came. */
function workPass(items: readonly Item[], hands: Hands, passes: number): void {
  const before = hands.left;
  try {
    workItems(items, hands);
  } catch (error) {
    if (!(error instanceof RowProblem && error.id === 'row-overruns' && passes > 0)) throw error;
    throw new RowProblem(
      'repeat-uneven',
      `does not come out: after ${counted(passes, 'repeat')} ${sts(before)} ${before === 1 ? 'is' : 'are'} left, too few for another.`,
    );
  }
}

const MOSS: readonly Item[] = [
  { type: 'word', word: 'k1', spelled: null },
  { type: 'word', word: 'p1', spelled: null },
];

/** A rib worked over a whole needle; it may end after any of its parts, with no stitch left. @throws RowProblem */
function fill(unit: readonly Item[], met: Needle, side: Side, lexicon: Lexicon): Stitch[] {
  const hands = new Hands(met, side, lexicon);
  for (let i = 0; hands.left > 0; i++) {
    const before = hands.left;
    try {
      workItems([unit[i % unit.length]!], hands);
    } catch (error) {
      if (!(error instanceof RowProblem && error.id === 'row-overruns')) throw error;
      throw new RowProblem(
        'repeat-uneven',
        `does not come out: the rib has ${sts(before)} left at the end, too few for its next part.`,
      );
    }
    if (hands.left === before) throw new RowProblem('repeat-uneven', 'has a rib that takes no stitches.');
  }
  return hands.done;
}

/**
 * Works a written row over the live loops `below` (from the right, as the RS looks, and in the round from where the
 * marker stands before it). `markers` are the knitter's own, each by the loops before it in working order.
 *
 * @throws RowProblem or WordProblem, saying what does not come out
 */
export function workWords(
  body: OwnBody,
  below: Needle,
  side: Side,
  lexicon: Lexicon,
  markers: readonly number[] = [],
): WorkedRow {
  const key = markers.length ? null : sameEverywhere(body);
  const known = worked(lexicon);
  const asked = key && `${side}${below.length} ${key}`;
  const before = asked && known.get(asked);
  if (before) return before;
  const now = workedAnew(body, below, side, lexicon, markers);
  if (asked && known.size < MOST_KNOWN) known.set(asked, now);
  return now;
}

/** The stitches of a worked row from the right as the right side looks; of rows that are worked alike they are one list. */
export const fromTheRight = remembered(({ stitches }: WorkedRow, side: Side, hand: Hand): readonly Stitch[] =>
  turned(stitches, side, hand),
);

/** Rows of a text that are kept as they were worked, at most. */
const MOST_KNOWN = 4000;
const worked = remembered((_lexicon: Lexicon) => new Map<string, WorkedRow>());
/** What a row says, as a text, where it works the same over any needle of so many loops; null where their faces count. */
const sameEverywhere = remembered((body: OwnBody): string | null =>
  body.type !== 'items' || asFaced(body.items) ? null : JSON.stringify(body.items),
);

/** Whether what items work depends on the loops they meet: how these present, or what markers lie between them. */
const asFaced = (items: readonly Item[]): boolean =>
  items.some(
    (i) =>
      i.type === 'present' ||
      i.type === 'marker' ||
      (i.type === 'rest' && i.toMarker === true) ||
      (i.type === 'star' && 'marker' in i.until) ||
      (i.type === 'aside' && i.mark !== undefined) ||
      ((i.type === 'group' || i.type === 'star') && asFaced(i.items)),
  );

function workedAnew(
  body: OwnBody,
  below: Needle,
  side: Side,
  lexicon: Lexicon,
  markers: readonly number[],
): WorkedRow {
  const met = turned(below, side, lexicon.hand);
  if (body.type === 'cloth') {
    // Garter stitch is knit by the hands on every row; the others are named for what the right side shows.
    const shown =
      body.cloth === 'garter' ? (side === 'RS' ? 'k' : 'p') : body.cloth === 'stocking' ? 'k' : 'p';
    return { stitches: Array<Stitch>(met.length).fill(shown), moved: 0 };
  }
  if (body.type === 'presented')
    return { stitches: met.map(({ face }) => (face === 'knit' ? 'k' : 'p')), moved: 0 };
  if (body.type === 'moss' && body.goesOn)
    return { stitches: met.map(({ face }) => (face === 'knit' ? 'p' : 'k')), moved: 0 };
  if (body.type === 'rib' && body.goesOn)
    return { stitches: met.map(({ face }) => (face === 'knit' ? 'k' : 'p')), moved: 0 };
  if (body.type === 'moss' || body.type === 'rib')
    return { stitches: fill(body.type === 'rib' ? body.items : MOSS, met, side, lexicon), moved: 0 };
  if (body.type === 'unread') throw new RowProblem('not-understood', 'was not understood.');
  if (body.type === 'asSet') throw new RowProblem('of-a-piece', 'goes on as a piece is set.');
  const moved = movedBy(body.items);
  if (Math.abs(moved) > met.length)
    throw new RowProblem('marker-too-far', `moves the marker by ${moved}; the round has ${sts(met.length)}.`);
  const live = fromStart(met, moved);
  const items = moved ? body.items.slice(1) : body.items;
  const hands = new Hands(live, side, lexicon, moved ? [] : markers);
  const at = repeatIn(items);
  let star: WorkedRow['star'];
  if (at < 0) workStars(items, hands);
  else {
    workStars(items.slice(0, at), hands);
    const head = hands.done.length;
    const tail = items.slice(at + 1);
    const passes = workStar(items[at] as Star, tail, hands);
    const end = hands.done.length;
    workStars(tail, hands);
    const length = (end - head) / passes;
    // What is worked so many times, however many stitches wait, is no repeat of the row.
    if (!('more' in (items[at] as Star).until))
      star = {
        head: hands.done.slice(0, head),
        body: hands.done.slice(head, head + length),
        passes,
        tail: hands.done.slice(end),
      };
  }
  if (hands.left > 0)
    throw new RowProblem(
      'row-leaves-stitches',
      `works ${hands.taken} of ${sts(live.length)}: ${hands.left} ${hands.left === 1 ? 'is' : 'are'} left over at the end.`,
    );
  return { stitches: hands.done, star, moved, markers: hands.markersAfter };
}
