import type { Face } from '../stitches/face.js';

/** The beds of needles loops wait on: the one nearer to the right side, and where there is a second, the one behind it. */
export type Bed = 0 | 1;

/** Yarns worked with at once, at most. */
export const MOST_YARNS = 8;

/**
 * A loop on the needle: what it shows on the right side, whether it was worked through the back, for how many rows it has
 * been slipped, on which bed it waits, and of which yarn it is (from 0). Equal loops are one object. Which strand it continues is told by the row that made it
 * (`RowWork.from`), so that a strand that moves does not make every loop above it another.
 */
export interface Loop {
  readonly face: Face;
  readonly twisted: boolean;
  readonly slipped: number;
  readonly bed: Bed;
  readonly yarn: number;
}

/** The loops of a needle, from the right as the RS looks. Equal needles are one object. */
export type Needle = readonly Loop[];

/** Past so many rows a slipped loop is only "slipped for long". */
const MOST_SLIPPED = 15;

/** A loop as a number: two bits for what it shows, four for how long it was slipped, one for its bed, three for its yarn. */
const codeOf = ({ face, twisted, slipped, bed, yarn }: Loop): number =>
  (yarn << 7) |
  (bed << 6) |
  (Math.min(slipped, MOST_SLIPPED) << 2) |
  (twisted ? 2 : 0) |
  (face === 'purl' ? 1 : 0);

const LOOPS: readonly Loop[] = Array.from({ length: MOST_YARNS << 7 }, (_, code) =>
  Object.freeze({
    face: code & 1 ? 'purl' : 'knit',
    twisted: (code & 2) > 0,
    slipped: (code >> 2) & MOST_SLIPPED,
    bed: ((code >> 6) & 1) as Bed,
    yarn: code >> 7,
  }),
);

export const loopOf = (face: Face, twisted = false, slipped = 0, bed: Bed = 0, yarn = 0): Loop =>
  LOOPS[codeOf({ face, twisted, slipped, bed, yarn })]!;

/** A loop that was passed on unworked: as it was, slipped for one row more. */
export const slippedOn = ({ face, twisted, slipped, bed, yarn }: Loop): Loop =>
  loopOf(face, twisted, slipped + 1, bed, yarn);

const needles = new Map<string, WeakRef<Needle>>();
const givenUp = new FinalizationRegistry<string>((key) => {
  if (!needles.get(key)?.deref()) needles.delete(key);
});

/** The needle of these loops: the very same object for equal ones, so that needles are compared at once. */
export function needleOf(loops: readonly Loop[]): Needle {
  let key = '';
  for (const loop of loops) key += String.fromCharCode(codeOf(loop));
  const known = needles.get(key)?.deref();
  if (known) return known;
  const made = Object.freeze([...loops]);
  needles.set(key, new WeakRef(made));
  givenUp.register(made, key);
  return made;
}

/** Whether two needles show the same on the right side, face and yarn, however their loops came about. */
export function sameFaces(a: Needle, b: Needle): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i]!.face !== b[i]!.face || a[i]!.yarn !== b[i]!.yarn) return false;
  return true;
}
