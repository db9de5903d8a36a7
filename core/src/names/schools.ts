import type { Chart, School, Settings } from '../chart/schema.js';
import { wayOf, type Hand } from '../construction/index.js';
import {
  crossing,
  crossingId,
  crossingSize,
  inRib,
  isInRib,
  LARGEST_GROUP,
  sameCrossing,
  type Crossing,
} from '../stitches/crossing.js';
import { twistOf, type TwistMethod } from '../stitches/twist.js';
import type { Lean, Side, Worked } from '../stitches/face.js';

/** How one design names its crossings: a school, the designer's own names by crossing id, and for whose hands. */
export interface Naming {
  school: School;
  names: Readonly<Record<string, string>>;
  hand?: Hand;
  /** How two-stitch twists are worked, and whether they are called twists. */
  twist?: TwistMethod;
  twistNames?: 'crossing' | 'twist';
  /** What one stitch counts for in the numbers of a school's names: two, where pairs are counted by their loops. */
  each?: number;
}

/**
 * What a name may depend on besides the crossing: the side of the row, and the hands. L and R are the lean as the
 * right side looks, F and B where these hands hold the cable needle, and numbers of worked order what they work first.
 */
export interface Told extends Pick<Naming, 'hand' | 'twist' | 'twistNames' | 'each'> {
  side?: Side;
}

/** Whether these hands hold the cable needle in front for a crossing of this lean; the same on both sides. */
const heldInFront = (lean: Lean, { hand }: Told): boolean =>
  (lean === 'left') !== (hand === 'left-same-fabric');

/** Whether the back group is worked first: on the RS where the needle is held in front, on the WS where it is not. */
const backFirst = (lean: Lean, told: Told): boolean => heldInFront(lean, told) !== (told.side === 'WS');

/** What each school is called and what its numbers and letters mean, with one example. */
export const SCHOOL_NOTES: Record<School, { title: string; example: string; meaning: string }> = {
  'front-back': {
    title: 'Front / back',
    example: '2/1 RPC',
    meaning: 'stitches in the front group / in the back group',
  },
  'total-hold': {
    title: 'Total and hold',
    example: 'C4F, T3B',
    meaning: 'all stitches; F and B say where the cable needle is held',
  },
  'total-lean': {
    title: 'Total and lean',
    example: 'C4L, T3R',
    meaning: 'all stitches; L and R say which way it leans',
  },
  'total-ground': {
    title: 'Total, by ground',
    example: 'C4F, C3R',
    meaning: 'all stitches; F and B where all are knit, L and R where the back is purled',
  },
  'worked-order': {
    title: 'Worked order',
    example: '2/1 right purl cable',
    meaning: 'stitches worked first / worked second',
  },
  spelled: {
    title: 'Spelled out',
    example: 'sl 2 to cable needle …',
    meaning: 'every crossing in full, in the row',
  },
};

const LETTER: Record<Worked, string> = { k: 'k', p: 'p', ktbl: 'b', ptbl: 'q' };
const WORKED_BY_LETTER: Record<string, Worked> = { k: 'k', p: 'p', b: 'ktbl', q: 'ptbl' };

const all = (group: readonly Worked[], w: Worked) => group.every((s) => s === w);

type Ground = 'knit' | 'purl' | 'other';

/**
 * The two grounds every school has a name for: all knit, and ropes of knit over purl. With a centre group it
 * is the centre that is purled (the ropes on both sides are knit).
 */
function groundOf(c: Crossing): Ground {
  if (!all(c.front, 'k')) return 'other';
  if (all(c.back, 'k') && all(c.centre, 'k')) return 'knit';
  const purled = c.centre.length ? all(c.back, 'k') && all(c.centre, 'p') : all(c.back, 'p');
  return purled ? 'purl' : 'other';
}

/** Letters of a group's faces; one letter when all its stitches are alike. */
function faces(group: readonly Worked[]): string {
  return group.every((w) => w === group[0]) ? LETTER[group[0]!] : group.map((w) => LETTER[w]).join('');
}

const isTwoStitch = ({ front, centre, back }: Crossing): boolean =>
  front.length === 1 && back.length === 1 && !centre.length;

