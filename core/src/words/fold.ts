import type { Item } from './pattern.js';

const LONGEST_GROUP = 24;
const DEEPEST = 2;

/** How often the `length` items at `at` stand one after the other. */
function repeats(items: readonly Item[], at: number, length: number): number {
  let times = 1;
  for (; at + (times + 1) * length <= items.length; times++)
    for (let k = 0; k < length; k++) if (items[at + k] !== items[at + times * length + k]) return times;
  return times;
}

/** Adjoining equal groups in brackets; equal items must be the same objects. */
export function fold(items: readonly Item[], depth = 0): Item[] {
  const out: Item[] = [];
  for (let i = 0; i < items.length;) {
    let best = { length: 0, times: 1 };
    if (depth < DEEPEST)
      for (let length = 1; length <= Math.min(LONGEST_GROUP, (items.length - i) >> 1); length++) {
        const times = repeats(items, i, length);
        if (times > 1 && length * (times - 1) > best.length * (best.times - 1)) best = { length, times };
      }
    if (best.times > 1) {
      out.push({
        type: 'group',
        items: fold(items.slice(i, i + best.length), depth + 1),
        times: best.times,
      });
      i += best.length * best.times;
    } else out.push(items[i++]!);
  }
  return out;
}
