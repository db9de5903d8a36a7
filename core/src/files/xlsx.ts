import type { Cell, CellValue, Workbook, Worksheet } from 'exceljs';
import { cellName, TABLE_LIMITS, type Sheet } from './table.js';
import { FileFault } from './csv.js';
import { HEADS, ROW_HEADS } from './tables.js';
import { GOES_ON } from './words-of-cells.js';
import { unzipped } from './zipped.js';

/** Tables as a spreadsheet's workbook. What makes and reads workbooks is fetched when one is asked for: it is large. */

const MEGABYTE = 1024 * 1024;
/** A chart as large as may be, every cell written out, is under these. */
const LARGEST = 24 * MEGABYTE;
const BOUNDS = { files: 600, one: 64 * MEGABYTE, all: 96 * MEGABYTE };

/** What of a workbook is no cell of its tables, and may name ranges as large as it likes. */
const NOT_CELLS = [
  'mergeCells',
  'dataValidations',
  'conditionalFormatting',
  'autoFilter',
  'hyperlinks',
  'drawing',
  'legacyDrawing',
  'tableParts',
  'rowBreaks',
  'colBreaks',
  'extLst',
];

const CONTENTS = '[Content_Types].xml';
const IS_SHEET = /^xl\/worksheets\/[^/]+\.xml$/;

/** How many cells a sheet has. @throws FileFault where it names rows beyond those of any chart, which would be made one by one */
function cellsIn(sheet: Uint8Array): number {
  const xml = new TextDecoder().decode(sheet);
  for (const [, row] of xml.matchAll(/<(?:\w+:)?row\b[^>]*?\br="(\d+)"/g))
    if (Number(row) > TABLE_LIMITS.rows)
      throw new FileFault(`This workbook names row ${row}: no chart is so high.`);
  let cells = 0;
  for (let at = xml.indexOf('<c '); at >= 0; at = xml.indexOf('<c ', at + 1)) cells++;
  return cells;
}

async function newWorkbook(): Promise<Workbook> {
  const { default: excel } = await import('exceljs');
  return new excel.Workbook();
}

/** A number stays one, so that a spreadsheet counts with it. */
const valueOf = (text: string): CellValue => (/^(?:0|[1-9]\d{0,8})$/.test(text) ? Number(text) : text);

/** The tables as a workbook (Office Open XML). */
export async function xlsxOf(sheets: readonly Sheet[]): Promise<Uint8Array> {
  const book = await newWorkbook();
  for (const { name, cells } of sheets) {
    const sheet = book.addWorksheet(name);
    for (const row of cells) sheet.addRow(row.map((text) => (text === '' ? null : valueOf(text))));
    if (cells[0]?.[0] === HEADS.chart) asChart(sheet, cells);
    else sheet.columns.forEach((column) => (column.width = 24));
    sheet.getRow(1).font = { bold: true };
  }
  return new Uint8Array(await book.xlsx.writeBuffer());
}

/** Squared like a chart; its row numbers and the numbers of its columns stay in view. */
function asChart(sheet: Worksheet, cells: Sheet['cells']): void {
  const top = cells.findIndex(([head]) => head === ROW_HEADS.row);
  sheet.views = [{ state: 'frozen', xSplit: 2, ySplit: top + 1 }];
  const longest = cells
    .slice(top + 1)
    .reduce((most, row) => row.slice(2, -1).reduce((n, text) => Math.max(n, text.length), most), 0);
  const columns = Math.max(0, ...cells.map((row) => row.length));
  for (let c = 1; c <= columns; c++)
    sheet.getColumn(c).width = c <= 2 ? 16 : Math.max(5, Math.min(12, longest + 1));
  const head = sheet.getRow(top + 1);
  head.font = { bold: true };
  const goesOn: Partial<Cell['style']> = {
    font: { color: { argb: 'FF9A9A94' } },
    alignment: { horizontal: 'left' },
  };
  const plain: Partial<Cell['style']> = { alignment: { horizontal: 'center' } };
  cells.slice(top + 1).forEach((row, r) => {
    const line = sheet.getRow(top + 2 + r);
    for (let c = 2; c < row.length - 1; c++)
      if (row[c]) line.getCell(c + 1).style = row[c] === GOES_ON ? goesOn : plain;
  });
}

/**
 * The tables of a workbook. A formula is not worked out: the value that was last saved of it is taken.
 *
 * @throws FileFault where it is none, is spoiled, or is larger than any design's
 */
export async function sheetsOfXlsx(bytes: Uint8Array): Promise<Sheet[]> {
  if (bytes.length > LARGEST) throw new FileFault('This workbook is larger than any design.');
  // Unpacked once to see that it can be, before anything else looks into it.
  const parts = unzipped(bytes, BOUNDS, (name) => name === CONTENTS || IS_SHEET.test(name));
  if (!parts.has(CONTENTS)) throw new FileFault('This is no workbook of a spreadsheet (.xlsx).');
  let cells = 0;
  for (const [name, part] of parts) if (IS_SHEET.test(name)) cells += cellsIn(part);
  if (cells > TABLE_LIMITS.cells) throw new FileFault('This workbook has more cells than any design.');
  const book = await newWorkbook();
  try {
    await book.xlsx.load(bytes.slice().buffer, { ignoreNodes: NOT_CELLS });
  } catch {
    throw new FileFault('This workbook cannot be read: save it anew as .xlsx in the spreadsheet.');
  }
  let count = 0;
  return book.worksheets.slice(0, TABLE_LIMITS.sheets + 1).map((sheet): Sheet => {
    const cells: string[][] = [];
    const tooLarge = (where: string) =>
      new FileFault(`The sheet "${sheet.name}" is larger than any chart (${where}).`);
    sheet.eachRow((row, r) => {
      if (r > TABLE_LIMITS.rows) throw tooLarge(`row ${r}`);
      const line: string[] = [];
      row.eachCell((cell, c) => {
        if (c > TABLE_LIMITS.columns || ++count > TABLE_LIMITS.cells) throw tooLarge(cellName(r - 1, c - 1));
        while (line.length < c - 1) line.push('');
        line.push(textOf(cell).slice(0, TABLE_LIMITS.cell));
      });
      while (cells.length < r - 1) cells.push([]);
      cells.push(line);
    });
    return { name: sheet.name, cells };
  });
}

/** What a cell shows. */
function textOf({ value }: Pick<Cell, 'value'>): string {
  const plain = (one: unknown): string =>
    one === null || one === undefined
      ? ''
      : typeof one === 'object'
        ? ''
        : String(one as string | number | boolean);
  if (typeof value !== 'object' || value === null) return plain(value);
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if ('richText' in value) return value.richText.map(({ text }) => plain(text)).join('');
  if ('result' in value) return plain(value.result);
  if ('text' in value) return plain(value.text);
  return '';
}
