export { assemble, type Assembled } from './assemble.js';
export {
  changeBounds,
  changePart,
  changePiece,
  changeSize,
  copyPart,
  mirrorPart,
  movePart,
  type NewPart,
  pairWithMirror,
  panelOfAnother,
  type PieceFields,
  pieceSteps,
  putPart,
  putSizes,
  startPart,
  startPiece,
  takeOutPart,
  takeOutSize,
} from './edits.js';
export { PieceFault } from './fault.js';
export { checkPiece } from './findings.js';
export {
  fitPiece,
  fitSizes,
  lengthsOf,
  type PieceFit,
  type PieceFitted,
  withCount,
  withFit,
} from './fit-piece.js';
export { ofSize } from './in-sizes.js';
export {
  columnsOfPart,
  countIn,
  type DrawsIn,
  type Laid,
  type LaidFrom,
  type LaidPart,
  layOut,
  markersOf,
} from './lay-out.js';
export { type LengthWay, panelRowAt } from './up.js';
export { acrossName, type PieceWords } from './words.js';
export { GRAM_STEPS, yarnTold } from './yarn.js';
