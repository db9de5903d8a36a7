import { crossingProblem, crossingsNamed, simpleCrossing, type School, type Stitch } from '@cordelina/core';

/** What the keys typed so far come to. */
export type Entry =
  { kind: 'more' } | { kind: 'stitches'; stitches: Stitch[] } | { kind: 'refused'; message: string };

const RUN_KEYS: Record<string, string> = { k: 'k', p: 'p', x: 'none' };
const MOST_RUN = 600;

const PARTIAL_SLASH = /^\d{1,2}(\/(\d{1,2})?)?(\/\d{0,2})?( ?[lr]p?)?$/;
const SLASH = /^(\d{1,2})\/(\d{1,2})(?:\/(\d{1,2}))? ?([lr])(p?)$/;
const TOTAL = /^[ct]\d{1,2}[fblr]$/;

function slashCrossing(text: string): Entry {
  const [, f, middle, b, lean, purl] = SLASH.exec(text)!;
  const back = Number(b ?? middle);
  const centre = b ? Number(middle) : 0;
  const problem = crossingProblem(Number(f), centre, back);
  if (problem) return { kind: 'refused', message: problem };
  if (centre) {
    const [named] = crossingsNamed(`${f}/${middle}/${b} ${lean}${purl}c`, 'front-back');
    return named
      ? { kind: 'stitches', stitches: [named] }
      : { kind: 'refused', message: `"${text}" is no crossing.` };
  }
  const made = simpleCrossing(lean === 'l' ? 'left' : 'right', Number(f), back, purl ? 'p' : 'k');
  return { kind: 'stitches', stitches: [made] };
}

/**
 * Reads keys as they are typed: a count then a letter works a run (`6k`); a crossing is typed as the trade
 * writes it (`2/2lc`, `2/1rpc`, `c4f`, `t3b`). Enter ends a crossing early.
 */
export function readEntry(typed: string, school: School, ended = false): Entry {
  const text = typed.toLowerCase();
  const run = /^(\d{0,3})([kpx])$/.exec(text);
  if (run) {
    const n = run[1] ? Number(run[1]) : 1;
    if (n < 1 || n > MOST_RUN)
      return { kind: 'refused', message: `A run of ${n} stitches cannot be worked.` };
    return { kind: 'stitches', stitches: Array<Stitch>(n).fill(RUN_KEYS[run[2]!]!) };
  }
  if (text.endsWith('c') && SLASH.test(text.slice(0, -1))) return slashCrossing(text.slice(0, -1));
  if (ended && SLASH.test(text)) return slashCrossing(text);
  if (TOTAL.test(text)) {
    const meant = crossingsNamed(text, school.startsWith('total') ? school : 'total-hold');
    if (meant.length === 1) return { kind: 'stitches', stitches: [meant[0]!] };
    if (!meant.length) return { kind: 'refused', message: `"${typed}" is no crossing.` };
    return {
      kind: 'refused',
      message: `${typed.toUpperCase()} does not say how its stitches are divided. Type it as front / back, such as ${meant[0]!.front.length}/${meant[0]!.back.length}.`,
    };
  }
  if (!ended && (PARTIAL_SLASH.test(text) || /^\d{1,3}$/.test(text) || /^[ct]\d{0,2}$/.test(text)))
    return { kind: 'more' };
  return { kind: 'refused', message: `"${typed}" is not a run or a crossing. Try 6k, 2/2LC or C4F.` };
}

/** What can be typed, as the sheet of keys tells it. */
export const ENTRIES = [
  ['6 k', 'a run of six knit, from the cursor leftwards (p purl, x no stitch)'],
  ['2/2 l c', 'a crossing by its groups: 2/2 LC; 2/1 r p c is 2/1 RPC'],
  ['c 4 f', 'a crossing by all its stitches and hold: C4F, T3B'],
  ['3 Enter', 'the third stitch in reach'],
  ['Enter', 'the stitch in hand, over the selection if there is one'],
] as const;
