import type { Gauge } from '../measures/gauge.js';
import type { Length } from '../measures/length.js';

/** Fitting a piece to a width: how often fillings are repeated and how wide gaps are, in whole stitches. */

/** Something of a piece, from the right as the RS looks, by its stitches and how wide they lie. */
export type FitPart =
  | { kind: 'fixed'; stitches: number; gauge: Gauge }
  /** A gap of ground: so many stitches wished for, within bounds. Those of one pair are equally wide. */
  | { kind: 'gap'; stitches: number; least: number; most: number; pair?: string; gauge: Gauge }
  /** A chart repeated as often as fits: a multiple of `of` plus `plus`. */
  | { kind: 'filling'; of: number; plus: number; least: number; most: number; pair?: string; gauge: Gauge };

/** One way to come near a width. */
export interface FitSolution {
  castOn: number;
  width: Length;
  /** The width beyond what was wished for; negative where it is narrower. */
  off: Length;
  /** How often each filling is repeated, and how wide each gap is, from the right. */
  repeats: readonly number[];
  gaps: readonly number[];
  /** Parts that stand in each other's mirror places and are not equally wide. */
  uneven: number;
  /** Stitches that gaps are away from their wish. */
  moved: number;
}

export interface Fitted {
  solutions: readonly FitSolution[];
  /** Whether every way was weighed; where there are too many, the search was ended. */
  isWhole: boolean;
}

/** Choices looked into in one search: a moment's work. */
const MOST_STEPS = 400_000;

/** What may be chosen: parts that share one number. */
interface Choice {
  parts: readonly number[];
  least: number;
  most: number;
  /** Width of one more, and of the part that is there in any case. */
  each: number;
}

/** What sums of fractions are off by at most, whatever their order: half a micrometre is told the same in every one. */
const TINY = 1e-6;
const whole = (width: number): Length => Math.round(width + TINY);

const widthOf = (stitches: number, { count, over }: Gauge): number => (stitches * over) / count;

function choicesOf(parts: readonly FitPart[]): Choice[] {
  const choices = new Map<string, Choice & { parts: number[] }>();
  parts.forEach((part, i) => {
    if (part.kind === 'fixed') return;
    const each = widthOf(part.kind === 'gap' ? 1 : part.of, part.gauge);
    // What is paired is chosen once, within the bounds of both.
    const key = part.pair === undefined ? `${i}` : `pair ${part.kind} ${part.pair}`;
    const known = choices.get(key);
    if (!known) choices.set(key, { parts: [i], least: part.least, most: part.most, each });
    else {
      known.parts.push(i);
      known.least = Math.max(known.least, part.least);
      known.most = Math.min(known.most, part.most);
      known.each += each;
    }
  });
  // The coarsest first: the finest then makes up what is left.
  return [...choices.values()].sort((a, b) => b.each - a.each);
}

/** What solutions are ranked by. */
type Rank = Pick<FitSolution, 'off' | 'uneven' | 'moved' | 'castOn'>;

const inOrder = (a: Rank, b: Rank): number =>
  Math.abs(a.off) - Math.abs(b.off) || a.uneven - b.uneven || a.moved - b.moved || a.castOn - b.castOn;

/**
 * The ways that come nearest to a width: by how near, then by how symmetrical, then by how little gaps move from their
 * wish. Choices are taken from the coarsest to the finest; a branch is left once none of the widths it still reaches
 * is as near as the last of those kept, so nothing nearer is missed.
 *
 * @param most how many are kept
 */
export function fitWidth(parts: readonly FitPart[], wanted: Length, most = 5): Fitted {
  const choices = choicesOf(parts);
  if (choices.some(({ least, most: top }) => least > top)) return { solutions: [], isWhole: true };
  const chosen = new Int32Array(parts.length);
  const fixed = parts.reduce((sum, part) => {
    if (part.kind === 'gap') return sum;
    return sum + widthOf(part.kind === 'fixed' ? part.stitches : part.plus, part.gauge);
  }, 0);
  /** The narrowest and widest that the choices from each on come to. */
  const narrowest = new Float64Array(choices.length + 1);
  const widest = new Float64Array(choices.length + 1);
  for (let i = choices.length - 1; i >= 0; i--) {
    const { least, most: top, each } = choices[i]!;
    narrowest[i] = narrowest[i + 1]! + least * each;
    widest[i] = widest[i + 1]! + top * each;
  }
  const kept: FitSolution[] = [];
  /** How far off the last of those kept is: a width as far off may still be the better one. */
  const reach = () => (kept.length < most ? Infinity : Math.abs(kept.at(-1)!.off) + 0.5 + TINY);
  let steps = 0;

  const stitches = new Int32Array(parts.length);
  const weigh = (width: number) => {
    const off = whole(width) - wanted;
    const last = kept.length === most ? kept.at(-1)! : null;
    if (last && Math.abs(off) > Math.abs(last.off)) return;
    const rank = { off, uneven: 0, moved: 0, castOn: 0 };
    for (let i = 0; i < parts.length; i++) {
      const part = parts[i]!;
      if (part.kind === 'fixed') stitches[i] = part.stitches;
      else if (part.kind === 'filling') stitches[i] = part.plus + part.of * chosen[i]!;
      else {
        stitches[i] = chosen[i]!;
        rank.moved += Math.abs(chosen[i]! - part.stitches);
      }
      rank.castOn += stitches[i]!;
    }
    for (let i = 0, k = parts.length - 1; i < k; i++, k--) if (stitches[i] !== stitches[k]) rank.uneven++;
    if (last && inOrder(rank, last) >= 0) return;
    let at = kept.length;
    while (at > 0 && inOrder(rank, kept[at - 1]!) < 0) at--;
    const ofKind = (kind: FitPart['kind']) => [...chosen].filter((_, i) => parts[i]!.kind === kind);
    const solution = {
      ...rank,
      width: whole(width),
      repeats: ofKind('filling'),
      gaps: ofKind('gap'),
    };
    kept.splice(at, 0, solution);
    if (kept.length > most) kept.pop();
  };

  const choose = (i: number, width: number): void => {
    const choice = choices[i];
    if (!choice) return weigh(width);
    const { least, most: top, each } = choice;
    // From the number that comes nearest outwards, on both sides.
    const middle = (narrowest[i + 1]! + widest[i + 1]!) / 2;
    const best = Math.min(top, Math.max(least, Math.round((wanted - width - middle) / each)));
    const take = (n: number): boolean => {
      const low = width + n * each + narrowest[i + 1]!;
      const high = width + n * each + widest[i + 1]!;
      const off = low > wanted ? low - wanted : high < wanted ? wanted - high : 0;
      if (off > reach()) return false;
      if (++steps > MOST_STEPS) return false;
      for (const part of choice.parts) chosen[part] = n;
      choose(i + 1, width + n * each);
      return true;
    };
    take(best);
    let [up, down] = [true, true];
    for (let by = 1; up || down; by++) {
      up &&= best + by <= top && take(best + by);
      down &&= best - by >= least && take(best - by);
    }
  };
  choose(0, fixed);
  return { solutions: kept, isWhole: steps <= MOST_STEPS };
}
