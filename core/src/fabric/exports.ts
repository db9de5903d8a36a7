export { energyOf } from './energy.js';
export { knitFabric } from './fabric.js';
export { fitCloth, fittingCloth, widthsOf, type FittedCloth, type Sample } from './fit-cloth.js';
export { type Extent, extentOf } from './measure.js';
export { heightOf, proportionsOf, restingWidth, RIGHT_TO } from './resting.js';
export {
  AT_REST,
  carriedOver,
  type KnittedCloth,
  movedLoops,
  settle,
  settleNear,
  type Settling,
} from './settle.js';
export { ORDINARY, type Proportions, type Springs, springsOf, unrelaxed } from './springs.js';
export { crossingSwatch } from './swatch-of-crossing.js';
export { takesWholeGround } from './whole-ground.js';
