/**
 * How a loop on the needle presents on the right side (RS) of the fabric:
 * a knit loop shows a smooth V, a purl loop a bump.
 */
export type Face = 'knit' | 'purl';

/** How one stitch of a crossing is worked, as the RS shows it. */
export type Worked = 'k' | 'p' | 'ktbl' | 'ptbl';

export const WORKED: readonly Worked[] = ['k', 'p', 'ktbl', 'ptbl'];

/** The face a worked stitch shows; a twisted stitch keeps the face of the plain one. */
export function faceOf(worked: Worked): Face {
  return worked === 'k' || worked === 'ktbl' ? 'knit' : 'purl';
}

/** Whether it is worked through the back loop, which twists the loop below it. */
export const isTwisted = (worked: Worked): boolean => worked === 'ktbl' || worked === 'ptbl';

const OTHER_SIDE: Record<Worked, Worked> = { k: 'p', p: 'k', ktbl: 'ptbl', ptbl: 'ktbl' };

/** What the hands do on the wrong side (WS) to show `worked` on the RS: knit and purl change places. */
export function otherSide(worked: Worked): Worked {
  return OTHER_SIDE[worked];
}

export type Side = 'RS' | 'WS';
export type Lean = 'left' | 'right';

export function otherLean(lean: Lean): Lean {
  return lean === 'left' ? 'right' : 'left';
}
