import { BOTH_FACES_TRAINS, pairFrames, wayOf, type Chart } from '@cordelina/core';
import { HandsPicture } from '../ui/HandsPicture.js';

const PAIR = pairFrames();

/** How the hands work it, as one who teaches it says; of pairs with a picture of the loops. */
export function WayNote({ construction, bothFaces }: Pick<Chart, 'construction' | 'bothFaces'>) {
  const { trains, loops } = wayOf({ construction });
  const told = [...trains, ...(bothFaces && loops === 1 ? BOTH_FACES_TRAINS : [])];
  return (
    <details className="text-[14px]">
      <summary className="cursor-pointer text-slate hover:text-peat">How the hands do it</summary>
      <div className="mt-2 grid gap-2">
        {told.map((line) => (
          <p key={line} className="leading-snug">
            {line}
          </p>
        ))}
        {loops === 2 && <HandsPicture frames={PAIR} label="A pair that shows A, and one that shows B" />}
      </div>
    </details>
  );
}
