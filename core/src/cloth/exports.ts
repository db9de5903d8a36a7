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
  wholeOf,
  type SmallPicture,
} from './picture.js';
export { type Box, newPlate, pixelOf, type Plate, pointAt, type View } from './raster.js';
export { canFill, filling } from './thumbnail.js';
export { pressing, yarnPaths, type YarnPaths } from './yarn-path.js';
