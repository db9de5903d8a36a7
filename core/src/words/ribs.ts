/** How runs of stitches are parted so that a rib between them is told as a whole: "k6, [k1, p1] 4 times, k6". */

/** A counted word and how many of it stand side by side. */
export interface WordRun {
  word: string;
  n: number;
}

const isSame = (a: WordRun | undefined, b: WordRun | undefined): boolean =>
  a !== undefined && b !== undefined && a.word === b.word && a.n === b.n;

/** Where a stretch of runs that take turns, two and two alike, ends; `from` itself where none begins there. */
function endOfTurns(runs: readonly WordRun[], from: number): number {
  let end = from + 1;
  while (end + 1 < runs.length && isSame(runs[end + 1], runs[end - 1])) end++;
  return end;
}

/** Fewer runs than this take turns by chance. */
const LEAST = 3;

/**
 * The runs with what a rib lacks of its pairs taken out of the longer run beside it, where the line is shorter so. `length`
 * says how long some runs are as they are written.
 */
export function ribsWhole(runs: readonly WordRun[], length: (runs: readonly WordRun[]) => number): WordRun[] {
  const out: WordRun[] = [];
  let i = 0;
  while (i < runs.length) {
    const end = endOfTurns(runs, i);
    if (end - i + 1 < LEAST) {
      out.push(runs[i++]!);
      continue;
    }
    const turns = runs.slice(i, end + 1);
    const [before, after] = [out.at(-1), runs[end + 1]];
    const [first, last] = [turns[1]!, turns.at(-2)!];
    const gives = (beside: WordRun | undefined, one: WordRun) =>
      beside?.word === one.word && beside.n > one.n;
    const without = ({ word, n }: WordRun, { n: by }: WordRun): WordRun => ({ word, n: n - by });
    let best: { left: WordRun[]; middle: WordRun[]; right: WordRun[] } | null = null;
    let [shortest, evenest] = [Infinity, Infinity];
    for (const takesBefore of gives(before, first) ? [false, true] : [false])
      for (const takesAfter of gives(after, last) ? [false, true] : [false]) {
        const left = before ? [takesBefore ? without(before, first) : before] : [];
        const right = after ? [takesAfter ? without(after, last) : after] : [];
        const middle = [...(takesBefore ? [first] : []), ...turns, ...(takesAfter ? [last] : [])];
        const long = length([...left, ...middle, ...right]);
        // Of two as short, the one that leaves the runs at both sides alike.
        const askew = Math.abs((left[0]?.n ?? 0) - (right[0]?.n ?? 0));
        if (long < shortest || (long === shortest && askew < evenest)) {
          [shortest, evenest] = [long, askew];
          best = { left, middle, right };
        }
      }
    if (before) out.pop();
    out.push(...best!.left, ...best!.middle);
    i = end + 1;
    // What is left of the run behind the rib may itself begin the next one.
    if (after) {
      runs = [...runs.slice(0, i), ...best!.right, ...runs.slice(i + 1)];
    }
  }
  return out;
}
