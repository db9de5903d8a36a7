import { chartName } from '../chart/charts.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf, FrameFields, type Chart, type Design, type Row, type Settings } from '../chart/schema.js';
import { sideOf } from '../construction/index.js';
import { typedText } from '../measures/typed.js';
import type { StitchBook } from '../stitches/book.js';
import { sameValue } from '../values.js';
import { CellWords, GOES_ON, kindsUsed, kindTold } from './words-of-cells.js';
import type { Sheet } from './table.js';

/**
 * A design as tables that can be edited in a spreadsheet: a sheet that tells of the design, one for each chart, its cells as the
 * right side looks, row 1 at the bottom; and the key of what stands in the cells.
 */

/** What the first cell of a sheet is, by which it is known again. */
export const HEADS = { design: 'Design', chart: 'Chart', key: 'Key' } as const;

/** What the lines of a chart's head are called, in their order. Each is written where it is not as in every new chart. */
export const FRAME_LINES = {
  construction: 'Worked',
  firstRow: 'Row 1 is',
  bothFaces: 'Both faces count',
  ground: 'New cells',
  part: 'It is a',
  across: 'Repeat across',
  up: 'Repeat up',
  mirror: 'Symmetry',
} as const satisfies Partial<Record<keyof typeof FrameFields, string>>;
export type FrameLine = keyof typeof FRAME_LINES;

export const LINES = {
  columns: 'Columns',
  meant: 'Meant so',
  own: 'Own stitch',
  school: 'Names of crossings',
  units: 'Units',
  notes: 'Notes',
} as const;

/** Heads of the columns of a chart, besides its own numbered ones, and of the key and the sizes. */
export const ROW_HEADS = {
  row: 'Row',
  side: 'Side',
  count: 'Stitches',
  shift: 'Shift',
  band: 'Band before',
} as const;
export const KEY_HEADS = ['Cell', 'Is', 'Leans', 'Front', 'Centre', 'Back', 'Named by me'] as const;
export const SIZE_HEADS = ['Size', 'Measure', 'Ease', 'Length', 'Mark'] as const;

/** A setting as the cells of a line: one value in one cell; what has several, each with its name. */
const valueCells = (value: unknown): string[] =>
  typeof value === 'object' && value !== null
    ? Object.entries(value).map(([name, n]) => `${name} ${String(n)}`)
    : [value === true ? 'yes' : value === false ? 'no' : String(value)];

/** The design as sheets, in the order they are read best. */
export function tablesOf(design: Design): Sheet[] {
  const words = new CellWords(design.charts, design.settings);
  const sheets: Sheet[] = [designSheet(design)];
  const taken = new Set(['design', 'key']);
  for (const chart of design.charts)
    sheets.push({ name: sheetName(chartName(design, chart), taken), cells: chartCells(chart, words) });
  return [...sheets, keySheet(design, words)];
}

