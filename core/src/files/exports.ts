export { csvOf, FileFault, sheetOfCsv, tabbed } from './csv.js';
export {
  designOfFile,
  fileOf,
  filesIn,
  type FileRead as DesignFileRead,
  type Format,
  formatOf,
  FORMATS,
  type FormatId,
  LARGEST_FILE,
  leftOut,
  measuresOf,
  textOf,
} from './formats.js';
export { rowsOfCells } from './read-chart.js';
export { notInTables, readTables, stepsFromTables, type TablesRead } from './read-tables.js';
export { type CellFault, type Sheet } from './table.js';
export { cellsOfRows, tablesOf } from './tables.js';
export { rowsOfHead } from './web-page.js';
export { sheetsOfXlsx, xlsxOf } from './xlsx.js';
export {
  answeredIn,
  answersIn,
  designOf,
  type NameAnswered,
  takenFrom,
  type TakenFromWords,
} from './from-words.js';
export {
  Archive,
  ARCHIVE_FORMAT,
  type ArchivedItem,
  MANIFEST,
  type Manifest,
  ManifestSchema,
  SUMS,
  sumsText,
} from './archive.js';
export { type Ask, keepingOver, RestoreRefused } from './keeping.js';
export {
  type Planned,
  restorePlanOf,
  type Keeping,
  type Restored,
  restored,
  type Take,
  TAKES,
} from './restore.js';
