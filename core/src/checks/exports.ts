export { type Finding, type Fix } from './finding.js';
export { checkChart, checkTitle, type Mends, unmeant } from './index.js';
export { crossingOf } from './meant.js';
export { meantCrossings } from './over-under.js';
export { findingsText, grouped } from './titles.js';
