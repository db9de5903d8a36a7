import { rowFacts } from '../chart/rows.js';
import { bookOf, ChartSchema, FrameFields, LIMITS, type Chart, type Design } from '../chart/schema.js';
import { sideOf } from '../construction/index.js';
import { numberTyped } from '../measures/typed.js';
import { OwnStitchSchema, type Stitch } from '../stitches/book.js';
import { counted, cutText } from '../values.js';
import { cellAt, type Sheet } from './table.js';
import { isBlank, lineOf, Telling, type Block } from './table-parts.js';
import { FRAME_LINES, LINES, ROW_HEADS, type FrameLine } from './tables.js';
import { CellWords, GOES_ON, stitchOfWord, type Lexicon } from './words-of-cells.js';

/** The cells of one chart, read back. */

/** The cells of a line as the setting they are; undefined where they are none. */
function valueOf(cells: readonly string[]): unknown {
  const parts = cells.map((cell) => /^([a-z]+) (-?\d{1,5})$/i.exec(cell));
  if (parts.length && parts.every(Boolean))
    return Object.fromEntries(parts.map((p) => [p![1]!.toLowerCase(), Number(p![2])]));
  const [only, ...rest] = cells;
  if (only === undefined || rest.length) return undefined;
  return only === 'yes' ? true : only === 'no' ? false : only;
}

type Lines = { field: FrameLine; line: string }[];
const FRAME: Lines = Object.entries(FRAME_LINES).map(([field, line]) => ({
  field: field as FrameLine,
  line,
}));

const parsedJson = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
};

/** One chart; null where something of it cannot be read. */
export function readChart(
  block: Block,
  place: number,
  lexicon: Omit<Lexicon, 'chart'>,
  telling: Telling,
): Chart | null {
  const before = telling.faults.length;
  const { rows } = block;
  const fields: Record<string, unknown> = {};
  const own: Chart['own'][number][] = [];
  const said = new Map(lexicon.said);
  const at: Partial<Record<string, [number, number]>> = {};
  let width: number | null = null;
  let r = 1;
  for (; r < rows.length && lineOf(rows[r]) !== ROW_HEADS.row; r++) {
    const line = lineOf(rows[r]);
    if (!line) continue;
    const values = rows[r]!.slice(1)
      .map((cell) => cell.trim())
      .filter(Boolean);
    const known = FRAME.find((one) => one.line === line);
    if (known) {
      const value = valueOf(values);
      const parsed = FrameFields[known.field].safeParse(value);
      if (parsed.success) fields[known.field] = parsed.data;
      else telling.fault(block, r, 1, `"${line}" cannot be "${values.join(', ').slice(0, 60)}".`);
      at[known.field] = [r, 1];
    } else if (line === LINES.columns) {
      const n = numberTyped(values[0] ?? '');
      if (Number.isInteger(n) && n >= 1 && n <= LIMITS.columns) width = n;
      else
        telling.fault(
          block,
          r,
          1,
          `A chart has 1 to ${LIMITS.columns} columns, not "${(values[0] ?? '').slice(0, 20)}".`,
        );
    } else if (line === LINES.own) {
      const parsed = OwnStitchSchema.safeParse(parsedJson(values[1] ?? ''));
      if (parsed.success && own.length < LIMITS.own) {
        own.push(parsed.data);
        said.set(values[0]!.toLowerCase(), parsed.data.id);
      } else telling.fault(block, r, 2, 'This does not describe a stitch: leave the cell as it was written.');
    } else if (line === LINES.meant) {
      const parsed = FrameFields.meant.safeParse(parsedJson(values[0] ?? ''));
      if (parsed.success) fields.meant = parsed.data;
      else telling.fault(block, r, 1, 'This does not say what is meant: leave the cell as it was written.');
    } else telling.note(block, r, 0, `"${line.slice(0, 40)}" is no line of a chart: it is left aside.`);
  }
  const heads = columnsUnder(block, r, telling);
  if (!heads || telling.faults.length > before) return null;
  const way = FrameFields.construction.parse(fields.construction);
  const grid = gridOf(block, r, heads, { ...lexicon, said, chart: { construction: way } }, telling);
  if (!grid || telling.faults.length > before) return null;
  const [name, id] = [cellAt(rows, 0, 1), cellAt(rows, 0, 2)];
  const parsed = ChartSchema.safeParse({
    ...fields,
    id: id.slice(0, 64) || `chart-${place + 1}`,
    name: cutText(name, LIMITS.name),
    own,
    width: width ?? heads.cells.length,
    rows: grid.rows,
    jogs: grid.jogs,
    bands: grid.bands,
  });
  if (!parsed.success) {
    const { path, message } = parsed.error.issues[0]!;
    const [field, line] = path;
    const isRow = field === 'rows' || field === 'jogs' || field === 'bands';
    const [row, column] = isRow
      ? [grid.lineOf(Number(line)), heads.cells[0] ?? 1]
      : (at[String(field)] ?? [0, 0]);
    telling.fault(block, row, column, message);
    return null;
  }
  compare(parsed.data, block, heads, grid, telling);
  return parsed.data;
}

