import type { At, BedsJob } from '@cordelina/core';

/** What is done at a reading of the row counter. */
export function AtBeds({ job, at, done, size }: { job: BedsJob; at: At; done: boolean; size: number }) {
  const n = Math.min(at.row, job.readings.length - 1);
  const { counter, does } = job.readings[n]!;
  const next = job.readings[n + 1];
  return (
    <>
      <div className="pt-2" aria-live="polite" data-testid="row-head">
        <h2 className="text-[30px] leading-tight font-semibold">{done ? 'Done' : `Counter ${counter}`}</h2>
        <p className="text-[15px] text-slate">
          of {job.counts} rows · reading {n + 1} of {job.readings.length}
        </p>
      </div>
      {!done && (
        <ol className="mt-3 grid gap-2 font-mono leading-snug" style={{ fontSize: size }} data-testid="words">
          {does.map((text, i) => (
            <li key={i}>
              {i === at.group ? (
                <mark aria-current="step" className="rounded-sm bg-peat px-1 text-chalk">
                  {text}
                </mark>
              ) : (
                <span className={i < at.group ? 'text-slate line-through' : ''}>{text}</span>
              )}
            </li>
          ))}
        </ol>
      )}
      {!done && next && (
        <p className="mt-3 text-[15px] text-slate" data-testid="next">
          then, at counter {next.counter}: {next.does[0]}
        </p>
      )}
    </>
  );
}
