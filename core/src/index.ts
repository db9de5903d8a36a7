export * from './stitches/face.js';
export * from './stitches/kinds.js';
export * from './stitches/crossing.js';
export * from './stitches/book.js';
export * from './chart/schema.js';
export { jogsFrom, type Across, type Up } from './chart/lines.js';
export * from './chart/rows.js';
export * from './chart/frame.js';
export * from './construction/construction.js';
export * from './values.js';
export { changeOf, EditError, then, unchanged, become, type Edit } from './chart/edit.js';
export * from './chart/edits.js';
export * from './chart/layout.js';
export * from './chart/start.js';
export * from './chart/charts.js';
export * from './chart/unfold.js';
export * from './chart/symmetry.js';
export * from './chart/smallest.js';
export * from './chart/expand.js';
export * from './chart/steps.js';
export { chartSteps, headChange, stepsBetween } from './chart/differences.js';
export * from './chart/map.js';
export * from './chart/rebase.js';
export * from './chart/migrate.js';
export * from './needle/loop.js';
export * from './needle/needle.js';
export * from './needle/carry.js';
export * from './needle/draw-rope.js';
export * from './checks/index.js';
export * from './checks/titles.js';
export { crossingOf } from './checks/meant.js';
export * from './names/schools.js';
export * from './names/check-names.js';

export type { KeyEntry } from './words/key.js';
export * from './words/pattern.js';
export * from './words/manner.js';
export * from './words/render.js';
export * from './words/moves.js';
export * from './words/twists.js';
export * from './words/vocabulary.js';
export * from './words/write.js';
export * from './words/proof/prove.js';
export * from './words/read.js';
export * from './words/correct.js';
export * from './ropes/strands.js';
export * from './drawing/shape.js';
export * from './drawing/cords.js';
export * from './drawing/symbols.js';
export * from './drawing/scene.js';
export * from './drawing/layers.js';
export * from './drawing/inks.js';
export * from './drawing/page.js';
export * from './sheet/sheet.js';
export * from './sheet/copies.js';
export * from './workroom/studio.js';
export * from './workroom/own-motif.js';
export { sameValue } from './values.js';
export * from './workroom/summary.js';
export * from './words/row-words.js';
export type { Problem } from './words/reader/lines.js';
export * from './chart/counts.js';
export * from './chart/closed-ropes.js';
export * from './chart/slips.js';
export * from './ropes/stand.js';
export * from './ropes/trace.js';
export * from './ropes/alternate.js';
export * from './ropes/rhythm.js';
export {
  ropedOf,
  interlacesOf,
  placeIn,
  placeNumber,
  type Place,
  type Interlaced,
  type Roped,
} from './ropes/roped.js';
export * from './needle/mend-crossing.js';
export * from './chart/rules.js';
export * from './chart/meant.js';
export * from './chart/accept.js';
export * from './ropes/ropes.js';
export * from './ropes/plait.js';
export * from './ropes/motifs/index.js';
export { MOST_ON_NEEDLE } from './sizes/line.js';
export * from './sizes/spread.js';
export * from './sizes/length.js';
export * from './sizes/gauge.js';
export * from './sizes/typed.js';
export * from './sizes/trade.js';
export * from './sizes/swatch.js';
export * from './sizes/up.js';
export * from './sizes/fit.js';
export * from './sizes/asked.js';
