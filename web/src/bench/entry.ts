import {
  crossingProblem,
  crossingsNamed,
  crossingsUsed,
  nameOf,
  type Chart,
  type Crossing,
  type Naming,
  type School,
  type Side,
  type Stitch,
} from '@cordelina/core';

/** What the keys typed so far come to. */
export type Entry =
  | { kind: 'more' }
  | { kind: 'stitches'; stitches: Stitch[]; alone: boolean }
  /** So many columns are left as they are. */
  | { kind: 'leave'; columns: number }
  | { kind: 'refused'; message: string };

/** The names that can be typed: of crossings the chart uses, and of the design's school. */
export interface Lexicon {
  school: School;
  hand: Naming['hand'];
  side: Side;
  /** Crossings by the name they have in this design, as it is typed: lower case, no spaces. */
  named: ReadonlyMap<string, Crossing>;
}

const typedName = (name: string): string => name.toLowerCase().replaceAll(' ', '');

export function lexiconOf(chart: Chart, naming: Naming, side: Side): Lexicon {
  const named = crossingsUsed(chart).flatMap((c): [string, Crossing][] => {
    const name = nameOf(c, naming, side);
    return name === null ? [] : [[typedName(name), c]];
  });
  return { school: naming.school, hand: naming.hand, side, named: new Map(named) };
}

const RUN_KEYS: Record<string, string> = { k: 'k', p: 'p', x: 'none' };
const MOST_RUN = 600;

/** A crossing by its groups, as far as it goes: `2/2lc`, `2/1/2rpc`, `2/2lc-kp/kp`. */
const SLASHED = /^(\d{1,2})\/(\d{1,2})(?:\/(\d{1,2}))?([lr])(p?)(c?)(-[kpbq/]+)?$/;
const PARTIAL = /^(\d{1,2}(\/(\d{1,2})?)?(\/\d{0,2})?([lr]p?)?(-[kpbq/]*)?|cr?\d{0,2}|t\d{0,2})$/;
const TOTAL = /^(c|t|cr)\d{1,2}[fblr]$/;

const refused = (message: string): Entry => ({ kind: 'refused', message });

/** What a name means here; a name without a meaning, or with several, is refused with what to type instead. */
function named(name: string, typed: string, { school, hand, side }: Lexicon): Entry {
  const byTotal = TOTAL.test(typed);
  const meant = crossingsNamed(name, byTotal && !school.startsWith('total') ? 'total-hold' : school, {
    side,
    hand,
  });
  const [only, ...others] = meant;
  if (!only)
    return refused(
      `"${typed}" is no crossing: each group has 1 to 12 stitches, and letters of faces as many as it has.`,
    );
  if (!others.length) return { kind: 'stitches', stitches: [only], alone: false };
  const ways = [...new Set(meant.map((c) => `${c.front.length}/${c.back.length}`))].slice(0, 3).join(', ');
  return refused(
    `${typed.toUpperCase()} does not say how its stitches are divided: it may be ${ways}. Type it by its groups, such as ${only.front.length}/${only.back.length}${only.lean[0]}c.`,
  );
}

/**
 * Reads keys as they are typed. A count then a letter works a run (`6k`), a count then a full stop leaves so many
 * stitches; a crossing is typed as the design's school or the trade writes it (`2/2lc`, `2/1rpc`, `c4f`), its faces
 * behind a dash (`2/2l-kp/kp`). Enter ends it; `!` before it sets it alone.
 */
export function readEntry(typed: string, lexicon: Lexicon, ended = false): Entry {
  const alone = typed.startsWith('!');
  const text = typedName(alone ? typed.slice(1) : typed);
  const entry = readText(text, lexicon, ended);
  return entry.kind === 'stitches' ? { ...entry, alone } : entry;
}

function readText(text: string, lexicon: Lexicon, ended: boolean): Entry {
  const run = /^(\d{0,3})([kpx.])$/.exec(text);
  const begun = [...lexicon.named.keys()].some((name) => name.startsWith(text) && name !== text);
  const own = lexicon.named.get(text);
  if (own && (ended || !begun)) return { kind: 'stitches', stitches: [own], alone: false };
  if (run && (ended || !begun || run[1])) {
    const n = run[1] ? Number(run[1]) : 1;
    if (n < 1 || n > MOST_RUN) return refused(`A run of ${n} stitches cannot be worked.`);
    if (run[2] === '.') return { kind: 'leave', columns: n };
    return { kind: 'stitches', stitches: Array<Stitch>(n).fill(RUN_KEYS[run[2]!]!), alone: false };
  }
  const slashed = SLASHED.exec(text);
  if (slashed && (ended || slashed[6])) {
    const [, a, b, c, lean, purl, , faces] = slashed;
    const problem = crossingProblem(Number(a), c ? Number(b) : 0, Number(c ?? b));
    if (problem) return refused(problem);
    const groups = [a, b, c].filter((n) => n !== undefined).join('/');
    return named(`${groups} ${lean}${purl}c${faces ?? ''}`, text, lexicon);
  }
  if (TOTAL.test(text)) return named(text, text, lexicon);
  if (!ended && (text === '' || begun || PARTIAL.test(text) || /^\d{1,3}$/.test(text)))
    return { kind: 'more' };
  return refused(`"${text}" is not a run or a crossing. Try 6k, 2/2LC or C4F.`);
}

/** What can be typed, as the sheet of keys tells it. */
export const ENTRIES = [
  ['6 k', 'a run of six knit, from the cursor leftwards (p purl, x no stitch)'],
  ['5 .', 'leaves five stitches as they are'],
  ['2/2 l c', 'a crossing by its groups: 2/2 LC; 2/1 r p c is 2/1 RPC'],
  ['c 4 f', 'a crossing by all its stitches and hold: C4F, T4B'],
  ['2/2 l -kp/kp', 'a crossing whose groups are ribbed, then Enter'],
  ['! 4 k', 'sets these cells alone: nothing follows, nothing is mirrored'],
  ['3 Enter', 'the third stitch in reach'],
  ['Enter', 'the stitch in hand, or the last entry again; over the selection if there is one'],
] as const;
