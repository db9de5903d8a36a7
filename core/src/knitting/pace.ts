import { needleBefore } from './hands.js';
import type { Job } from './job.js';
import type { Knitting } from './document.js';

/** How fast someone knits, by when her rows were finished, and what is left. */

/** A longer pause than this between two rows is no knitting (custom), in milliseconds. */
export const PAUSE = 30 * 60_000;

/** A row that was finished. */
export interface Finished {
  row: number;
  at: number;
}

/** The rows of a log in the order in which they were finished. */
export const finishedRows = (log: Knitting['log']): Finished[] =>
  Object.entries(log)
    .map(([row, at]) => ({ row: Number(row), at }))
    .sort((a, b) => a.at - b.at || a.row - b.row);

export interface Pace {
  /** Rows that were timed, and the hours they took. */
  rows: number;
  hours: number;
  /** Loops worked in them an hour: rows differ in length. Null as long as fewer than two rows were timed. */
  loopsAnHour: number | null;
  rowsAnHour: number | null;
}

/** The pace of a knitter: each row that was finished within half an hour of the one before it. */
export function paceOf(job: Job, log: Knitting['log']): Pace {
  const finished = finishedRows(log);
  let [rows, time, loops] = [0, 0, 0];
  finished.forEach(({ row, at }, i) => {
    const took = i ? at - finished[i - 1]!.at : Infinity;
    if (took <= 0 || took > PAUSE || row >= job.rows.length) return;
    rows++;
    time += took;
    loops += needleBefore(job, row + 1).length;
  });
  const hours = time / 3_600_000;
  const isTimed = rows > 1 && hours > 0;
  return {
    rows,
    hours,
    loopsAnHour: isTimed ? loops / hours : null,
    rowsAnHour: isTimed ? rows / hours : null,
  };
}

export interface Left {
  rows: number;
  loops: number;
  /** By her own pace; null where that is not known. */
  hours: number | null;
  /** By the weight of a loop; null where no swatch was weighed. */
  grams: number | null;
}

/** Loops of a job's rows, from one (from 0) to before another. */
export function loopsBetween(job: Job, from: number, to: number): number {
  let loops = 0;
  for (let n = from; n < to; n++) loops += needleBefore(job, n + 1).length;
  return loops;
}

/** What is left from a row (from 0) to the end. */
export function leftFrom(
  job: Job,
  row: number,
  { loopsAnHour }: Pick<Pace, 'loopsAnHour'>,
  gramsPerLoop: number | null,
): Left {
  const loops = loopsBetween(job, row, job.rows.length);
  return {
    rows: Math.max(0, job.rows.length - row),
    loops,
    hours: loopsAnHour ? loops / loopsAnHour : null,
    grams: gramsPerLoop === null ? null : loops * gramsPerLoop,
  };
}

/** For how long she has knitted by now without a pause, in milliseconds; 0 where the last row lies further back than one. */
export function knittingSince(log: Knitting['log'], now: number): number {
  let begun = now;
  for (const { at } of finishedRows(log).reverse()) {
    if (at > now) continue;
    if (begun - at > PAUSE) break;
    begun = at;
  }
  return now - begun;
}
