export { energyOf } from './energy.js';
export { knitFabric } from './fabric.js';
export { fitCloth, fittingCloth, widthsOf, type FittedCloth, type Sample } from './fit-cloth.js';
export { type Extent, extentOf } from './measure.js';
export { clothSvg, linesOfLoops, MOST_IN_LINES } from './outline.js';
export {
  type Bounds,
  boundsOf,
  boxAbout,
  fineStrips,
  fittedView,
  loopsAbout,
  paintCloth,
  paintFinely,
  showsPressed,
  smallPicture,
  type SmallPicture,
} from './picture.js';
export { heightOf, proportionsOf, restingWidth, RIGHT_TO } from './resting.js';
export { type Box, newPlate, pixelOf, type Plate, pointAt, type View } from './raster.js';
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
export { canFill, filling } from './thumbnail.js';
export { takesWholeGround } from './whole-ground.js';
export { pressing, yarnPaths, type YarnPaths } from './yarn-path.js';
