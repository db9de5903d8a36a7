export * from './compute.js';
export * from './designs.js';
export * from './documents.js';
export * from './swatches.js';
