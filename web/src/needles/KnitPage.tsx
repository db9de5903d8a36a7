import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { NotFound } from '../desk/head/NotFound.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { needles, openKnitting } from '../desk/state/needles.js';
import { boxOf } from '../sync/outbox.js';
import { Needles } from './Needles.js';
import { useJob } from './useJob.js';
import { wear } from '../ui/inks.js';

/** One row at a time, for hands that hold needles. */
export function KnitPage() {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  const box = useAppSelector((s) => boxOf(s.outbox, 'knitting', id));
  const edition = useAppSelector((s) => boxOf(s.outbox, 'edition', box?.document.edition ?? null)?.document);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    dispatch(openKnitting(id)).catch((error: unknown) =>
      setFailure(error instanceof Error ? error.message : 'It could not be opened.'),
    );
    return () => void dispatch(needles.taken([]));
  }, [dispatch, id]);
  // Another edition is opened where she goes over to one.
  const wanted = box?.document.edition;
  useEffect(() => {
    if (wanted) void dispatch(openKnitting(id)).catch(() => undefined);
  }, [dispatch, id, wanted]);
  const job = useJob(edition, box?.document);
  // Dark by the needles is dark whatever the rest is.
  const elsewhere = useAppSelector((s) => s.habits.theme);
  const { theme } = useAppSelector((s) => s.habits.needles);
  useEffect(() => {
    wear(theme === 'dark' ? 'dark' : elsewhere);
    return () => wear(elsewhere);
  }, [theme, elsewhere]);

  if (failure && !(box && edition)) return <NotFound message={failure} />;
  if (!box || !edition || job === null) return <p className="m-auto p-8 text-slate">Opening …</p>;
  if (typeof job === 'string')
    return (
      <div className="grid gap-3 p-6">
        <p role="alert">{job}</p>
        <Link className="underline" to={`/designs/${box.document.design}/needles`}>
          Back to the design
        </Link>
      </div>
    );
  return <Needles key={`${id} ${edition.id}`} box={box} edition={edition} job={job} />;
}
