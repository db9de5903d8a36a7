import { boundedJson, JsonFault } from '../api/bounded-json.js';
import { printOf } from '../chart/charts.js';
import { readDesign } from '../chart/migrate.js';
import type { Design } from '../chart/schema.js';
import type { Picture } from '../drawing/page.js';
import { sheetMarkdown, sheetText } from '../sheet/copies.js';
import { sheetOf } from '../sheet/sheet.js';
import { printedOf, writeDesign } from '../sheet/write-design.js';
import { SUMS } from './archive.js';
import { csvOf, FileFault, sheetOfCsv } from './csv.js';
import { notInTables, readTables, type TablesRead } from './read-tables.js';
import { HEADS, tablesOf } from './tables.js';
import { webPage } from './web-page.js';
import { sheetsOfXlsx, xlsxOf } from './xlsx.js';
import { unzipped } from './zipped.js';

/** The open formats a design goes out in, and those it comes back from: the only list of them. */

export type FormatId = 'json' | 'xlsx' | 'csv' | 'html' | 'md' | 'txt';

export interface Format {
  id: FormatId;
  /** What it is called, and what it is for. */
  name: string;
  about: string;
  ending: string;
  mime: string;
  /** Whether a design is read back from it. */
  comesBack: boolean;
}

export const FORMATS: readonly Format[] = [
  {
    id: 'json',
    name: 'Document',
    about: 'Everything, to keep or to pass on to another workroom.',
    ending: 'json',
    mime: 'application/json',
    comesBack: true,
  },
  {
    id: 'xlsx',
    name: 'Workbook',
    about: 'Charts as sheets of a spreadsheet, to edit there and bring back.',
    ending: 'xlsx',
    mime: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    comesBack: true,
  },
  {
    id: 'csv',
    name: 'Table',
    about: 'The same as plain text with commas.',
    ending: 'csv',
    mime: 'text/csv',
    comesBack: true,
  },
  {
    id: 'html',
    name: 'Page',
    about: 'Charts and words on one page that opens anywhere, with a box to tick at each row.',
    ending: 'html',
    mime: 'text/html',
    comesBack: false,
  },
  {
    id: 'md',
    name: 'Markdown',
    about: 'The words with their headings.',
    ending: 'md',
    mime: 'text/markdown',
    comesBack: false,
  },
  {
    id: 'txt',
    name: 'Plain text',
    about: 'The words; rows and key are read back by Import.',
    ending: 'txt',
    mime: 'text/plain',
    comesBack: false,
  },
];

export const formatOf = (id: string): Format | undefined => FORMATS.find((format) => format.id === id);

/** What of this design a format does not hold, in words; an empty list where it holds all. */
export function leftOut(design: Design, id: FormatId): string[] {
  switch (id) {
    case 'json':
      return [];
    case 'xlsx':
    case 'csv': {
      const { design: read } = readTables(tablesOf(design), design.id);
      return read ? notInTables(design, read) : [];
    }
    case 'html':
      return design.sheet.order.includes('cloth') ? ['pictures of the cloth'] : [];
    case 'md':
    case 'txt':
      return ['charts as drawings'];
  }
}

/** A design as a file of a format: text, or bytes. `corrections` are printed under its sheet. */
export async function fileOf(
  design: Design,
  id: FormatId,
  corrections: readonly string[] = [],
): Promise<string | Uint8Array> {
  if (id === 'json') return `${JSON.stringify(design, null, 1)}\n`;
  if (id === 'csv') return csvOf(tablesOf(design));
  if (id === 'xlsx') return xlsxOf(tablesOf(design));
  const written = writeDesign(design.charts, design.piece, design.settings);
  const blocks = sheetOf(design, written, true, corrections);
  if (id === 'md') return sheetMarkdown(blocks);
  if (id === 'txt') return sheetText(blocks);
  const charts = printedOf(design, written).map(({ chart }) => chart);
  return webPage(design, blocks, charts, design.charts.map(printOf).join(' '));
}