/** Whether a method works two-stitch crossings, and makes this one on right-side rows: a name means one crossing on either side. */
function isTwisted(c: Crossing, { twist = 'cable', hand }: Told): 'by-method' | 'otherwise' | null {
  if (twist === 'cable' || !isTwoStitch(c) || !sameTwistKind(c)) return null;
  return sameCrossing(c, twistOf(twist, c.lean, 'RS', hand === 'left-same-fabric'))
    ? 'by-method'
    : 'otherwise';
}

/** Whether it is of knit stitches, twisted or not: what the methods make. */
const sameTwistKind = ({ front, back }: Crossing): boolean =>
  [front[0]!, back[0]!].every((w) => w.startsWith('k'));

/** What names a crossing that moves whole ribs. */
const IN_RIB = ' in rib';

/**
 * What names the faces of any other crossing: k, p, and b, q for those through the back loop. A two-stitch crossing that the
 * method of the design makes needs no more said; another one of knit stitches does, since the key tells the method.
 */
function facesSuffix(c: Crossing, told: Told): string {
  if (isInRib(c)) return IN_RIB;
  const twisted = isTwisted(c, told);
  if (twisted === 'by-method' || (!twisted && groundOf(c) !== 'other')) return '';
  const groups = c.centre.length ? [c.front, c.centre, c.back] : [c.front, c.back];
  return `-${groups.map(faces).join('/')}`;
}

const numbers = (...sizes: number[]) => sizes.filter((n) => n > 0).join('/');

/** A school's name with every number of stitches so many times as large; null where one is no whole number then. */
function numbersTimes(name: string, by: number): string | null {
  if (by === 1) return name;
  let areWhole = true;
  const scaled = name.replace(/\d+/g, (n) => {
    areWhole &&= Number.isInteger(Number(n) * by);
    return String(Number(n) * by);
  });
  return areWhole ? scaled : null;
}

/** The name a school gives a crossing; null for the school that spells every crossing out. */
export function schoolName(c: Crossing, school: School, told: Told = {}): string | null {
  const name = nameInStitches(c, school, told);
  return name && numbersTimes(name, told.each ?? 1);
}

function nameInStitches(c: Crossing, school: School, told: Told): string | null {
  const left = c.lean === 'left';
  const held = heldInFront(c.lean, told) ? 'F' : 'B';
  const [f, m, b] = [c.front.length, c.centre.length, c.back.length];
  const purl = groundOf(c) === 'purl';
  const suffix = facesSuffix(c, told);
  const n = crossingSize(c);
  if (school !== 'spelled' && told.twistNames === 'twist' && isTwoStitch(c))
    return `${left ? 'L' : 'R'}${purl ? 'P' : ''}T${suffix}`;
  // A total alone says nothing of a centre.
  const centred = m && (!suffix || suffix === IN_RIB) ? `-${numbers(f, m, b)}${suffix}` : suffix;
  switch (school) {
    case 'front-back':
      return `${numbers(f, m, b)} ${left ? 'L' : 'R'}${purl ? 'P' : ''}C${suffix}`;
    case 'total-hold':
      return `${purl ? 'T' : 'C'}${n}${held}${centred}`;
    case 'total-lean':
      return `${purl ? 'T' : 'C'}${n}${left ? 'L' : 'R'}${centred}`;
    case 'total-ground':
      return `C${n}${purl ? (left ? 'L' : 'R') : held}${centred}`;
    case 'worked-order':
      return `${backFirst(c.lean, told) ? numbers(b, m, f) : numbers(f, m, b)} ${c.lean} ${purl ? 'purl ' : ''}cable${suffix}`;
    case 'spelled':
      return null;
  }
}

/** What of a design's settings says how it names its crossings. */
export type NameSettings = Pick<Settings, 'school' | 'names'> &
  Partial<Pick<Settings, 'hand' | 'twist' | 'twistNames'>> & {
    style?: Partial<Pick<Settings['style'], 'pairNames'>>;
  };

/** How a design names the crossings of one of its charts. */
export const namingOf = (
  { school, names, hand, twist = 'cable', twistNames = 'crossing', style }: NameSettings,
  chart: Pick<Chart, 'construction'>,
): Required<Omit<Naming, 'hand'>> & Pick<Naming, 'hand'> => ({
  school,
  names,
  hand,
  twist,
  twistNames,
  each: style?.pairNames === 'loops' ? wayOf({ construction: chart.construction }).loops : 1,
});

