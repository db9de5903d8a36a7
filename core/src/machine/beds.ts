import { crossing, crossingProblem } from '../stitches/crossing.js';
import type { Stitch } from '../stitches/book.js';
import type { Lean, Worked } from '../stitches/face.js';
import { inOrder, needleAt, placeOf } from './needles.js';

/** What the operator does at a count of the rows. */
export interface Action {
  /** The rows that are knit before it. */
  counter: number;
  /** A cable's stitches change places on their bed; a rope that moves goes to the next needle, out or in. */
  kind: 'cable' | 'move';
  from: readonly string[];
  /** Where each of `from` goes. */
  to: readonly string[];
  /** Of a cable, the needles whose stitches lie over. */
  over?: readonly string[];
  /** The needles that are put out of work. */
  out: readonly string[];
}

/** The needles in work before the first row: ropes hang on the back bed, ground on the front one. */
export interface Setup {
  back: readonly string[];
  front: readonly string[];
}

/** A needle that was left in work without a loop and began a stitch of its own, at the count of the row it did so in. */
export interface Grown {
  counter: number;
  needle: string;
}

/** What a bed holds: the places of needles in work, and whether each has a loop. */
type Bed = Map<number, boolean>;

export const placesOf = (needles: readonly string[]): number[] => needles.flatMap((n) => placeOf(n) ?? []);

/** The stitches of one action in the row that is knit after it, by the place of the rightmost. */
export interface Crossed {
  from: number;
  stitch: Exclude<Stitch, string>;
}

/** A machine of two beds, simulated: it works a list row by row and loop by loop, and knows of no chart. */
export class Beds {
  readonly #back: Bed;
  readonly #front: Bed;
  /** Whether the ground goes on across the front bed under the ropes, or faces them needle to needle. */
  readonly #isWhole: boolean;
  readonly grown: Grown[] = [];
  #counter = 0;

  constructor({ back, front }: Setup) {
    this.#back = new Map(placesOf(back).map((place) => [place, true]));
    this.#front = new Map(placesOf(front).map((place) => [place, true]));
    this.#isWhole = placesOf(back).some((place) => this.#front.has(place));
  }

  get counter(): number {
    return this.#counter;
  }

  /** How the needles of a bed stand: by place, whether each in work has a loop. */
  standing(bed: 'back' | 'front'): ReadonlyMap<number, boolean> {
    return bed === 'back' ? this.#back : this.#front;
  }

  get back(): string[] {
    return inOrder([...this.#back.keys()].filter((p) => this.#back.get(p)));
  }

  get front(): string[] {
    return inOrder([...this.#front.keys()].filter((p) => this.#front.get(p)));
  }

  /** Does an action. @throws Error with a sentence where a needle holds nothing, or two loops would meet on one. */
  act({ kind, from, to, over = [], out }: Action): Crossed[] {
    const [starts, ends] = [placesOf(from), placesOf(to)];
    if (starts.length !== from.length || ends.length !== to.length || starts.length !== ends.length)
      throw new Error('Every needle has one that its stitch goes to, and is one of the bed.');
    const bare = starts.find((place) => !this.#back.get(place));
    if (bare !== undefined) throw new Error(`${needleAt(bare)} of the back bed holds no stitch.`);
    const met = ends.find(
      (place, i) => ends.indexOf(place) < i || (this.#back.get(place) && !starts.includes(place)),
    );
    if (met !== undefined) throw new Error(`Two stitches would hang on ${needleAt(met)}.`);
    const reach = kind === 'move' ? 1 : Infinity;
    const far = starts.findIndex((place, i) => Math.abs(ends[i]! - place) > reach);
    if (far >= 0) throw new Error(`${from[far]!} would go further than the next needle.`);

    const left = starts.filter((place) => !ends.includes(place));
    const taken = ends.filter((place) => !starts.includes(place));
    for (const place of starts) this.#back.set(place, false);
    for (const place of ends) this.#back.set(place, true);
    // Facing needle to needle, the ground that stood where the rope goes stands where it came from.
    if (!this.#isWhole) {
      for (const place of taken) this.#front.delete(place);
      for (const place of left) this.#front.set(place, true);
    }
    for (const place of placesOf(out)) {
      if (this.#back.get(place))
        throw new Error(`${needleAt(place)} holds a stitch, and cannot be put out of work.`);
      this.#back.delete(place);
    }
    return kind === 'cable' ? cableOf(starts, ends, placesOf(over)) : movesOf(starts, ends);
  }

  /** Knits a row: every needle in work, whether it holds a loop or begins one. */
  knit(): Map<number, Worked[]> {
    const made = new Map<number, Worked[]>();
    for (const [bed, face] of [
      [this.#front, 'p'],
      [this.#back, 'k'],
    ] as const)
      for (const [place, hasLoop] of bed) {
        if (!hasLoop) {
          bed.set(place, true);
          this.grown.push({ counter: this.#counter, needle: needleAt(place) });
        }
        made.set(place, [...(made.get(place) ?? []), face]);
      }
    this.#counter++;
    return made;
  }

  /** What a place shows of its stitches: a rope lies before whole ground. Null where a chart has no one stitch for it. */
  shown(stitches: readonly Worked[]): Worked | null {
    if (stitches.length === 1) return stitches[0]!;
    return this.#isWhole && stitches.includes('k') ? 'k' : null;
  }
}

/** Stitches of one bed that change places, as a crossing: those that lie over go one way, the others the other. */
function cableOf(starts: readonly number[], ends: readonly number[], over: readonly number[]): Crossed[] {
  const from = Math.min(...starts);
  const isOver = (place: number) => over.includes(place);
  const front = starts.filter(isOver);
  const back = starts.filter((place) => !isOver(place));
  const problem = crossingProblem(front.length, 0, back.length);
  const isWhole = starts.every((place) => place >= from && place < from + starts.length);
  if (problem || !isWhole)
    throw new Error('A cable changes two neighbouring groups of stitches, one of which lies over.');
  const lean: Lean = Math.min(...front) === from ? 'left' : 'right';
  // What lies over goes to the other end, in its order, and so do the others.
  const by = lean === 'left' ? back.length : -back.length;
  const keeps = starts.every(
    (place, i) => ends[i] === place + (isOver(place) ? by : -Math.sign(by) * front.length),
  );
  if (!keeps) throw new Error('In a cable each group keeps its order.');
  const knit = (group: readonly number[]) => group.map((): Worked => 'k');
  return [{ from, stitch: crossing(lean, knit(front), knit(back)) }];
}

/** Ropes that go a needle on, as crossings over the ground stitch they pass. */
function movesOf(starts: readonly number[], ends: readonly number[]): Crossed[] {
  const moves = starts.map((place, i) => ({ place, by: ends[i]! - place })).sort((a, b) => a.place - b.place);
  const ropes: { places: number[]; by: number }[] = [];
  for (const { place, by } of moves) {
    const last = ropes.at(-1);
    if (last?.by === by && last.places.at(-1) === place - 1) last.places.push(place);
    else ropes.push({ places: [place], by });
  }
  return ropes.map(({ places, by }) => ({
    from: Math.min(places[0]!, places[0]! + by),
    stitch: crossing(
      by > 0 ? 'left' : 'right',
      places.map((): Worked => 'k'),
      ['p'],
    ),
  }));
}
