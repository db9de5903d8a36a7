import type { Face } from '../stitches/face.js';

/**
 * A loop on the needle: what it shows on the right side, whether it was worked through the back, and for how many
 * rows it has been slipped. Equal loops are one object. Which strand it continues is told by the row that made it
 * (`RowWork.from`), so that a strand that moves does not make every loop above it another.
 */
export interface Loop {
  readonly face: Face;
  readonly twisted: boolean;
  readonly slipped: number;
}

/** The loops of a needle, from the right as the RS looks. Equal needles are one object. */
export type Needle = readonly Loop[];

/** Past so many rows a slipped loop is only "slipped for long". */
const MOST_SLIPPED = 15;

const codeOf = (face: Face, twisted: boolean, slipped: number): number =>
  (Math.min(slipped, MOST_SLIPPED) << 2) | (twisted ? 2 : 0) | (face === 'purl' ? 1 : 0);

const LOOPS: readonly Loop[] = Array.from({ length: (MOST_SLIPPED + 1) << 2 }, (_, code) =>
  Object.freeze({ face: code & 1 ? 'purl' : 'knit', twisted: (code & 2) > 0, slipped: code >> 2 }),
);

export const loopOf = (face: Face, twisted = false, slipped = 0): Loop =>
  LOOPS[codeOf(face, twisted, slipped)]!;

const needles = new Map<string, WeakRef<Needle>>();
const givenUp = new FinalizationRegistry<string>((key) => {
  if (!needles.get(key)?.deref()) needles.delete(key);
});

/** The needle of these loops: the very same object for equal ones, so that needles are compared at once. */
export function needleOf(loops: readonly Loop[]): Needle {
  let key = '';
  for (const { face, twisted, slipped } of loops) key += String.fromCharCode(codeOf(face, twisted, slipped));
  const known = needles.get(key)?.deref();
  if (known) return known;
  const made = Object.freeze([...loops]);
  needles.set(key, new WeakRef(made));
  givenUp.register(made, key);
  return made;
}

/** Whether two needles show the same on the right side, however their loops came about. */
export function sameFaces(a: Needle, b: Needle): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i]!.face !== b[i]!.face) return false;
  return true;
}
