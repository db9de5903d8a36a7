export { type DocumentOf, KIND_NAMES, KINDS } from './index.js';
export { type Kind, type KindName } from './kind.js';
export { type House, houseOf, inHouse, MOTIF_LIMITS, type OwnMotif, type Studio } from './studio-schema.js';
export { EMPTY_STUDIO, STUDIO, THE_STUDIO } from './studio.js';
export { EDITION } from './edition.js';
export { KNITTING } from './knitting.js';
export { NOTE } from './note.js';
export { SWATCH } from './swatch.js';
