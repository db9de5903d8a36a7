import { Lately, ofEach, remembered } from '../remember.js';
import { ABBREVIATED, type Manner } from './manner.js';
import type { Item } from './pattern.js';
import { itemsText } from './render.js';

/** No bracket holds more items than can be kept in mind; none stands in more than one other. */
const LONGEST_GROUP = 24;
const DEEPEST = 2;

/** What brackets and the comma beside them take up: "[" and "] 3 times". */
const BRACKETS = 3;
const timesLength = (times: number): number => (times === 2 ? 5 : String(times).length + 6);

/** The shortest way to write a stretch of items: how long it is, how many brackets it has, and what it begins with. */
interface Way {
  length: number;
  brackets: number;
  /** Items of the group it begins with, and how often it is worked; an item by itself is worked once. */
  group: number;
  times: number;
}

/** The characters of an item with the comma behind it. */
const widthOf = remembered((item: Item, manner: Manner): number => itemsText([item], manner).length + 2);

let next = 0;
/** Items are one where they are equal: each has a number of its own. */
const numberOf = ofEach((_item: Item): number => next++);

/** Equal items as equal numbers. */
function numbered(items: readonly Item[]): Int32Array {
  const out = new Int32Array(items.length);
  for (let i = 0; i < items.length; i++) out[i] = numberOf(items[i]!);
  return out;
}

/** Lines by the numbers of their items: the rows of a chart are mostly a few, over and over. */
const lately = new Lately<Item[]>();

/** How far, from each place on, items are as those `by` places further on; null where no group of so many is repeated. */
function sameRuns(items: Int32Array, by: number): Int32Array | null {
  const runs = new Int32Array(items.length + 1);
  let most = 0;
  for (let i = items.length - by - 1; i >= 0; i--)
    if (items[i] === items[i + by]) {
      const run = runs[i + 1]! + 1;
      runs[i] = run;
      if (run > most) most = run;
    }
  return most >= by ? runs : null;
}

/**
 * Adjoining equal groups in brackets, so that the line is as short as it can be written with brackets at most two
 * deep: of lines that are equally short the one with fewest brackets, and of these the one whose brackets begin
 * first. Equal items must be the same objects; the list is shared by equal lines, and is not to be changed.
 */
export function fold(items: readonly Item[], manner: Manner = ABBREVIATED): Item[] {
  const ids = numbered(items);
  return lately.of(`${manner.stitches} ${ids.join()}`, () => shortest(items, ids, manner));
}

function shortest(items: readonly Item[], ids: Int32Array, manner: Manner): Item[] {
  const groups: { length: number; runs: Int32Array }[] = [];
  for (let length = 1; length <= Math.min(LONGEST_GROUP, items.length >> 1); length++) {
    const runs = sameRuns(ids, length);
    if (runs) groups.push({ length, runs });
  }
  if (!groups.length) return [...items];
  const known = new Map<number, Way[]>();
  const n = items.length + 1;

  /** The best ways to write each end of the items from `from` up to `to`, by where it begins. */
  const waysOf = (from: number, to: number, depth: number): Way[] => {
    const key = (depth * n + from) * n + to;
    const found = known.get(key);
    if (found) return found;
    const ways: Way[] = [];
    ways[to - from] = { length: 0, brackets: 0, group: 0, times: 0 };
    for (let i = to - 1; i >= from; i--) {
      const rest = ways[i + 1 - from]!;
      const best: Way = {
        length: widthOf(items[i]!, manner) + rest.length,
        brackets: rest.brackets,
        group: 1,
        times: 1,
      };
      if (depth < DEEPEST)
        for (const { length, runs } of groups) {
          const run = runs[i]!;
          if (run < length || i + 2 * length > to) continue;
          // A group that is itself made of a shorter one over and over is written by that.
          if (isMadeOfShorter(groups, i, length)) continue;
          const inner = waysOf(i, i + length, depth + 1)[0]!;
          for (
            let times = Math.min(Math.floor(run / length) + 1, Math.floor((to - i) / length));
            times >= 2;
            times--
          ) {
            const after = ways[i + times * length - from]!;
            const wide = inner.length + BRACKETS + timesLength(times) + after.length;
            const brackets = inner.brackets + 1 + after.brackets;
            if (wide > best.length || (wide === best.length && brackets >= best.brackets)) continue;
            best.length = wide;
            best.brackets = brackets;
            best.group = length;
            best.times = times;
          }
        }
      ways[i - from] = best;
    }
    known.set(key, ways);
    return ways;
  };

  const written = (from: number, to: number, depth: number): Item[] => {
    const ways = waysOf(from, to, depth);
    const out: Item[] = [];
    for (let i = from; i < to;) {
      const { group, times } = ways[i - from]!;
      if (times > 1) out.push({ type: 'group', items: written(i, i + group, depth + 1), times });
      else out.push(items[i]!);
      i += group * times;
    }
    return out;
  };
  return written(0, items.length, 0);
}

/** Whether a group is made of whole shorter ones. */
function isMadeOfShorter(
  groups: readonly { length: number; runs: Int32Array }[],
  i: number,
  length: number,
): boolean {
  for (const { length: shorter, runs } of groups) {
    if (2 * shorter > length) return false;
    if (length % shorter === 0 && runs[i]! >= length - shorter) return true;
  }
  return false;
}
