export { homeOf, type Home } from './home.js';
export { layMotif, MOST_TIMES, motifChart, MOTIFS, motifSize, saidSchema, usualOf } from './motifs/index.js';
export { type MotifRule, type Said } from './motifs/motif.js';
export { type Plait, plaitsOf, plaitText } from './plait.js';
export { interlacesOf, type Place, ropedOf } from './roped.js';
export { eventText, ropeColumns, ropeName, type Ropes, ropesOf } from './ropes.js';