/** The name a design uses: the designer's own first, then the school's; null when it is spelled out. */
export function nameOf(c: Crossing, { school, names, ...told }: Naming, side: Side = 'RS'): string | null {
  return names[crossingId(c)] ?? schoolName(c, school, { ...told, side });
}

function groupsFrom(sizes: number[], suffix: string | undefined, purl: boolean): Worked[][] | null {
  if (!suffix) {
    return sizes.map((n, i) => {
      const purled = purl && (sizes.length === 3 ? i === 1 : i === 1);
      return Array<Worked>(n).fill(purled ? 'p' : 'k');
    });
  }
  const parts = suffix.slice(1).split('/');
  if (parts.length !== sizes.length) return null;
  const groups = parts.map((part, i) => {
    const letters = part.length === 1 ? part.repeat(sizes[i]!) : part;
    return [...letters].map((l) => WORKED_BY_LETTER[l]!);
  });
  return groups.every((g, i) => g.length === sizes[i]) ? groups : null;
}

function build(lean: Lean, groups: Worked[][] | null): Crossing[] {
  if (!groups || groups.some((g) => g.length < 1 || g.length > LARGEST_GROUP)) return [];
  const [front, middle, last] = groups as [Worked[], Worked[], Worked[]?];
  return [last ? crossing(lean, front, last, middle) : crossing(lean, front, middle)];
}

const SLASHED = /^(\d+)\/(\d+)(?:\/(\d+))? ([LR])(P?)C(-[kpbq/]+)?$/i;
const ORDERED = /^(\d+)\/(\d+)(?:\/(\d+))? (left|right) (purl )?cable(-[kpbq/]+)?$/i;
const TOTAL = /^(C|T|Cr|Tw)(\d+)([FBLR])?(-[kpbq/]+)?$/i;
/** A total with how it is divided, as a name with a centre says it: C6F-2/2/2. */
const CENTRED = /^(C|T|Cr|Tw)(\d+)([FBLR])-(\d+)\/(\d+)\/(\d+)$/i;
/** Names that carry lean and hold at once: CL3F, CR3B. Case counts: Cr is short for a cross. */
const LEAN_AND_HOLD = /^C([LR])(\d+)([FB])(-[kpbq/]+)?$/;
/** The lean that a letter means: L and R say it, F and B where these hands hold the needle. */
function leanOf(letter: string, told: Told): Lean {
  const left = /^[lf]/i.test(letter);
  const byHold = /^[fb]$/i.test(letter);
  return (byHold ? left === heldInFront('left', told) : left) ? 'left' : 'right';
}

/**
 * Every way to divide `total` stitches into front and back; the equal halves alone where that is possible. A name that
 * is asked about may also mean a centre group between equal ropes, and, named for its purl ground, three over one.
 */
function divisions(total: number, suffix: string | undefined, isAsked = false, purl = false): number[][] {
  if (suffix?.slice(1).split('/').length === 3) {
    const sides = Array.from({ length: LARGEST_GROUP }, (_, i) => i + 1);
    return sides.filter((s) => total - 2 * s >= 1).map((s) => [s, total - 2 * s, s]);
  }
  if (total % 2 === 0) {
    const equal = [total / 2, total / 2];
    return isAsked && purl && total > 2 ? [equal, [total - 1, 1]] : [equal];
  }
  const centred = isAsked && total >= 5 ? [[(total - 1) / 2, 1, (total - 1) / 2]] : [];
  const uneven = Array.from({ length: total - 1 }, (_, i) => [total - 1 - i, i + 1]).filter(
    ([f, b]) => Math.abs(f! - b!) <= total - 2,
  );
  return [...uneven, ...centred];
}

/**
 * The crossings a name may mean in a school: none when the name is unknown, more than one when it does not say
 * how its stitches are divided. A reader must ask then, and never guess. Names with slashes are the front/back
 * school's unless the worked-order school is given. `isAsked` gives also those that only some designers mean, and
 * takes totals that do not say which way they lean.
 */
export function crossingsNamed(
  name: string,
  school: School | undefined,
  told: Told = {},
  isAsked = false,
): Crossing[] {
  const text = numbersTimes(name.trim().replace(/\s+/g, ' '), 1 / (told.each ?? 1));
  return text === null ? [] : crossingsInStitches(text, school, told, isAsked);
}

