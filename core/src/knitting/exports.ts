export { type BedsJob, bedsJobOf, type BedsOf } from './at-beds.js';
export { type Changed, type ChangedRows, changedSince } from './changed.js';
export { correctionsOf } from './corrections.js';
export {
  type Edition,
  type Knitting,
  KNITTING_NAMES,
  KnittingSchema,
  type Note,
  NoteSchema,
  type NeedlePlace,
  PlaceSchema,
  type Skein,
} from './document.js';
export {
  type Dropped,
  dropOf,
  MOST_DROPPED_ROWS,
  type Stretch as Loops,
  type TooNarrow,
  wrongBelow,
  type WrongCrossing,
} from './drop.js';
export { type Group, rowInHands, type RowInHands } from './groups.js';
export {
  backTo,
  type CrossingTold,
  crossingTold,
  type Drawn,
  drawnIn,
  type GroupBack,
  needleBefore,
  onNeedles,
  sideSaid,
  type OnNeedles,
  type TakenBack,
  takenBack,
  waitingNeedle,
} from './hands.js';
export { type Job, JobFault, type JobOf, jobOf, type JobRow, type RowTitle, titleOf } from './job.js';
export { answered, practiceChart, type Reading, readingOf, type ReadingTask } from './learning.js';
export {
  type Finished,
  finishedRows,
  knittingSince,
  type Left,
  leftFrom,
  loopsBetween,
  type Pace,
  paceOf,
} from './pace.js';
export {
  type At,
  back,
  forward,
  isDone,
  rowBack,
  rowForward,
  type Course,
  lengthOfCourse,
  within as placeWithin,
} from './place.js';
export { inDesign, type InDesign } from './where.js';
export {
  type Answered,
  type Asked,
  type Fact,
  looksAtOneRepeat,
  questionsFor,
  type Question as RowQuestion,
  rowsLookedThrough,
  rowsThatFit,
} from './which-row.js';
