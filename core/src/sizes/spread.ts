import type { Stitch } from '../stitches/book.js';
import { fold } from '../words/fold.js';
import { stitchesText } from '../words/manner.js';
import type { Item } from '../words/pattern.js';
import { gapsBetween, MOST_ON_NEEDLE, type SpreadEnds } from './evenly.js';
import { provedLine } from './line.js';

/**
 * Changes of count spread evenly over one row: the increase row from a border into cables, and the decrease row back.
 */

/** Whether the row adds stitches or takes them. */
export type SpreadKind = 'increase' | 'decrease';

/**
 * How each change is worked: an increase made between two stitches, one worked into a stitch, or two stitches worked
 * together.
 */
export type SpreadBy = 'between' | 'into' | 'together';

export interface SpreadRow {
  kind: SpreadKind;
  by: SpreadBy;
  /** The row in words, read back and worked on a needle. */
  words: string;
  /** For each change, how many of the stitches on the needle have been worked before it. */
  positions: readonly number[];
  /** What one should know of it. */
  note?: string;
}

/** Why a row cannot do it, and what could. */
export interface SpreadProblem {
  problem: string;
}

export interface SpreadWish {
  from: number;
  to: number;
  /** Checked against the numbers where it is given. */
  kind?: SpreadKind;
  ends?: SpreadEnds;
  /** How increases are worked; between stitches where there is room, unless said otherwise. */
  by?: Exclude<SpreadBy, 'together'>;
}

const word = (text: string): Item => ({ type: 'word', word: text, spelled: null });

/** Each change as a stitch, as it is written, and how many stitches of the needle it takes. */
const CHANGE: Readonly<Record<SpreadBy, { stitch: Stitch; item: Item; takes: number }>> = {
  between: { stitch: 'm1l', item: word('M1'), takes: 0 },
  into: { stitch: 'kfb', item: word('kfb'), takes: 1 },
  together: { stitch: 'k2tog', item: word('k2tog'), takes: 2 },
};

/** The line for gaps: the first of them and its change stand by themselves, the others are put in brackets. */
function lineOf(gaps: readonly number[], by: SpreadBy, ends: SpreadEnds): Item[] {
  const runs = new Map<number, Item>();
  const plain = (n: number): Item[] => {
    if (n === 0) return [];
    let item = runs.get(n);
    if (!item) runs.set(n, (item = word(`k${n}`)));
    return [item];
  };
  const changes = gaps.slice(0, -1).map((gap) => [...plain(gap), CHANGE[by].item]);
  const last = plain(gaps.at(-1)!);
  if (ends === 'round') return [...fold(changes.flat()), ...last];
  return [...(changes[0] ?? []), ...fold(changes.slice(1).flat()), ...last];
}

const sts = (n: number) =>
  stitchesText(n, { form: 'full', terms: 'US', sides: 'by name', stitches: 'single' });

/** The most increases that can be made between so many stitches: in the round also between the last and the first. */
const mostBetween = (from: number, ends: SpreadEnds): number => (ends === 'round' ? from : from - 1);

/** How a row leads from one count to another; or why none can. */
function waysOf({
  from,
  to,
  kind,
  ends = 'whole',
  by,
}: SpreadWish): { kind: SpreadKind; by: SpreadBy; note?: string } | SpreadProblem {
  const changes = Math.abs(to - from);
  if (kind === 'increase' && to < from)
    return {
      problem: `From ${from} to ${to} stitches is a decrease; an increase row ends with more than it begins with.`,
    };
  if (kind === 'decrease' && to > from)
    return {
      problem: `From ${from} to ${to} stitches is an increase; a decrease row ends with fewer than it begins with.`,
    };
  if (to < from) {
    const least = Math.ceil(from / 2);
    return to >= least
      ? { kind: 'decrease', by: 'together' }
      : {
          problem: `One row of ${sts(from)} can work ${Math.floor(from / 2)} pairs together, which leaves ${least}. Decrease in two rows, to ${least} or more in the first.`,
        };
  }
  if (changes > from)
    return {
      problem: `One row of ${sts(from)} can increase into each of them once, which makes ${2 * from}. Increase in two rows, to at most ${2 * from} in the first.`,
    };
  const most = mostBetween(from, ends);
  if (by === 'between' && changes > most)
    return {
      problem: `Between ${sts(from)} at most ${sts(most)} can be made. Increase into the stitches instead, or in two rows.`,
    };
  if (by === 'into' || changes > most)
    return {
      kind: 'increase',
      by: 'into',
      ...(by !== 'into' && {
        note: `There is room to make ${sts(most)} between them, not ${changes}: they are increased into the stitches.`,
      }),
    };
  return { kind: kind ?? 'increase', by: 'between' };
}

/**
 * One row that leads from one number of stitches to another, its changes spread as evenly as may be. The line is read
 * back and worked on a needle before it is given.
 *
 * @param wish counts of at least 1 and at most {@link MOST_ON_NEEDLE}
 * @returns the row; or a sentence that says why no single row can do it, and what could
 */
export function spread(wish: SpreadWish): SpreadRow | SpreadProblem {
  const { from, to, ends = 'whole' } = wish;
  for (const n of [from, to])
    if (!Number.isInteger(n) || n < 1 || n > MOST_ON_NEEDLE)
      return { problem: `Stitches are counted from 1 to ${MOST_ON_NEEDLE}; ${n} is not one of these.` };
  const way = waysOf(wish);
  if ('problem' in way) return way;
  const changes = Math.abs(to - from);
  const { stitch, takes } = CHANGE[way.by];
  const gaps = changes ? gapsBetween(from - changes * takes, changes, ends) : [from];
  const stitches: Stitch[] = [];
  const positions: number[] = [];
  let worked = 0;
  gaps.forEach((gap, i) => {
    for (let k = 0; k < gap; k++) stitches.push('k');
    worked += gap;
    if (i === changes) return;
    positions.push(worked);
    stitches.push(stitch);
    worked += takes;
  });
  return { ...way, positions, words: provedLine(lineOf(gaps, way.by, ends), stitches, from, to) };
}
