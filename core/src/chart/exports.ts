export { moveBand, newBand, setBand } from './band-edits.js';
export {
  type Band,
  BandSchema,
  bandsOf,
  divides,
  hasBands,
  isCrossed,
  LEAST_EVERY,
  MOST_BAND_ROUNDS,
  MOST_EVERY,
  USUAL_BAND,
} from './bands.js';
export { reworked, type Lost } from './change-way.js';
export { onOtherSide, sidesAlike, seenBehind } from './turn.js';
export { ribBlock, setBothFaces } from './rib.js';
export { acceptPlace, setPart, takeBackPlaces } from './accept.js';
export { chartHolding, chartName, moveChart, nameChart, printOf, putChart, takeChart } from './charts.js';
export {
  type ClosedRopes,
  closedRopesHeight,
  type ClosedSchool,
  convertClosedRopes,
  drawClosedRopes,
} from './closed-ropes.js';
export { type ClothSettings, type Dye, YARN_NAMES, type YarnName } from './cloth-settings.js';
export { fillCounted, unworkStitch, workRun, workStitch } from './counts.js';
export { chartSteps, headChange, stepsBetween } from './differences.js';
export { andThen, become, changeOf, type Edit, EditError, unchanged } from './edit.js';
export {
  type Block,
  copyBlock,
  deleteColumns,
  deleteRows,
  groundRow,
  insertColumns,
  insertRows,
  mirrorChart as mirrored,
  mirrorBlock,
  ownIn,
  pasteFrom,
  placeStitches,
  replaceEverywhere,
  setAcross,
  setConstruction,
  setJog,
  setUp,
  stitchUse,
  withRow,
} from './edits.js';
export { expandPiece, NotRepeatable } from './expand.js';
export {
  acrossOf,
  beyondOf,
  castOnOf,
  cellsWorked,
  countsOf,
  endOf,
  hasJogs,
  isSameFrame,
  jogOf,
  leastOf,
  linesAcross,
  linesUp,
  lowestMultiple,
  passesOf,
  repeatColumns,
  repeatRows,
  repeatsAcross,
  repeatsUp,
  startOf,
  timesOf,
  upOf,
  workedRows,
} from './frame.js';
export { meantKey } from './meant.js';
export { DocumentError, readDesign } from './migrate.js';
export {
  type Border,
  CLOTHS,
  type MeasuredCloth,
  type Piece,
  PIECE_LIMITS,
  type PiecePart,
  PieceSchema,
  type Size,
} from './piece-document.js';
export { type Across } from './repeat-lines.js';
export { indexAt, rowCrossings, rowFacts, spanOfAll } from './rows.js';
export { type CustomName, CUSTOMS, type Rules, RulesSchema } from './rules.js';
export {
  bookOf,
  type Chart,
  ChartSchema,
  CrossingNameSchema,
  type Design,
  LIMITS,
  type Mirror,
  type Row,
  RowSchema,
  type School,
  SCHOOLS,
  type Section,
  SECTIONS,
  type Settings,
  SettingsSchema,
  SheetSchema,
  type SheetSettings,
  StitchSchema,
  StyleSchema,
} from './schema.js';
export { slipBelow } from './slips.js';
export { betterAcross, betterUp, takeAcross, takeUp } from './smallest.js';
export { startChart, startDesign } from './start.js';
export {
  applyChange,
  applyStep,
  applyToChart,
  type Change,
  ChangeSchema,
  invertSteps,
  mergeSteps,
  MOST_CHANGES,
  type Step,
  StepMisfit,
  StepSchema,
  stepsOf,
} from './steps.js';
export { mirrorAlong, setMirror } from './symmetry.js';
export { unfold, type Unfolded } from './unfold.js';
