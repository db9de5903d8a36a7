import { rowInHands } from './groups.js';
import type { Job } from './job.js';

/** Going through a job, by groups and by rows. */

/** A place in a job: a row from 0, and the group of it that comes next. One past the last row, group 0, is the end. */
export interface At {
  row: number;
  group: number;
}

/** How many groups a row is gone through in: one that has nothing to work is one step. */
const stepsIn = (job: Job, row: number): number => Math.max(1, rowInHands(job, row).groups.length);

export const isDone = (job: Job, { row }: At): boolean => row >= job.rows.length;

/** The place after the next group; the end stays the end. */
export function forward(job: Job, { row, group }: At): At {
  if (row >= job.rows.length) return { row: job.rows.length, group: 0 };
  return group + 1 < stepsIn(job, row) ? { row, group: group + 1 } : { row: row + 1, group: 0 };
}

/** The place before the group that was worked last; the beginning stays the beginning. */
export function back(job: Job, { row, group }: At): At {
  if (group > 0 && row < job.rows.length) return { row, group: group - 1 };
  if (row === 0) return { row: 0, group: 0 };
  return { row: row - 1, group: stepsIn(job, row - 1) - 1 };
}

/** The place after the row, and before it: before the one below where it is not begun. */
export const rowForward = (job: Job, { row }: At): At => ({
  row: Math.min(row + 1, job.rows.length),
  group: 0,
});
export const rowBack = (_job: Job, { row, group }: At): At => ({
  row: group > 0 ? row : Math.max(0, row - 1),
  group: 0,
});

/** A place that a job has: what lies beyond it is brought to its end, or to the end of the row. Whether it had to be is told. */
export function within(job: Job, { row, group }: At): { at: At; wasBeyond: boolean } {
  if (row >= job.rows.length)
    return { at: { row: job.rows.length, group: 0 }, wasBeyond: row > job.rows.length || group > 0 };
  const last = stepsIn(job, row) - 1;
  return group > last
    ? { at: { row, group: last }, wasBeyond: true }
    : { at: { row, group }, wasBeyond: false };
}
