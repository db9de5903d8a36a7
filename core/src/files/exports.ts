export { csvOf, FileFault, sheetOfCsv, tabbed } from './csv.js';
export { notInTables, readTables, stepsFromTables, type TablesRead } from './read-tables.js';
export { type CellFault, type Sheet } from './table.js';
export { tablesOf } from './tables.js';
export { sheetsOfXlsx, xlsxOf } from './xlsx.js';
