export {
  type Edition,
  type Knitting,
  KNITTING_LIMITS,
  KnittingSchema,
  JobOfSchema,
  type Note,
  NoteSchema,
  type NeedlePlace,
  type Skein,
} from './document.js';
export { type Group, rowInHands, type RowInHands } from './groups.js';
export {
  type Job,
  JobFault,
  type JobOf,
  jobOf,
  type JobRow,
  MOST_JOB_ROWS,
  type RowTitle,
  titleOf,
} from './job.js';
