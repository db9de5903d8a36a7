/** One written item: a word such as `k3` or `2/2 LC`, or a group worked several times. */
export type Item = { word: string } | { items: Item[]; times: number };

const LONGEST_GROUP = 24;
const DEEPEST = 2;

/** Joins runs: k1, k1 → k2. Words without a count stay as they are. */
function joinRuns(words: readonly string[]): string[] {
  const out: string[] = [];
  for (let i = 0; i < words.length;) {
    const word = words[i]!;
    let n = 1;
    if (word.includes('#')) while (words[i + n] === word) n++;
    out.push(word.replace('#', String(n)));
    i += n;
  }
  return out;
}

/** How often the `length` words at `at` stand in a row. */
function repeats(words: readonly string[], at: number, length: number): number {
  let times = 1;
  for (; at + (times + 1) * length <= words.length; times++)
    for (let k = 0; k < length; k++) if (words[at + k] !== words[at + times * length + k]) return times;
  return times;
}

function fold(words: readonly string[], depth: number): Item[] {
  const out: Item[] = [];
  for (let i = 0; i < words.length;) {
    let best = { length: 0, times: 1 };
    if (depth < DEEPEST)
      for (let length = 1; length <= Math.min(LONGEST_GROUP, (words.length - i) >> 1); length++) {
        const times = repeats(words, i, length);
        if (times > 1 && length * (times - 1) > best.length * (best.times - 1)) best = { length, times };
      }
    if (best.times > 1) {
      out.push({ items: fold(words.slice(i, i + best.length), depth + 1), times: best.times });
      i += best.length * best.times;
    } else out.push({ word: words[i++]! });
  }
  return out;
}

function itemText(item: Item): string {
  if ('word' in item) return item.word;
  return `[${item.items.map(itemText).join(', ')}] ${item.times === 2 ? 'twice' : `${item.times} times`}`;
}

/** Words in working order as one phrase: runs joined, adjoining equal groups in brackets. */
export function phrase(words: readonly string[]): string {
  return fold(joinRuns(words), 0).map(itemText).join(', ');
}
