export { DOUBLE } from './double.js';
export { FLAT } from './flat.js';
export {
  allWays,
  bothCount,
  hasSetting,
  rowTitle,
  sideOf,
  takesTurns,
  type WayId,
  wayOf,
  WaySchema,
} from './index.js';
export { BOTH_FACES_TRAINS, type Hand } from './way.js';
export { ROUND } from './round.js';
