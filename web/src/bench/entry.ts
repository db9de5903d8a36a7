import {
  crossingProblem,
  crossingsNamed,
  crossingsUsed,
  nameOf,
  STITCH_KINDS,
  twistBySide,
  type Chart,
  type Naming,
  type School,
  type Side,
  type Stitch,
  LIMITS,
} from '@cordelina/core';

/** What an entry comes to. */
export type Entry =
  | { kind: 'stitches'; stitches: Stitch[]; alone: boolean }
  /** So many columns are left as they are. */
  | { kind: 'leave'; columns: number }
  | { kind: 'refused'; message: string };

/** What the keys typed so far come to. */
export interface Reading {
  /** What they mean as they stand; null where they are only begun, or nothing. */
  now: Entry | null;
  /** Whether further keys may make something else of them. */
  more: boolean;
}

/** The names that can be typed: of crossings the chart uses, of the design's school, and of stitches. */
export interface Lexicon {
  school: School;
  hand: Naming['hand'];
  each: Naming['each'];
  side: Side;
  /** Crossings and stitches by their words, as they are typed: lower case, no spaces. */
  named: ReadonlyMap<string, Stitch>;
}

const typedName = (name: string): string => name.toLowerCase().replaceAll(' ', '');

/** Words of the table as they show on the right side, and what else the trade calls them. */
const WORDS: ReadonlyMap<string, Stitch> = new Map([
  ...[...STITCH_KINDS.values()].flatMap(({ id, rs }): [string, Stitch][] => {
    const word = typedName(rs.replace('#', ''));
    return word.length > 1 ? [[word, id]] : [];
  }),
  ['sl1wyib', 'slyb'],
  ['sl1wyif', 'slyf'],
  ['m1', 'm1l'],
  ['m1p', 'm1lp'],
  ['skp', 'ssk'],
  ['s2kp', 'cdd'],
]);

export function lexiconOf(chart: Chart, naming: Naming, side: Side): Lexicon {
  const hand = naming.hand ?? 'right';
  const twists = (['left', 'right'] as const).map((lean): [string, Stitch] => [
    `${lean[0]!}t`,
    twistBySide(naming.twist ?? 'cable', lean, side, hand),
  ]);
  const own = chart.own.map((o): [string, Stitch] => [typedName(o.rs.replace('#', '')), o.id]);
  const used = crossingsUsed(chart).flatMap((c): [string, Stitch][] => {
    const name = nameOf(c, naming, side);
    return name === null ? [] : [[typedName(name), c]];
  });
  return {
    school: naming.school,
    hand,
    each: naming.each,
    side,
    named: new Map([...WORDS, ...twists, ...own, ...used]),
  };
}

const RUN_KEYS: Record<string, string> = { k: 'k', p: 'p', x: 'none' };
const MOST_RUN = LIMITS.columns;

/** A crossing by its groups, as far as it goes: `2/2lc`, `2/1/2rpc`, `2/2lc-kp/kp`. */
const SLASHED = /^(\d{1,2})\/(\d{1,2})(?:\/(\d{1,2}))?([lr])(p?)(c?)(?:-([kpbq]+(?:\/[kpbq]+)+))?$/;
const PARTIAL =
  /^(\d{1,2}(\/(\d{1,2})?)?(\/\d{0,2})?([lr]p?c?)?|\d{1,2}(\/\d{1,2}){1,2}[lr]p?c?-[kpbq]*(\/[kpbq]*){0,2}|cr?\d{0,2}|t\d{0,2})$/;
const TOTAL = /^(c|t|cr)\d{1,2}[fblr]$/;

const refused = (message: string): Entry => ({ kind: 'refused', message });
const stitches = (made: Stitch[]): Entry => ({ kind: 'stitches', stitches: made, alone: false });

