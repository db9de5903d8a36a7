export { energyOf } from './energy.js';
export { knitFabric } from './fabric.js';
export { fitCloth, fittingCloth, widthsOf, type FittedCloth, type Sample } from './fit-cloth.js';
export { type Extent, extentOf } from './measure.js';
export { restingWidth, RIGHT_TO } from './resting.js';
export { heightOf, proportionsOf } from './proportions.js';
export {
  AT_REST,
  carriedOver,
  type KnittedCloth,
  movedLoops,
  settle,
  settleNear,
  type Settling,
} from './settle.js';
export { type Springs, springsOf, unrelaxed } from './springs.js';
export { ORDINARY, type Proportions } from './proportions.js';
export { crossingSwatch } from './swatch-of-crossing.js';
export { takesWholeGround } from './whole-ground.js';