/** The drawing of a design's piece with its measures; null as long as they are not known, or nothing is set out. */
export function measuresOf(design: Design): Picture | null {
  if (!design.piece) return null;
  const written = writeDesign(design.charts, design.piece, design.settings);
  const alone: Design = { ...design, sheet: { ...design.sheet, order: ['piece'] } };
  const block = sheetOf(alone, written, false).find(({ type }) => type === 'schematic');
  return block?.type === 'schematic' ? block.picture : null;
}

/** What a file gives: a design with what is to be said of it; or that it holds words, which Import reads. */
export type FileRead = ({ format: 'json' | 'xlsx' | 'csv' } & TablesRead) | { format: 'words'; text: string };

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** The text of bytes. @throws FileFault where they are none */
export function textOf(bytes: Uint8Array): string {
  const wide =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : null;
  let text: string;
  try {
    text = new TextDecoder(wide ?? 'utf-8', { fatal: true }).decode(bytes);
  } catch {
    // Spreadsheets of some countries still save so.
    text = new TextDecoder('windows-1252').decode(bytes);
  }
  if (text.includes('\0')) throw new FileFault('This is no text, and no file that is known here.');
  return text;
}

/** Bytes of one file at most, as of the largest body a request may have. */
export const LARGEST_FILE = 48_000_000;
const IN_ZIP = { files: 2000, one: LARGEST_FILE, all: 256_000_000 };
const WORKBOOK = '[Content_Types].xml';

/**
 * The files inside a zip that is no workbook; a file that is none by itself. Only their names' last parts are kept: nothing is written
 * anywhere by them.
 *
 * @throws FileFault
 */
export function filesIn(bytes: Uint8Array, name: string): { name: string; bytes: Uint8Array }[] {
  if (bytes.length > IN_ZIP.all) throw new FileFault('This file is larger than what is opened here.');
  if (!isZip(bytes)) return [{ name, bytes }];
  const inside = unzipped(
    bytes,
    IN_ZIP,
    (one) => one === WORKBOOK || one === SUMS || /\.(?:json|csv|xlsx|txt|md)$/i.test(one),
  );
  if (inside.has(WORKBOOK)) return [{ name, bytes }];
  if (inside.has(SUMS)) throw new FileFault('This is a backup of a whole workroom: open it under Backup.');
  if (!inside.size) throw new FileFault('There is no design in this zip.');
  return [...inside].map(([path, one]) => ({ name: path.split(/[\\/]/).at(-1)!, bytes: one }));
}

/**
 * A design out of a file, whatever its name says: what it is is told by how it begins.
 *
 * @param id of the design that is made
 * @throws FileFault where it is none, @throws DocumentError where a document is not as it should be
 */
export async function designOfFile(bytes: Uint8Array, name: string, id: string): Promise<FileRead> {
  if (!bytes.length) throw new FileFault('This file is empty.');
  if (bytes.length > LARGEST_FILE) throw new FileFault('This file is larger than any design.');
  if (isZip(bytes)) return { format: 'xlsx', ...readTables(await sheetsOfXlsx(bytes), id) };
  const text = textOf(bytes);
  if (/^\s*[{[]/.test(text)) {
    let value: unknown;
    try {
      value = boundedJson(new TextEncoder().encode(text));
    } catch (error) {
      if (!(error instanceof JsonFault)) throw error;
      throw new FileFault(
        error.isTooMuch
          ? `${error.message} No design does.`
          : 'This begins like a document and is none: it is not whole, or was changed by hand.',
      );
    }
    return { format: 'json', design: { ...readDesign(value), id }, faults: [], notes: [], sizes: [] };
  }
  if (!isTable(text)) return { format: 'words', text };
  return { format: 'csv', ...readTables([sheetOfCsv(text, name)], id) };
}

/** Whether a text begins like the tables of a design: with one of their heads in a cell of its own. */
const isTable = (text: string): boolean =>
  new RegExp(`^(?:\\uFEFF)?\\s*"?(?:${Object.values(HEADS).join('|')})"?[,;\\t|]`).test(text);
