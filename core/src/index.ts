/**
 * The core as page, server and command line see it: each area says what of it is for them. Within the core a module asks the
 * file that knows.
 */
export * from './stitches/exports.js';
export * from './chart/exports.js';
export * from './construction/exports.js';
export * from './needle/exports.js';
export * from './checks/exports.js';
export * from './names/exports.js';
export * from './words/exports.js';
export * from './ropes/exports.js';
export * from './machine/exports.js';
export * from './sizes/exports.js';
export * from './measures/exports.js';
export * from './piece/exports.js';
export * from './knitting/exports.js';
export * from './drawing/exports.js';
export * from './cloth/exports.js';
export * from './fabric/exports.js';
export * from './tracing/exports.js';
export * from './sheet/exports.js';
export * from './documents/exports.js';
export * from './workroom/exports.js';
export * from './api/exports.js';
export * from './files/exports.js';
export { finished } from './in-turns.js';
export { sameValue, cutText, counted } from './values.js';
