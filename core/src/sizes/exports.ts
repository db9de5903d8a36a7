export { fit, FitSchema } from './asked.js';
export { BODY_NAMES, BODY_TABLES } from './body.js';
export { CLOTH_KINDS } from './cloths.js';
export { fitWidth } from './fit.js';
export { spread } from './spread.js';
export {
  drawInOf,
  gaugeIn,
  gaugeOf,
  gramsPerLoop,
  growthOf,
  plainFor,
  type Swatch,
  SwatchSchema,
} from './swatch.js';
