import { changedSince, type At, type Changed as Told, type Edition, type Job } from '@cordelina/core';
import { useEffect, useMemo, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { changeKnitting, goOver } from '../desk/state/needles.js';
import { boxOf, type Outbox } from '../sync/outbox.js';
import { openOutbox } from '../sync/post.js';
import { Button } from '../ui/Button.js';
import { inHer, jobIn } from './useJob.js';

const MOST_TOLD = 4;

/** What changed, in one sentence. */
function told({ rows, castOn }: Told): string {
  const parts = [
    ...(castOn ? [`it casts on ${castOn.now} instead of ${castOn.was}`] : []),
    ...rows
      .slice(0, MOST_TOLD)
      .map(
        ({ title, where }) =>
          `${title.toLowerCase()} (${where === 'worked' ? 'worked already' : where === 'ahead' ? 'still ahead' : 'partly worked'})`,
      ),
    ...(rows.length > MOST_TOLD ? [`${rows.length - MOST_TOLD} more places`] : []),
  ];
  return parts.join(', ');
}

/** Says when the design is another than the pattern she began, and lets her stay or go over. */
export function Changed({
  box,
  edition,
  job,
  at,
  device,
}: {
  box: Outbox<'knitting'>;
  edition: Edition;
  job: Job;
  at: At;
  device: string;
}) {
  const dispatch = useAppDispatch();
  const knitting = box.document;
  const design = useAppSelector((s) => boxOf(s.outbox, 'design', knitting.design));
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    // Without the server there is nothing newer to tell of.
    dispatch(openOutbox('design', knitting.design)).catch(() => undefined);
  }, [dispatch, knitting.design]);
  const isNewer =
    design !== undefined &&
    design.document !== edition.document &&
    design.base > Math.max(edition.version, knitting.stays);
  const document = isNewer ? design.document : null;
  const key = JSON.stringify(knitting.of);
  const change = useMemo(() => {
    if (!document) return null;
    const now = jobIn(inHer(document, knitting.hand), knitting.of);
    if (typeof now === 'string') return now;
    return 'readings' in now ? null : changedSince(job, now, at.row);
    // A place that moves is asked after when it is told.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [document, key, knitting.hand, job]);
  if (!design || change === null) return null;
  if (typeof change !== 'string' && !change.rows.length && !change.castOn) return null;
  const stay = () => dispatch(changeKnitting(knitting.id, { stays: design.base }));
  const over = async () => {
    setBusy(true);
    await dispatch(goOver(knitting.id, design.document, design.base, device, at));
    setBusy(false);
  };
  return (
    <div
      role="alert"
      className="grid gap-2 border-b border-rule bg-wash px-3 py-2 text-[15px]"
      data-testid="changed"
    >
      <p>
        {typeof change === 'string'
          ? `The design has changed, and cannot be knitted so any more: ${change}`
          : `The pattern has changed since you cast on: ${told(change)}.`}
        {typeof change !== 'string' &&
          change.touchesWorked &&
          ' What is on your needles is of the pattern you began.'}
      </p>
      <div className="flex gap-2">
        <Button className="min-h-11" onClick={stay}>
          Stay with mine
        </Button>
        {typeof change !== 'string' && (
          <Button tone="main" className="min-h-11" disabled={busy} onClick={() => void over()}>
            Go over to the new one
          </Button>
        )}
      </div>
    </div>
  );
}
