export { carryUp, presentingRow, presentsBelow } from './carry.js';
export { drawRope, ropeAt, type RopeAt } from './draw-rope.js';
export { braidStepFrames, type HandFrame, pairFrames, type ShownLoop } from './frames.js';
export { turnOver } from './mend-crossing.js';
export { castOnNeedle, workChart } from './needle.js';
