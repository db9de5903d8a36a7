import { ofEach } from '../remember.js';
import { faceOf, otherLean, otherSide, type Face, type Lean, type Worked } from './face.js';

/**
 * Stitches that change places over front + centre + back adjacent loops.
 *
 * The front group passes over and is seen; `lean` is the way it travels, seen from the right side. Each
 * group lists its stitches from the right, as worked in this row and as the RS shows them; a group keeps its
 * inner order. A centre group keeps its place and lies behind both others.
 */
export interface Crossing {
  readonly lean: Lean;
  readonly front: readonly Worked[];
  readonly centre: readonly Worked[];
  readonly back: readonly Worked[];
}

/** The most stitches one group may hold. */
export const LARGEST_GROUP = 12;

/** Why a crossing of these group sizes cannot be worked, as one sentence, or null when it can. */
export function crossingProblem(front: number, centre: number, back: number): string | null {
  const groups: [string, number, number][] = [
    ['front', front, 1],
    ['centre', centre, 0],
    ['back', back, 1],
  ];
  for (const [name, size, least] of groups) {
    if (!Number.isInteger(size) || size < least)
      return `The ${name} group needs ${least === 0 ? 'no' : 'at least one'} stitch${least === 0 ? 'es or more' : ''}; ${size} cannot be worked.`;
    if (size > LARGEST_GROUP)
      return `The ${name} group holds ${size} stitches; ${LARGEST_GROUP} is the most a group may hold.`;
  }
  return null;
}

/** Crossings in use, by id; one that nothing holds any more is given up, and its entry with it. */
const interned = new Map<string, WeakRef<Crossing>>();
const givenUp = new FinalizationRegistry<string>((id) => {
  if (!interned.get(id)?.deref()) interned.delete(id);
});

/**
 * Makes a crossing. Equal crossings are the same object, so rows that use them compare quickly.
 *
 * @throws RangeError when a group is empty or too large
 */
export function crossing(
  lean: Lean,
  front: readonly Worked[],
  back: readonly Worked[],
  centre: readonly Worked[] = [],
): Crossing {
  const problem = crossingProblem(front.length, centre.length, back.length);
  if (problem) throw new RangeError(problem);
  const id = idOf(lean, front, centre, back);
  const known = interned.get(id)?.deref();
  if (known) return known;
  const made = Object.freeze({
    lean,
    front: Object.freeze([...front]),
    centre: Object.freeze([...centre]),
    back: Object.freeze([...back]),
  });
  interned.set(id, new WeakRef(made));
  givenUp.register(made, id);
  return made;
}

/** A crossing from numbers: `front` knit stitches over `back` knit or purl ones. */
export function simpleCrossing(lean: Lean, front: number, back: number, under: 'k' | 'p' = 'k'): Crossing {
  return crossing(lean, Array<Worked>(front).fill('k'), Array<Worked>(back).fill(under));
}

function idOf(lean: Lean, ...groups: (readonly Worked[])[]): string {
  return `${lean}:${groups.map((g) => g.join('.')).join('/')}`;
}

/** A short text that is equal for equal crossings and only for them. */
export const crossingId = ofEach((c: Crossing): string => idOf(c.lean, c.front, c.centre, c.back));

export const sameCrossing = (a: Crossing, b: Crossing): boolean => crossingId(a) === crossingId(b);

export function crossingSize(c: Crossing): number {
  return c.front.length + c.centre.length + c.back.length;
}

/**
 * Where each loop goes: entry i is the place, from the right before the crossing, of the loop that stands at
 * place i afterwards. Left: F C B becomes B C F; right: B C F becomes F C B (both read from the right).
 */
export function crossingOrder(c: Crossing): number[] {
  const run = (from: number, length: number) => Array.from({ length }, (_, i) => from + i);
  const [first, last] = c.lean === 'left' ? [c.front, c.back] : [c.back, c.front];
  const middle = c.centre.length;
  return [...run(first.length + middle, last.length), ...run(first.length, middle), ...run(0, first.length)];
}

export type Group = 'front' | 'centre' | 'back';

/** The stitches from the right as they lie before the crossing, each with its group. */
export function stitchesBefore(c: Crossing): { group: Group; worked: Worked }[] {
  const of = (group: Group) => c[group].map((worked) => ({ group, worked }));
  const [near, far] = c.lean === 'left' ? (['front', 'back'] as const) : (['back', 'front'] as const);
  return [...of(near), ...of('centre'), ...of(far)];
}

/** The worked stitches from the right, as they lie after the crossing. */
export function workedAfter(c: Crossing): Worked[] {
  return c.lean === 'left' ? [...c.back, ...c.centre, ...c.front] : [...c.front, ...c.centre, ...c.back];
}

/** Faces of the loops from the right, after the crossing. */
export function crossingFaces(c: Crossing): Face[] {
  return workedAfter(c).map(faceOf);
}

const reversed = (group: readonly Worked[]) => [...group].reverse();

/** The crossing seen in a mirror: the other lean, and each group read from its other end. */
export function mirrorCrossing(c: Crossing): Crossing {
  return crossing(otherLean(c.lean), reversed(c.front), reversed(c.back), reversed(c.centre));
}

/** Whether a group is a rib of knit and purl in turn, from the right, whose ribs are whole. */
const isRib = (group: readonly Worked[]): boolean =>
  group.length % 2 === 0 && group.every((worked, i) => worked === (i % 2 ? 'p' : 'k'));

/** Whether it moves whole ribs, so that the rib goes on through it and both faces of the cloth look alike. */
export const isInRib = ofEach(
  ({ front, centre, back }: Crossing): boolean => isRib(front) && isRib(centre) && isRib(back),
);

/** The same crossing with its groups worked as k1, p1 ribs. */
export function inRib(c: Crossing): Crossing {
  const ribbed = (group: readonly Worked[]) => group.map((_, i): Worked => (i % 2 ? 'p' : 'k'));
  return crossing(c.lean, ribbed(c.front), ribbed(c.back), ribbed(c.centre));
}

/** The same ropes with the lean turned: the classic mend of a crossing turned the wrong way. */
export function turnCrossing(c: Crossing): Crossing {
  return crossing(otherLean(c.lean), c.front, c.back, c.centre);
}

/**
 * The same ropes with what lay behind now in front. The loops end in the same places: where a rope that
 * travelled left passed over, the rope that travels right does now.
 */
export function flipCrossing(c: Crossing): Crossing {
  return crossing(otherLean(c.lean), c.back, c.front, c.centre);
}

/**
 * What the other side of the fabric shows: the back group lies in front there, each group is met from its
 * other end and shows the other face. The lean stays, since a crossing has the same hand from both sides.
 */
export function behindCrossing(c: Crossing): Crossing {
  const seen = (group: readonly Worked[]) => reversed(group).map(otherSide);
  return crossing(c.lean, seen(c.back), seen(c.front), seen(c.centre));
}
