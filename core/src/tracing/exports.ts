export { findCorners } from './find-corners.js';
export { findGrid, snapped } from './find-grid.js';
export { type Guess, Guesser, type Shown, type Squared, squaredUp } from './guess.js';
export { inkOf, lightOf, MOST_PIXELS, type Pixels, type Point } from './ink.js';
export { type Corners, type Grid, isField, planeOf } from './plane.js';
export { type GuessedRow, tracingLayer } from './layer.js';
export { tracedRow } from './traced-row.js';