/** A name a spreadsheet takes for a sheet: short, without the marks it forbids, and no other's. */
function sheetName(name: string, taken: Set<string>): string {
  const plain =
    name
      .replace(/[[\]:*?/\\']/g, ' ')
      .trim()
      .slice(0, 26) || 'Chart';
  let own = plain;
  for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${plain} ${n}`;
  taken.add(own.toLowerCase());
  return own;
}

function designSheet({ title, notes, settings, piece }: Design): Sheet {
  const { school, units } = settings;
  const cells: string[][] = [
    [HEADS.design, title],
    [LINES.school, school],
    [LINES.units, units],
    ...(notes ? [[LINES.notes, notes]] : []),
  ];
  const told = (length: number | null) => (length === null ? '' : `${typedText(length, units)} ${units}`);
  if (piece)
    cells.push(
      [],
      [...SIZE_HEADS],
      ...piece.sizes.map(({ id, name, measure, ease, length }) => [
        name,
        told(measure),
        `${ease < 0 ? '−' : ''}${told(Math.abs(ease))}`,
        told(length),
        id,
      ]),
    );
  return { name: 'Design', cells };
}

/** The cells of a row from its left, the columns of the sheet to be filled; short rows stand at the right, as in the chart. */
function rowCells(
  row: Row,
  columns: number,
  book: StitchBook,
  wordOf: ReturnType<CellWords['in']>,
): string[] {
  const cells = Array<string>(columns).fill('');
  const { starts } = rowFacts(row, book);
  row.forEach((stitch, i) => {
    const { span } = book.facts(stitch);
    const left = columns - starts[i]! - span;
    cells[left] = wordOf(stitch);
    for (let c = left + 1; c < left + span; c++) cells[c] = GOES_ON;
  });
  return cells;
}

/** Rows of a chart as cells: as they are seen, the topmost first. What a spreadsheet takes from the clipboard. */
export function cellsOfRows(rows: readonly Row[], chart: Chart, settings: Settings): string[][] {
  const book = bookOf(chart);
  const of = { ...chart, rows };
  const wordOf = new CellWords([of], settings).in(of);
  const columns = Math.max(1, ...rows.map((row) => rowFacts(row, book).span));
  return rows.map((row) => rowCells(row, columns, book, wordOf)).reverse();
}

function chartCells(chart: Chart, words: CellWords): string[][] {
  const book = bookOf(chart);
  const wordOf = words.in(chart);
  const columns = Math.max(chart.width, ...chart.rows.map((row) => rowFacts(row, book).span));
  const { jogs, bands, meant } = chart;
  const hasShifts = Object.keys(jogs).length > 0;
  const hasBands = Object.keys(bands).length > 0;
  const head: string[][] = [
    [HEADS.chart, chart.name, chart.id],
    [LINES.columns, String(chart.width)],
  ];
  for (const [field, line] of Object.entries(FRAME_LINES)) {
    const value = chart[field as FrameLine];
    const isUsual = sameValue(value, FrameFields[field as FrameLine].parse(undefined));
    if (value !== null && (!isUsual || field === 'construction')) head.push([line, ...valueCells(value)]);
  }
  for (const { word, own } of words.ownOf(chart)) head.push([LINES.own, word, JSON.stringify(own)]);
  if (Object.keys(meant).length) head.push([LINES.meant, JSON.stringify(meant)]);
  const more = [
    ROW_HEADS.count,
    ...(hasShifts ? [ROW_HEADS.shift] : []),
    ...(hasBands ? [ROW_HEADS.band] : []),
  ];
  const numbers = Array.from({ length: columns }, (_, i) => String(columns - i));
  const rows = chart.rows.map((row, r) => [
    String(r + 1),
    sideOf(chart, r),
    ...rowCells(row, columns, book, wordOf),
    String(rowFacts(row, book).makes),
    ...(hasShifts ? [jogs[r] === undefined ? '' : String(jogs[r])] : []),
    ...(hasBands ? [bands[r] === undefined ? '' : valueCells(bands[r]).join(', ')] : []),
  ]);
  return [...head, [], [ROW_HEADS.row, ROW_HEADS.side, ...numbers, ...more], ...rows.reverse()];
}

function keySheet({ charts, settings: { names } }: Design, words: CellWords): Sheet {
  const own = new Set(charts.flatMap((chart) => chart.own.map(({ id }) => id)));
  const kinds = kindsUsed(charts).filter(({ id }) => !own.has(id));
  const kindLines = kinds.map(({ word, id }) => [word, kindTold(id)]);
  const lines = words.key.map(({ word, crossing }) => {
    const { lean, front, centre, back } = crossing;
    const group = (stitches: readonly string[]) => stitches.join(' ');
    return [
      word,
      'crossing',
      lean,
      group(front),
      group(centre),
      group(back),
      Object.values(names).includes(word) ? 'yes' : '',
    ];
  });
  const goesOn = lines.length > 0 ? [[GOES_ON, 'goes on from the cell at its left']] : [];
  return {
    name: 'Key',
    cells: [
      [HEADS.key, 'What stands in the cells; groups of crossings from the right'],
      [...KEY_HEADS],
      ...kindLines,
      ...goesOn,
      ...lines,
    ],
  };
}
