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
export { notInTables, readTables, stepsFromTables, type TablesRead } from './read-tables.js';
export { type CellFault, type Sheet } from './table.js';
export { tablesOf } from './tables.js';
export { rowsOfHead } from './web-page.js';
export { sheetsOfXlsx, xlsxOf } from './xlsx.js';
