export {
  isCrossing,
  kindOf,
  mirrorStitch,
  OWN_MARKS,
  type OwnMark,
  type OwnStitch,
  OwnStitchSchema,
  sameStitch,
  spanOf,
  type Stitch,
  stitchBook,
  stitchId,
  takesOf,
} from './book.js';
export {
  behindCrossing,
  crossing,
  type Crossing,
  crossingFaces,
  crossingId,
  crossingOrder,
  crossingProblem,
  crossingSize,
  inRib,
  isInRib,
  flipCrossing,
  LARGEST_GROUP,
  mirrorCrossing,
  simpleCrossing,
  turnCrossing,
} from './crossing.js';
export { type Face, type Side, type Worked, WORKED } from './face.js';
export { NO_STITCH, STITCH_KINDS, type StitchKind } from './kinds.js';
export { type TwistMethod } from './twist.js';
