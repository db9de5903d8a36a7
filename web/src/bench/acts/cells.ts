import {
  cellsOfRows,
  FileFault,
  rowsOfCells,
  sheetOfCsv,
  tabbed,
  type Chart,
  type Design,
  type Row,
} from '@cordelina/core';

/** Rows of a chart as the clipboard of a spreadsheet has them. */

export const cellsText = (rows: readonly Row[], chart: Chart, settings: Design['settings']): string =>
  tabbed(cellsOfRows(rows, chart, settings));

/** The rows that a text of cells holds for a chart, or why it holds none. */
export function rowsIn(
  text: string,
  chart: Chart,
  settings: Design['settings'],
): { rows: readonly Row[]; own: Chart['own'] } | { problem: string } {
  try {
    const read = rowsOfCells(sheetOfCsv(text, '').cells, chart, settings);
    return 'problem' in read ? read : { rows: read.rows, own: chart.own };
  } catch (error) {
    if (error instanceof FileFault) return { problem: error.message };
    throw error;
  }
}