/** What a name means here; a name without a meaning, or with several, is refused with what to type instead. */
function named(name: string, typed: string, { school, hand, each = 1, side }: Lexicon): Entry {
  const byTotal = TOTAL.test(typed);
  const meant = crossingsNamed(name, byTotal && !school.startsWith('total') ? 'total-hold' : school, {
    side,
    hand,
    each,
  });
  const [only, ...others] = meant;
  if (!only)
    return refused(
      `"${typed}" is no crossing: each group has 1 to 12 ${each > 1 ? 'pairs, counted by their two loops' : 'stitches'}, and letters of faces as many as it has.`,
    );
  if (!others.length) return stitches([only]);
  const ways = [...new Set(meant.map((c) => `${c.front.length * each}/${c.back.length * each}`))]
    .slice(0, 3)
    .join(', ');
  return refused(
    `${typed.toUpperCase()} does not say how its stitches are divided: it may be ${ways}. Type it by its groups, such as ${only.front.length * each}/${only.back.length * each}${only.lean[0]}c.`,
  );
}

/**
 * Reads keys as they are typed. A count then a letter works a run (`6k`), a count then a full stop leaves so many
 * stitches; a stitch is typed by its word (`k2tog`, `lt`), a crossing as the design's school or the trade writes it (`2/2lc`,
 * `2/1rpc`, `c4f`), its faces behind a dash (`2/2lc-kp/kp`). `!` before it sets it alone.
 */
export function readEntry(typed: string, lexicon: Lexicon): Reading {
  const alone = typed.startsWith('!');
  const text = typedName(alone ? typed.slice(1) : typed);
  const { now, more } = readText(text, lexicon);
  return { now: now?.kind === 'stitches' ? { ...now, alone } : now, more: more || (alone && !text) };
}

/** Whether the faces behind a dash are as many as they can be. */
const isFull = (faces: string, groups: readonly string[]): boolean => {
  const parts = faces.split('/');
  return parts.length === groups.length && parts.every((p, i) => p.length >= Number(groups[i]));
};

function readText(text: string, lexicon: Lexicon): Reading {
  const begun = [...lexicon.named.keys()].some((name) => name.startsWith(text) && name !== text);
  const own = lexicon.named.get(text);
  if (own !== undefined) return { now: stitches([own]), more: begun };
  const run = /^(\d{0,3})([kpx.])$/.exec(text);
  if (run) {
    const n = run[1] ? Number(run[1]) : 1;
    const now =
      n < 1 || n > MOST_RUN
        ? refused(`A run of ${n} stitches cannot be worked.`)
        : run[2] === '.'
          ? ({ kind: 'leave', columns: n } as const)
          : stitches(Array<Stitch>(n).fill(RUN_KEYS[run[2]!]!));
    return { now, more: begun };
  }
  const slashed = SLASHED.exec(text);
  if (slashed) {
    const [, a, b, c, lean, purl, cable, faces] = slashed;
    const sizes = [a!, b!, c].filter((n) => n !== undefined);
    const problem = crossingProblem(Number(a), c ? Number(b) : 0, Number(c ?? b));
    if (problem) return { now: refused(problem), more: false };
    const name = `${sizes.join('/')} ${lean}${purl}c${faces ? `-${faces}` : ''}`;
    return { now: named(name, text, lexicon), more: !faces || !cable || !isFull(faces, sizes) };
  }
  if (TOTAL.test(text)) return { now: named(text, text, lexicon), more: begun };
  if (text === '' || begun || PARTIAL.test(text) || /^\d{1,3}$/.test(text)) return { now: null, more: true };
  return { now: null, more: false };
}

/** Why keys mean nothing. */
export const notRead = (typed: string): string =>
  `"${typed}" is not a run, a stitch or a crossing, and nothing was set. Try 6k, k2tog, 2/2LC or C4F.`;

/** What can be typed, as the sheet of keys tells it. */
export const ENTRIES = [
  ['6 k', 'a run of six knit, from the cursor leftwards (p purl, x no stitch)'],
  ['5 .', 'leaves five stitches as they are'],
  ['k 2 t o g', 'a stitch by its word: k2tog, ssk, yo, kfb, cdd; lt and rt twist two'],
  ['2/2 l c', 'a crossing by its groups: 2/2 LC; 2/1 r p c is 2/1 RPC'],
  ['c 4 f', 'a crossing by all its stitches and hold: C4F, T4B'],
  ['2/2 l c -kp/kp', 'a crossing whose groups are ribbed'],
  ['! 4 k', 'sets these cells alone: nothing follows, nothing is mirrored'],
  ['3 Enter', 'the third stitch in reach'],
  [
    'Enter',
    'what is typed; else the stitch in hand, or the last entry again; over the selection if there is one',
  ],
] as const;
