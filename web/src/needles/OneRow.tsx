import {
  isCrossing,
  onNeedles,
  rowInHands,
  sideText,
  titleOf,
  type At,
  type Job,
  type Settings,
  type WordPiece,
} from '@cordelina/core';
import { useMemo } from 'react';
import { usePaneSize } from '../ui/usePaneSize.js';
import { CrossingHelp } from './CrossingHelp.js';
import { Strip } from './Strip.js';

/** A row of knitting by hand: its head, strip, words, what comes next, counts, and its crossing. */
export function OneRow({
  job,
  at,
  done,
  settings,
  size,
  facing,
}: {
  job: Job;
  at: At;
  done: boolean;
  settings: Settings;
  size: number;
  facing: boolean;
}) {
  const n = Math.min(at.row, job.rows.length - 1);
  const hands = rowInHands(job, n);
  const group = done ? undefined : hands.groups[at.group];
  const crossing = group?.stitches.find(isCrossing);
  const { counts, next } = useAhead(job, at, done);
  return (
    <>
      <RowHead job={job} at={at} done={done} />
      {!done && (
        <>
          <StripPane
            job={job}
            row={job.rows[n]!.row}
            side={hands.side}
            isBand={job.rows[n]!.band !== null}
            group={group}
            settings={settings}
            facing={facing}
          />
          <Words job={job} row={n} path={group?.path ?? null} size={size} />
          {group && (
            <p className="mt-2 text-[15px] text-slate" data-testid="next">
              {group.turn && (
                <span className="mr-3 text-peat">
                  time {group.turn.nth} of {group.turn.of}
                </span>
              )}
              {next}
            </p>
          )}
          <p className="mt-1 text-[15px]" data-testid="counts">
            {counts}
          </p>
          {crossing && <CrossingHelp job={job} crossing={crossing} side={hands.side} />}
        </>
      )}
    </>
  );
}

/** What is on the needle at the markers and at the end, and what comes after the group. */
function useAhead(job: Job, at: At, done: boolean): { counts: string; next: string } {
  return useMemo(() => {
    if (done) return { counts: '', next: '' };
    const { groups, makes, stretches } = rowInHands(job, at.row);
    const { worked, waiting } = onNeedles(job, at);
    const what = job.manner.stitches === 'pairs' ? 'pairs' : 'sts';
    const after = stretches.length > 1 ? `${stretches.join(' + ')} = ${makes}` : `${makes}`;
    const counts = `${worked.length} worked, ${waiting.length} wait. After the row: ${after} ${what}.`;
    const following = groups[at.group + 1];
    const above = at.row + 1 < job.rows.length ? at.row + 1 : null;
    const next = following
      ? `then ${following.text}`
      : above === null
        ? 'then all is worked'
        : `then ${titleOf(job, above).text.toLowerCase()}: ${rowInHands(job, above).groups[0]?.text ?? 'nothing to work'}`;
    return { counts, next };
  }, [job, at, done]);
}

/** The row by its number on the sheet, its side, its pass, and the row of every panel. */
function RowHead({ job, at, done }: { job: Job; at: At; done: boolean }) {
  const n = Math.min(at.row, job.rows.length - 1);
  const { section, text, panels } = titleOf(job, n);
  const { side, pass, passes } = job.rows[n]!;
  const shown = panels.filter(
    ({ name, row }, i) => panels.findIndex((p) => p.name === name && p.row === row) === i,
  );
  return (
    <div
      className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5 pt-2"
      aria-live="polite"
      data-testid="row-head"
    >
      <h2 className="text-[30px] leading-tight font-semibold">
        {section && `${section}, `}
        {done ? 'done' : text}
      </h2>
      {!done && (
        <p className="text-[15px] text-slate">
          {sideText(side, job.manner)}
          {passes > 1 && ` · repeat ${pass} of ${passes}`} · {n + 1} of {job.rows.length} in all
        </p>
      )}
      {shown.length > 0 && !done && (
        <p className="basis-full text-[14px] text-slate">
          {shown.map(({ name, row }) => `${name} row ${row}`).join(' · ')}
        </p>
      )}
    </div>
  );
}

function StripPane({ isBand, ...props }: Omit<Parameters<typeof Strip>[0], 'width'> & { isBand: boolean }) {
  const {
    ref,
    size: { width },
  } = usePaneSize();
  return (
    <div ref={ref} className={isBand ? '' : 'mt-2 min-h-[40px]'}>
      {width > 0 && !isBand && <Strip {...props} width={Math.min(width, 760)} />}
    </div>
  );
}

/** A word stands on one line; what is spelled out may take several. */
const isWord = ({ text, path }: WordPiece): boolean => path !== null && text.length < 24;

/** The words of the row, the group that comes next lit. */
function Words({
  job,
  row,
  path,
  size,
}: {
  job: Job;
  row: number;
  path: readonly number[] | null;
  size: number;
}) {
  const { pieces } = rowInHands(job, row);
  const lit = path?.join();
  const isLit = (own: readonly number[] | null) => own !== null && own.join() === lit;
  return (
    <p className="mt-3 font-mono leading-snug" style={{ fontSize: size }} data-testid="words">
      {pieces.map((piece, i) =>
        isLit(piece.path) ? (
          <mark
            key={i}
            aria-current="step"
            className={`rounded-sm bg-peat px-1 text-chalk ${isWord(piece) ? 'whitespace-nowrap' : ''}`}
            ref={(el) => el?.scrollIntoView({ block: 'nearest' })}
          >
            {piece.text}
          </mark>
        ) : (
          <span key={i} className={isWord(piece) ? 'whitespace-nowrap' : ''}>
            {piece.text}
          </span>
        ),
      )}
    </p>
  );
}
