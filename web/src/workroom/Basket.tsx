import { counted, DAYS_IN_BASKET, type InBasket } from '@cordelina/core';
import { addDays, differenceInCalendarDays, formatDistanceToNowStrict } from 'date-fns';
import { useEffect, useState } from 'react';
import { forgetFromBasket, putBack } from '../desk/designs.js';
import { useAppDispatch } from '../desk/state/index.js';
import { listBasket, Refused, ServerAway } from '../sync/server.js';
import { Button } from '../ui/Button.js';
import { SheetDialog } from '../ui/Sheet.js';

/** What was taken out of the workroom: for some weeks it can be put back. */
export function Basket({ onClose }: { onClose: () => void }) {
  const dispatch = useAppDispatch();
  const [kept, setKept] = useState<readonly InBasket[] | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [sure, setSure] = useState<string | null>(null);
  const [asked, setAsked] = useState(0);
  useEffect(() => {
    let isOver = false;
    listBasket().then(
      (all) => !isOver && (setKept(all), setTrouble(null)),
      (error: unknown) => {
        if (!(error instanceof ServerAway || error instanceof Refused)) throw error;
        if (!isOver)
          setTrouble(
            'The server is away: what was taken out lies there, and comes to light when it is back.',
          );
      },
    );
    return () => void (isOver = true);
  }, [asked]);
  const act = async (work: Promise<unknown>) => {
    await work;
    setSure(null);
    setAsked((n) => n + 1);
  };
  const left = ({ takenOutAt }: InBasket) =>
    Math.max(0, differenceInCalendarDays(addDays(new Date(takenOutAt), DAYS_IN_BASKET), new Date()));
  return (
    <SheetDialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Basket"
      note={`What was taken out lies here for ${DAYS_IN_BASKET} days, whole, with its earlier states.`}
      wide
    >
      {trouble && <p role="alert">{trouble}</p>}
      {!trouble && !kept && <p className="text-slate">Looking …</p>}
      {kept?.length === 0 && <p className="text-slate">The basket is empty.</p>}
      {kept && kept.length > 0 && (
        <ul
          aria-label="Taken out"
          className="max-h-[60vh] divide-y divide-rule overflow-auto border-y border-rule"
        >
          {kept.map((one) => (
            <li key={one.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
              <span className="min-w-0 flex-1 basis-[180px]">
                <span className="block truncate font-serif text-[17px] font-semibold">{one.title}</span>
                <span className="text-[13.5px] text-slate">
                  taken out {formatDistanceToNowStrict(new Date(one.takenOutAt))} ago, kept for{' '}
                  {counted(left(one), 'day')} more
                </span>
              </span>
              {sure === one.id ? (
                <>
                  <span role="alert" className="text-[14px]">
                    It cannot be had back then.
                  </span>
                  <Button autoFocus onClick={() => setSure(null)}>
                    Keep it
                  </Button>
                  <Button
                    className="border-madder text-madder"
                    onClick={() => void act(dispatch(forgetFromBasket(one.id)))}
                  >
                    Delete for good
                  </Button>
                </>
              ) : (
                <>
                  <Button
                    aria-label={`Put ${one.title} back`}
                    onClick={() => void act(dispatch(putBack(one.id)))}
                  >
                    Put it back
                  </Button>
                  <Button
                    tone="quiet"
                    aria-label={`Delete ${one.title} for good`}
                    onClick={() => setSure(one.id)}
                  >
                    Delete …
                  </Button>
                </>
              )}
            </li>
          ))}
        </ul>
      )}
    </SheetDialog>
  );
}