function crossingsInStitches(
  text: string,
  school: School | undefined,
  told: Told,
  isAsked: boolean,
): Crossing[] {
  if (text.endsWith(IN_RIB))
    return crossingsInStitches(text.slice(0, -IN_RIB.length), school, told, isAsked)
      .filter((c) => groundOf(c) === 'knit')
      .map(inRib)
      .filter(isInRib);
  const slashed = SLASHED.exec(text);
  if (slashed) {
    const [, a, b, c, lr, p, suffix] = slashed;
    const lean = leanOf(lr!, told);
    return slashedCrossing([a, b, c], lean, !!p, suffix, school === 'worked-order' && backFirst(lean, told));
  }
  const ordered = ORDERED.exec(text);
  if (ordered) {
    const [, a, b, c, lean, p, suffix] = ordered;
    const leans = leanOf(lean!, told);
    return slashedCrossing([a, b, c], leans, !!p, suffix, backFirst(leans, told));
  }
  const both = LEAN_AND_HOLD.exec(text);
  if (both) {
    const [, lean, n, hold, suffix] = both;
    const leans = leanOf(lean!, told);
    return leans === leanOf(hold!, told)
      ? ofTotal(Number(n), leans, suffix, isAsked && !suffix ? [false, true] : [false], isAsked)
      : [];
  }
  const centred = CENTRED.exec(text);
  if (centred) {
    const [, letter, n, end, a, b, c] = centred;
    if (Number(a) + Number(b) + Number(c) !== Number(n)) return [];
    return grounds(letter!, Number(n), /[LR]/i.test(end!), school).flatMap((p) =>
      slashedCrossing([a, b, c], leanOf(end!, told), p, undefined, false),
    );
  }
  const total = TOTAL.exec(text);
  if (!total) return [];
  const [, letter, n, end, suffix] = total;
  if (!end && !isAsked) return [];
  const leans: Lean[] = end ? [leanOf(end, told)] : ['left', 'right'];
  const purled = isAsked
    ? groundsAsked(letter!, Number(n), /[LR]/i.test(end ?? ''), school)
    : grounds(letter!, Number(n), /[LR]/i.test(end ?? ''), school);
  if (isAsked && Number(n) === 2 && !/^(?:c|cr)$/i.test(letter!))
    return leans.flatMap((lean) => [
      ...ofTotal(2, lean, suffix, purled, isAsked),
      ...(suffix ? [] : [crossing(lean, ['ktbl'], ['ktbl']), crossing(lean, ['ktbl'], ['p'])]),
    ]);
  return leans.flatMap((lean) => ofTotal(Number(n), lean, suffix, purled, isAsked));
}

/**
 * Whether the back of a crossing named by its total is purled: the schools differ. T is a rope over purl ground,
 * but without a school T2 may as well be a 1/1 twist; C with a lean is purled behind in the school that goes by
 * ground, and knit in the others.
 */
function grounds(letter: string, total: number, byLean: boolean, school: School | undefined): boolean[] {
  if (letter.toUpperCase() !== 'C') return !school && total === 2 ? [false, true] : [true];
  if (!byLean) return [false];
  if (!school) return [false, true];
  return [school === 'total-ground'];
}

/** The same where a reader asks: what two letters alone say (Cr, Tw) is not the same from one designer to the next. */
function groundsAsked(letter: string, total: number, byLean: boolean, school: School | undefined): boolean[] {
  if (/^(?:cr|tw)$/i.test(letter) || (/^t$/i.test(letter) && total === 2)) return [false, true];
  return grounds(letter, total, byLean, school);
}

/** No crossing has so many stitches: nothing is built from a larger number in a name. */
const LARGEST_NAMED = 99;

function ofTotal(
  total: number,
  lean: Lean,
  suffix: string | undefined,
  purled: readonly boolean[],
  isAsked = false,
): Crossing[] {
  if (total > LARGEST_NAMED) return [];
  return purled.flatMap((purl) =>
    divisions(total, suffix, isAsked, purl).flatMap((sizes) => build(lean, groupsFrom(sizes, suffix, purl))),
  );
}

function slashedCrossing(
  numerals: (string | undefined)[],
  lean: Lean,
  purl: boolean,
  suffix: string | undefined,
  isBackFirst: boolean,
): Crossing[] {
  const sizes = numerals.filter((n) => n !== undefined).map(Number);
  if (sizes.some((n) => n > LARGEST_NAMED)) return [];
  if (isBackFirst) sizes.reverse();
  return build(lean, groupsFrom(sizes, suffix, purl));
}
