import { rowInHands } from './groups.js';
import type { BedsJob } from './at-beds.js';
import type { Job } from './job.js';

/** Anything that is gone through row by row and group by group. */
export type Course = Job | BedsJob;

/** How many rows, or readings of the counter, it has. */
export const lengthOfCourse = (job: Course): number => ('readings' in job ? job.readings : job.rows).length;

/** Going through a job, by groups and by rows. */

/** A place in a job: a row from 0, and the group of it that comes next. One past the last row, group 0, is the end. */
export interface At {
  row: number;
  group: number;
}

/** How many groups a row is gone through in: one that has nothing to work is one step. */
const stepsIn = (job: Course, row: number): number =>
  Math.max(1, ('readings' in job ? job.readings[row]!.does : rowInHands(job, row).groups).length);

export const isDone = (job: Course, { row }: At): boolean => row >= lengthOfCourse(job);

/** The place after the next group; the end stays the end. */
export function forward(job: Course, { row, group }: At): At {
  if (row >= lengthOfCourse(job)) return { row: lengthOfCourse(job), group: 0 };
  return group + 1 < stepsIn(job, row) ? { row, group: group + 1 } : { row: row + 1, group: 0 };
}

/** The place before the group that was worked last; the beginning stays the beginning. */
export function back(job: Course, { row, group }: At): At {
  if (group > 0 && row < lengthOfCourse(job)) return { row, group: group - 1 };
  if (row === 0) return { row: 0, group: 0 };
  return { row: row - 1, group: stepsIn(job, row - 1) - 1 };
}

/** The place after the row, and before it: before the one below where it is not begun. */
export const rowForward = (job: Course, { row }: At): At => ({
  row: Math.min(row + 1, lengthOfCourse(job)),
  group: 0,
});
export const rowBack = (_job: Course, { row, group }: At): At => ({
  row: group > 0 ? row : Math.max(0, row - 1),
  group: 0,
});

/** A place that a job has: what lies beyond it is brought to its end, or to the end of the row. Whether it had to be is told. */
export function within(job: Course, { row, group }: At): { at: At; wasBeyond: boolean } {
  if (row >= lengthOfCourse(job))
    return { at: { row: lengthOfCourse(job), group: 0 }, wasBeyond: row > lengthOfCourse(job) || group > 0 };
  const last = stepsIn(job, row) - 1;
  return group > last
    ? { at: { row, group: last }, wasBeyond: true }
    : { at: { row, group }, wasBeyond: false };
}