/** Which columns of the sheet are what. */
interface Columns {
  side: number | null;
  count: number | null;
  shift: number | null;
  band: number | null;
  /** Of the chart's columns, from the left. */
  cells: number[];
}

function columnsUnder(block: Block, r: number, telling: Telling): Columns | null {
  const head = block.rows[r];
  if (!head) {
    telling.fault(
      block,
      0,
      0,
      `The rows of this chart are not there: they stand under a line that begins with "${ROW_HEADS.row}".`,
    );
    return null;
  }
  const of = (word: string) => {
    const at = head.findIndex((cell, c) => c > 0 && cell.trim().toLowerCase() === word.toLowerCase());
    return at < 0 ? null : at;
  };
  const cells = head.flatMap((cell, c) => (/^\d+$/.test(cell.trim()) ? [c] : []));
  const numbers = cells.map((c) => Number(head[c]));
  const odd = numbers.findIndex((n, i) => n !== numbers.length - i);
  if (!cells.length)
    telling.fault(block, r, 2, 'The columns have no numbers: from the right 1, 2 and so on.');
  else if (odd >= 0)
    telling.fault(
      block,
      r,
      cells[odd]!,
      `The columns are numbered from the right: here stands ${numbers[odd]!}, and it is column ${numbers.length - odd}.`,
    );
  else
    return {
      side: of(ROW_HEADS.side),
      count: of(ROW_HEADS.count),
      shift: of(ROW_HEADS.shift),
      band: of(ROW_HEADS.band),
      cells,
    };
  return null;
}

interface Grid {
  rows: Stitch[][];
  jogs: Record<string, number>;
  bands: Record<string, unknown>;
  /** The line of the block a row stands on. */
  lineOf: (row: number) => number;
}

function gridOf(
  block: Block,
  top: number,
  { cells, shift, band }: Columns,
  lexicon: Lexicon,
  telling: Telling,
): Grid | null {
  const lines: number[] = [];
  for (let r = top + 1; r < block.rows.length; r++) if (!isBlank(block.rows[r])) lines.push(r);
  if (!lines.length || lines.length > LIMITS.rows) {
    telling.fault(block, top, 0, `A chart has 1 to ${LIMITS.rows} rows; here are ${lines.length}.`);
    return null;
  }
  const lineOf = (row: number) => lines[lines.length - 1 - row] ?? top;
  const known = new Map<string, ReturnType<typeof stitchOfWord>>();
  const found = (word: string) => {
    let one = known.get(word);
    if (!one) known.set(word, (one = stitchOfWord(word, lexicon)));
    return one;
  };
  const grid: Grid = { rows: [], jogs: {}, bands: {}, lineOf };
  for (let row = 0; row < lines.length; row++) {
    const r = lineOf(row);
    grid.rows.push(rowOf(block, r, cells, found, telling));
    const [jog, told] = [shift, band].map((c) => (c === null ? '' : cellAt(block.rows, r, c)));
    if (jog) {
      const n = Number(jog.replace('−', '-'));
      if (Number.isInteger(n)) grid.jogs[row] = n;
      else
        telling.fault(block, r, shift!, `A shift is a whole number of stitches, not "${jog.slice(0, 20)}".`);
    }
    if (told) {
      const value = valueOf(told.split(/\s*,\s*/));
      const parsed = FrameFields.bands.safeParse({ [row]: value });
      if (parsed.success) grid.bands[row] = parsed.data![row];
      else telling.fault(block, r, band!, `A band is "every 5, rounds 3", not "${told.slice(0, 40)}".`);
    }
  }
  return grid;
}

