export { type Checked, findingsIn, mendsIn } from './findings.js';
export { layOwnMotif, motifFrom, ownMotifChart } from './own-motif.js';
export { sealOf } from './seal.js';
export { STARTING_CLOTHS, startOn } from './start-cloth.js';
export { summarise } from './summary.js';
