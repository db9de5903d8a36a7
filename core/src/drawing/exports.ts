export { type Inks, INKS, PALETTE, PRINT_INKS, TOKENS, TONES } from './inks.js';
export {
  findingsLayer,
  followedLayer,
  type Layer,
  type LayerMark,
  notesLayer,
  ropesLayer,
  symmetryLayer,
} from './layers.js';
export { type Figure, inksOfMark, type Part, type Picture, pictureOf, type RowSpan } from './page.js';
export {
  type Strip,
  styleOf,
  stripsOf,
  yarnRuns,
  inksOn,
  type CellWindow,
  type DrawingStyle,
  type Mark,
  reaches,
  type Scene,
  sceneOf,
} from './scene.js';
export { ropeInk, type Shape } from './shape.js';
export { drawStitch } from './symbols.js';
export { dyed, YARNS } from './yarns.js';
export { type Lines, linesOf } from './lines.js';
export { drawLyingBand } from './lying-band.js';
export { escapedXml, shapesText, svgFile, svgInside, type SvgManner, viewBoxOf } from './svg.js';
