import Papa from 'papaparse';
import { asWritten, neutral, TABLE_LIMITS, type Sheet } from './table.js';

/** Comma-separated text, and what spreadsheets copy: cells between tabs. */

/** A file that is not what it should be: one sentence for the person. */
export class FileFault extends Error {}

/** Sheets one below the other, a blank line between. */
export const csvOf = (sheets: readonly Sheet[]): string =>
  sheets
    .map(({ cells }) =>
      Papa.unparse(
        cells.map((row) => row.map(neutral)),
        { newline: '\n' },
      ),
    )
    .join('\n\n') + '\n';

/** Cells between tabs, as spreadsheets take and give them. */
export const tabbed = (cells: Sheet['cells']): string =>
  Papa.unparse(
    cells.map((row) => row.map(neutral)),
    { delimiter: '\t', newline: '\n' },
  );

/**
 * The table of a comma-separated text. What parts its cells (comma, semicolon, tab or bar) is found out.
 *
 * @throws FileFault where it is larger than any design's
 */
export function sheetOfCsv(text: string, name: string): Sheet {
  let count = 0;
  const rows: string[][] = [];
  let fault: string | null = null;
  // What parts the cells is told by all lines: an empty one at the end would speak against two columns.
  Papa.parse<string[]>(text.replace(/^\uFEFF/, '').replace(/[\r\n]+$/, ''), {
    delimitersToGuess: [',', ';', '\t', '|'],
    step: ({ data }, parser) => {
      const row = data.map((cell) => asWritten(cell));
      count += row.length;
      if (rows.length >= TABLE_LIMITS.rows || count > TABLE_LIMITS.cells) fault = 'it has too many cells';
      else if (row.length > TABLE_LIMITS.columns) fault = `line ${rows.length + 1} has too many cells`;
      else if (row.some((cell) => cell.length > TABLE_LIMITS.cell))
        fault = `line ${rows.length + 1} has too long a cell`;
      if (fault) parser.abort();
      else rows.push(row);
    },
  });
  if (fault) throw new FileFault(`This is no table of charts: ${fault}.`);
  return { name, cells: rows };
}