/** The stitches of a line, from the right. Blank cells at its left end are none; within it there are no blanks. */
function rowOf(
  block: Block,
  r: number,
  columns: readonly number[],
  found: (word: string) => ReturnType<typeof stitchOfWord>,
  telling: Telling,
): Stitch[] {
  const stitches: Stitch[] = [];
  let left = 0;
  while (left < columns.length && !cellAt(block.rows, r, columns[left]!)) left++;
  for (let c = left; c < columns.length; c++) {
    const word = cellAt(block.rows, r, columns[c]!);
    if (!word) {
      telling.fault(
        block,
        r,
        columns[c]!,
        'This cell is empty: a stitch stands in it, or x where there is none.',
      );
      continue;
    }
    if (word === GOES_ON) {
      telling.fault(
        block,
        r,
        columns[c]!,
        `"${GOES_ON}" goes on from a stitch of several columns at its left; there is none.`,
      );
      continue;
    }
    const one = found(word);
    if ('problem' in one) {
      telling.fault(block, r, columns[c]!, one.problem);
      continue;
    }
    stitches.unshift(one.stitch);
    while (c + 1 < columns.length && cellAt(block.rows, r, columns[c + 1]!) === GOES_ON) c++;
  }
  return stitches;
}

/**
 * Rows for a chart out of cells as they are seen, the topmost first: what was copied in a spreadsheet. The first fault is told by its
 * cell.
 */
export function rowsOfCells(
  cells: Sheet['cells'],
  chart: Chart,
  settings: Design['settings'],
): { rows: Stitch[][] } | { problem: string } {
  const filled = cells.filter((row) => !isBlank(row));
  const width = Math.max(0, ...filled.map((row) => row.length));
  if (!filled.length || filled.length > LIMITS.rows || width > LIMITS.columns)
    return { problem: 'What was copied is no part of a chart.' };
  const block: Block = { sheet: '', top: 0, rows: filled };
  const telling = new Telling();
  const said = new Map(
    new CellWords([chart], settings)
      .ownOf(chart)
      .map(({ word, own: { id } }) => [word.toLowerCase(), id] as const),
  );
  const lexicon: Lexicon = { said, naming: settings, chart };
  const columns = Array.from({ length: width }, (_, c) => c);
  const rows = filled
    .map((_, r) => rowOf(block, r, columns, (word) => stitchOfWord(word, lexicon), telling))
    .reverse();
  const [fault] = telling.faults;
  return fault ? { problem: `${fault.cell} of what was copied: ${fault.message}` } : { rows };
}

/** What is written of the rows besides their cells is held against them. */
function compare(
  chart: Chart,
  block: Block,
  { side, count, cells }: Columns,
  { lineOf }: Grid,
  telling: Telling,
): void {
  const book = bookOf(chart);
  const numbers = chart.rows.map((_, r) => Number(cellAt(block.rows, lineOf(r), 0) || NaN));
  if (numbers.length > 1 && numbers[0]! > numbers.at(-1)!)
    return telling.fault(
      block,
      lineOf(0),
      0,
      'Row 1 stands at the bottom of a chart: this table has it at the top. Turn the order of its lines.',
    );
  chart.rows.forEach((row, r) => {
    const line = lineOf(r);
    const facts = rowFacts(row, book);
    const marked = goesOnAfter(block, line, cells);
    // From the left, as they stand.
    row.toReversed().forEach((stitch, i) => {
      const spans = book.facts(stitch).span;
      const { column, columns } = marked[i]!;
      if (columns !== spans)
        telling.fault(
          block,
          line,
          column,
          `This stitch covers ${counted(spans, 'column')}; here it has ${columns}: ${columns < spans ? `put ${counted(spans - columns, `"${GOES_ON}"`)} after it` : `take ${counted(columns - spans, `"${GOES_ON}"`)} away`}.`,
        );
    });
    if (Number.isFinite(numbers[r]) && numbers[r] !== r + 1)
      telling.note(
        block,
        line,
        0,
        `The number here is ${numbers[r]!}; counted from the bottom it is row ${r + 1}. The order of the lines counts.`,
      );
    const [saidSide, saidCount] = [side, count].map((c) => (c === null ? '' : cellAt(block.rows, line, c)));
    if (saidSide && saidSide !== sideOf(chart, r))
      telling.note(
        block,
        line,
        side!,
        `Row ${r + 1} is a ${sideOf(chart, r)} row, where ${saidSide.slice(0, 10)} is written: what the head says counts.`,
      );
    if (saidCount && Number(saidCount) !== facts.makes)
      telling.note(
        block,
        line,
        count!,
        `Row ${r + 1} leaves ${counted(facts.makes, 'stitch')}; ${saidCount.slice(0, 12)} is written. The cells count.`,
      );
  });
}

/** The words of a line from its left: the column each stands in, and how many it has with those that go on from it. */
function goesOnAfter(
  block: Block,
  r: number,
  columns: readonly number[],
): { column: number; columns: number }[] {
  const words: { column: number; columns: number }[] = [];
  for (const column of columns) {
    const word = cellAt(block.rows, r, column);
    if (word === GOES_ON && words.length) words.at(-1)!.columns++;
    else if (word) words.push({ column, columns: 1 });
  }
  return words;
}
