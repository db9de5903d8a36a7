/** A table of text, as spreadsheets, comma-separated files and the clipboard have them. */

/** One sheet: rows of cells, from the top, each row from its left. */
export interface Sheet {
  name: string;
  cells: readonly (readonly string[])[];
}

/** What is wrong with, or to be told of, one cell: `C7` of a sheet. */
export interface CellFault {
  sheet: string;
  cell: string;
  message: string;
}

/** More is no chart's, and is not looked into. */
export const TABLE_LIMITS = {
  sheets: 80,
  rows: 90_000,
  columns: 700,
  cell: 32_000,
  cells: 1_000_000,
} as const;

/** The letters of a column, from 0: A to Z, then AA. */
export function columnLetters(column: number): string {
  const rest = Math.floor(column / 26);
  return (rest > 0 ? columnLetters(rest - 1) : '') + String.fromCharCode(65 + (column % 26));
}

/** The name of a cell: `C7` is column 2, row 6, both from 0. */
export const cellName = (row: number, column: number): string => `${columnLetters(column)}${row + 1}`;

/** The cell at a place, without what is blank around it; empty where the table ends before it. */
export const cellAt = (cells: Sheet['cells'], row: number, column: number): string =>
  cells[row]?.[column]?.trim() ?? '';

/** What a spreadsheet would take for a formula. */
const FORMULA = /^'*[=+\-@\t\r]/;

/**
 * A text that no spreadsheet runs as a formula: an apostrophe stands before what begins like one, and before the apostrophes of one
 * that has them already, so that it can be read back (common practice against formulas in comma-separated files).
 */
export const neutral = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);

/** The text that was made neutral. */
export const asWritten = (text: string): string => (/^'+[=+\-@\t\r]/.test(text) ? text.slice(1) : text);
