export { withPatternCorrected } from './correct.js';
export {
  fileRead,
  type FileRead,
  FOLDER_COLUMNS,
  folderLine,
  folderQuestions,
  questionsIn,
  withoutEnding,
} from './folder.js';
export { type KeyEntry, keyTold } from './key.js';
export { mannerOf, sideSign, sideText } from './manner.js';
export { crossingSteps, reorderOf, twistBySide } from './moves.js';
export { writeAndProve } from './proof/prove.js';
export { type Question, readPattern, readPatterns, type SectionRead } from './read.js';
export { type ReadOptions } from './reader/assemble.js';
export { type Problem } from './reader/pattern-lines.js';
export { plainly, SAID_SO } from './reader/prose.js';
export { looseText, type WordPiece, wordPieces } from './render.js';
export {
  type Completion,
  completionsFor,
  readRowWords,
  rowFromWords,
  type RowRead,
  writeRowsFrom,
} from './row-words.js';
export { showTwists } from './twists.js';
export { beginsRight, dictionOf } from './vocabulary.js';
export { type WordSettings, wordsOfRow, writeChart } from './write.js';
