import { crossingTold, waitingNeedle, type Crossing, type Job, type Side } from '@cordelina/core';
import { useMemo, useState } from 'react';
import { HandsPicture } from '../ui/HandsPicture.js';

/** How to work the crossing that comes next: its steps, which needle lies nearer, and a small moving picture of the loops. */
export function CrossingHelp({ job, crossing, side }: { job: Job; crossing: Crossing; side: Side }) {
  const told = useMemo(() => crossingTold(job, crossing, side), [job, crossing, side]);
  const [isWithout, setWithout] = useState(false);
  const without = told.without !== null && isWithout;
  return (
    <section
      aria-label="The crossing"
      className="mt-3 border border-rule bg-chalk p-3"
      data-testid="crossing-help"
    >
      {told.without !== null && (
        <div role="group" aria-label="How it is worked" className="mb-2 flex flex-wrap gap-2">
          {([false, true] as const).map((is) => (
            <button
              key={String(is)}
              type="button"
              aria-pressed={isWithout === is}
              onClick={() => setWithout(is)}
              className="min-h-11 rounded-sm border border-slate/80 px-3 text-[14px] aria-pressed:border-peat aria-pressed:bg-peat aria-pressed:text-chalk"
            >
              {is ? 'Without a cable needle' : 'With a cable needle'}
            </button>
          ))}
        </div>
      )}
      <p className="text-[17px] leading-snug">{without ? told.without : told.withNeedle}.</p>
      {!without && (
        <>
          <p className="mt-1 text-[15px] font-semibold">{told.nearer}</p>
          <details className="mt-2">
            <summary className="min-h-6 cursor-pointer text-[14px] text-slate">
              The loops, moment by moment
            </summary>
            <div className="mt-2">
              <HandsPicture
                frames={told.frames}
                label="The crossing in your hands"
                waits={waitingNeedle(job.diction.hand)}
              />
            </div>
          </details>
        </>
      )}
      <details className="mt-2 text-[14px]">
        <summary className="min-h-6 cursor-pointer text-slate">Trouble?</summary>
        <ul className="mt-1 grid gap-1">
          <li>
            Holes beside a crossing are normal while it is on the needle: the next rows and washing close
            them.
          </li>
          <li>
            A loose last stitch: ease its yarn along the row towards the loops beside it, and pull the next
            stitch firm.
          </li>
          <li>
            Keep the yarn taut where the groups part, and not tighter elsewhere: a rope draws in by itself.
          </li>
          <li>
            Its mirror image leans the other way: what is held in front there is held in back here.
            Left–front, right–back.
          </li>
          <li>Tight crossings strain the hands: rest them, and use a thinner cable needle.</li>
        </ul>
      </details>
    </section>
  );
}
