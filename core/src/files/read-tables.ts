import { stepsBetween } from '../chart/differences.js';
import { rowFacts } from '../chart/rows.js';
import {
  bookOf,
  ChartSchema,
  CrossingNameSchema,
  DesignSchema,
  FrameFields,
  HeadFields,
  LIMITS,
  SchoolSchema,
  type Chart,
  type Design,
} from '../chart/schema.js';
import { startDesign } from '../chart/start.js';
import type { Step } from '../chart/steps.js';
import { sideOf } from '../construction/index.js';
import { LONGEST } from '../measures/length.js';
import { numberTyped, typedLength, typedText } from '../measures/typed.js';
import { OwnStitchSchema, type Stitch } from '../stitches/book.js';
import { crossing, crossingId, LARGEST_GROUP } from '../stitches/crossing.js';
import { WORKED, type Worked } from '../stitches/face.js';
import { counted, cutText, sameValue } from '../values.js';
import { FileFault } from './csv.js';
import { cellAt, cellName, TABLE_LIMITS, type CellFault, type Sheet } from './table.js';
import { FRAME_LINES, HEADS, KEY_HEADS, LINES, ROW_HEADS, SIZE_HEADS, type FrameLine } from './tables.js';
import { CellWords, GOES_ON, stitchOfWord, type Lexicon } from './words-of-cells.js';

/** Tables read back into a design: each fault told by its cell, and nothing taken that is not understood. */

/** What tables give. */
export interface TablesRead {
  /** The design as the tables alone say it; null where a fault stands in the way. */
  design: Design | null;
  /** What keeps it from being read. */
  faults: readonly CellFault[];
  /** What was read otherwise than it stands, or left aside, and why. */
  notes: readonly CellFault[];
  /** Sizes by their marks, for a design that has a piece. */
  sizes: readonly SizeRead[];
}

interface SizeRead {
  id: string;
  name: string;
  measure: number | null;
  ease: number;
  length: number | null;
}

/** More faults than these are counted, not told. */
const MOST_FAULTS = 200;

/** A part of a sheet that begins with a head, and where. */
interface Block {
  sheet: string;
  top: number;
  rows: Sheet['cells'];
}

/** Where a fault is told. */
class Telling {
  readonly faults: CellFault[] = [];
  readonly notes: CellFault[] = [];
  private readonly said = new Set<string>();

  fault({ sheet, top }: Block, row: number, column: number, message: string): void {
    if (this.faults.length < MOST_FAULTS)
      this.faults.push({ sheet, cell: cellName(top + row, column), message });
  }

  note({ sheet, top }: Block, row: number, column: number, message: string): void {
    if (this.said.has(message) || this.notes.length >= MOST_FAULTS) return;
    this.said.add(message);
    this.notes.push({ sheet, cell: cellName(top + row, column), message });
  }
}

const lineOf = (row: readonly string[] | undefined): string => row?.[0]?.trim() ?? '';

/** The parts of all sheets, by their heads. A sheet that begins with none says so. */
function blocksOf(sheets: readonly Sheet[], telling: Telling): Record<keyof typeof HEADS, Block[]> {
  const blocks: Record<keyof typeof HEADS, Block[]> = { design: [], chart: [], key: [] };
  const heads = Object.entries(HEADS) as [keyof typeof HEADS, string][];
  for (const { name, cells } of sheets) {
    const begins = cells.flatMap((row, r) => {
      const head = heads.find(([, word]) => word === lineOf(row));
      // A head stands at the top, or after a blank line; a title may be called like one.
      const isHead =
        head &&
        (r === 0 ||
          cells.slice(0, r).every((above) => above.every((c) => !c.trim())) ||
          isBlank(cells[r - 1]));
      return isHead ? [{ r, of: head[0] }] : [];
    });
    begins.forEach(({ r, of }, i) => {
      blocks[of].push({ sheet: name, top: r, rows: cells.slice(r, begins[i + 1]?.r) });
    });
    if (!begins.length && cells.some((row) => row.some((cell) => cell.trim())))
      telling.note(
        { sheet: name, top: 0, rows: cells },
        0,
        0,
        `The sheet "${name}" begins with none of ${Object.values(HEADS).join(', ')}: it is left aside.`,
      );
  }
  return blocks;
}

const isBlank = (row: readonly string[] | undefined): boolean => !row || row.every((cell) => !cell.trim());

/**
 * Reads the tables of a design.
 *
 * @param id of the design that is made; the core makes no random numbers
 * @throws FileFault where there are more tables than any design has
 */
export function readTables(sheets: readonly Sheet[], id: string): TablesRead {
  if (sheets.length > TABLE_LIMITS.sheets)
    throw new FileFault(
      `This file has ${sheets.length} sheets; a design has at most ${LIMITS.charts} charts.`,
    );
  const telling = new Telling();
  const blocks = blocksOf(sheets, telling);
  const none = (message: string): TablesRead => ({
    design: null,
    faults: [...telling.faults, { sheet: sheets[0]?.name ?? '', cell: 'A1', message }],
    notes: telling.notes,
    sizes: [],
  });
  if (!blocks.chart.length)
    return none(
      `No table begins with "${HEADS.chart}" in its first cell. A chart's table does; below it stand its rows under "${ROW_HEADS.row}", "${ROW_HEADS.side}" and the numbers of its columns.`,
    );
  if (blocks.chart.length > LIMITS.charts)
    return none(`This file has ${blocks.chart.length} charts; a design has at most ${LIMITS.charts}.`);
  const head = readHead(blocks.design, telling);
  const key = readKey(blocks.key, telling);
  const base = startDesign(id, head.title, PLACEHOLDER);
  const settings = { ...base.settings, school: head.school, units: head.units, names: key.names };
  const charts = blocks.chart.flatMap((block, i) => {
    const chart = readChart(block, i, { said: key.said, naming: settings }, telling);
    return chart ? [chart] : [];
  });
  if (telling.faults.length)
    return { design: null, faults: telling.faults, notes: telling.notes, sizes: head.sizes };
  const design = DesignSchema.safeParse({ ...base, notes: head.notes, settings, charts });
  if (design.success) return { design: design.data, faults: [], notes: telling.notes, sizes: head.sizes };
  const [issue] = design.error.issues;
  return none(issue!.message);
}

const PLACEHOLDER = ChartSchema.parse({ width: 1, rows: [['k']] });

interface Head {
  title: string;
  notes: string;
  school: Design['settings']['school'];
  units: Design['settings']['units'];
  sizes: SizeRead[];
}

function readHead([block, ...others]: readonly Block[], telling: Telling): Head {
  const head: Head = { title: 'From a table', notes: '', school: 'front-back', units: 'cm', sizes: [] };
  if (!block) return head;
  for (const other of others) telling.note(other, 0, 0, `"${HEADS.design}" stands twice: the first is read.`);
  const title = HeadFields.title.safeParse(cutText(cellAt(block.rows, 0, 1), LIMITS.title));
  if (title.success) head.title = title.data;
  else telling.note(block, 0, 1, `The design has no title here: it is called "${head.title}".`);
  let r = 1;
  for (; r < block.rows.length && lineOf(block.rows[r]) !== SIZE_HEADS[0]; r++) {
    const [line, value] = [lineOf(block.rows[r]), cellAt(block.rows, r, 1)];
    if (line === LINES.school) {
      const school = SchoolSchema.safeParse(value);
      if (school.success) head.school = school.data;
      else
        telling.fault(block, r, 1, `"${value}" is no school of names: ${SchoolSchema.options.join(', ')}.`);
    } else if (line === LINES.units) {
      if (value === 'cm' || value === 'in') head.units = value;
      else telling.fault(block, r, 1, `Units are cm or in, not "${value}".`);
    } else if (line === LINES.notes) {
      const notes = HeadFields.notes.safeParse(block.rows[r]![1] ?? '');
      if (notes.success) head.notes = notes.data;
      else telling.fault(block, r, 1, `Notes have at most ${LIMITS.notes} characters.`);
    } else if (line)
      telling.note(block, r, 0, `"${line.slice(0, 40)}" is no line of a design: it is left aside.`);
  }
  for (r++; r < block.rows.length; r++) {
    if (isBlank(block.rows[r])) continue;
    const size = readSize(block, r, head.units, telling);
    if (size) head.sizes.push(size);
  }
  return head;
}

function readSize(block: Block, r: number, unit: 'cm' | 'in', telling: Telling): SizeRead | null {
  const [name, , , , id] = SIZE_HEADS.map((_, c) => cellAt(block.rows, r, c));
  let isWhole = true;
  const length = (column: number): number | null => {
    const text = cellAt(block.rows, r, column);
    if (!text) return null;
    const isLess = /^[-−]/.test(text);
    const typed = typedLength(isLess ? text.slice(1) : text, unit, { what: 'It', least: 0, most: LONGEST });
    if ('value' in typed) return isLess ? -typed.value : typed.value;
    isWhole = false;
    telling.fault(block, r, column, typed.problem);
    return null;
  };
  const [measure, ease, long] = [length(1), length(2) ?? 0, length(3)];
  return isWhole ? { id: id!, name: name!, measure, ease, length: long } : null;
}

/** What the key says: stitches by word, and the names the designer gave. */
function readKey(
  blocks: readonly Block[],
  telling: Telling,
): { said: Map<string, Stitch>; names: Record<string, string> } {
  const said = new Map<string, Stitch>();
  const names: Record<string, string> = {};
  for (const block of blocks)
    block.rows.forEach((row, r) => {
      const [word, is, lean, ...rest] = KEY_HEADS.map((_, c) => cellAt(block.rows, r, c));
      if (r === 0 || isBlank(row) || word === KEY_HEADS[0] || is !== 'crossing') return;
      if (said.has(word!.toLowerCase())) return telling.fault(block, r, 0, `The key tells "${word}" twice.`);
      if (!word) return telling.fault(block, r, 0, 'A crossing of the key needs a word.');
      if (lean !== 'left' && lean !== 'right')
        return telling.fault(block, r, 2, `A crossing leans left or right; "${lean}" is neither.`);
      const groups = [3, 4, 5].map((c, i) => groupOf(block, r, c, rest[i]!, telling));
      if (groups.some((group) => group === null)) return;
      const [front, centre, back] = groups as [Worked[], Worked[], Worked[]];
      for (const [c, group] of [
        [3, front],
        [5, back],
      ] as const)
        if (!group.length)
          return telling.fault(block, r, c, 'A crossing needs a stitch in front and one behind at least.');
      const made = crossing(lean, front, back, centre);
      said.set(word.toLowerCase(), made);
      if (rest[3] !== 'yes') return;
      const name = CrossingNameSchema.safeParse(word);
      if (name.success) names[crossingId(made)] = name.data;
      else telling.fault(block, r, 0, name.error.issues[0]!.message);
    });
  return { said, names };
}

function groupOf(block: Block, r: number, column: number, text: string, telling: Telling): Worked[] | null {
  const words = text.split(/[\s,]+/).filter(Boolean);
  const odd = words.find((word) => !WORKED.includes(word as Worked));
  if (odd) {
    telling.fault(
      block,
      r,
      column,
      `The stitches of a group are ${WORKED.join(', ')}; "${odd.slice(0, 20)}" is none.`,
    );
    return null;
  }
  if (words.length > LARGEST_GROUP) {
    telling.fault(block, r, column, `A group holds at most ${LARGEST_GROUP} stitches.`);
    return null;
  }
  return words as Worked[];
}

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
function readChart(
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

/** The fields that tables hold of a design's head; what else it has they do not. */
const HEAD_TOLD: Readonly<Record<string, string>> = {
  asides: 'sentences that were left aside',
  tags: 'tags',
  sheet: 'how it is printed',
  piece: 'the piece it is set out in',
};
const SETTING_TOLD: Readonly<Record<string, string>> = {
  hand: 'for whose hands it is',
  plain: 'how plain cells are drawn',
  style: 'the style of its words',
  twist: 'how twists are worked',
  twistNames: 'how twists are called',
  cableless: 'steps without a cable needle',
  bobble: 'the size of bobbles',
  names: 'names of crossings that its charts do not use',
  colours: 'colours of crossings',
  rules: 'lines of custom of its own',
  meant: 'what is meant so in the whole design',
  cloth: 'how its cloth is shown',
};

/** What of a design its tables do not hold, in words; what is as in every new design is no loss. */
export function notInTables(design: Design, read: Design): string[] {
  const differs = (a: object, b: object, told: Readonly<Record<string, string>>) =>
    Object.entries(told).flatMap(([field, words]) =>
      sameValue((a as Record<string, unknown>)[field], (b as Record<string, unknown>)[field]) ? [] : [words],
    );
  return [...differs(design, read, HEAD_TOLD), ...differs(design.settings, read.settings, SETTING_TOLD)];
}

/**
 * The steps that bring what tables say into a design they were made of: charts are known by their marks, sizes by theirs; what
 * tables do not hold stays as it is.
 */
export function stepsFromTables(design: Design, { design: read, sizes }: TablesRead): Step[] {
  if (!read) return [];
  const { piece } = design;
  const { units } = design.settings;
  // A table tells a length to a hundredth: one that is told alike is as it was.
  const length = <N extends number | null>(was: N, now: N): N =>
    was !== null && now !== null && typedText(was, units) === typedText(now, units) ? was : now;
  const now: Design = {
    ...design,
    title: read.title,
    notes: read.notes,
    settings: {
      ...design.settings,
      school: read.settings.school,
      units: read.settings.units,
      names: { ...design.settings.names, ...read.settings.names },
    },
    piece: piece && {
      ...piece,
      sizes: piece.sizes.map((size) => {
        const told = sizes.find(({ id }) => id === size.id);
        if (!told) return size;
        return {
          ...size,
          name: told.name || size.name,
          measure: length(size.measure, told.measure),
          ease: length(size.ease, told.ease),
          length: length(size.length, told.length),
        };
      }),
    },
    charts: [
      ...design.charts.map((chart) => read.charts.find(({ id }) => id === chart.id) ?? chart),
      ...read.charts.filter(({ id }) => !design.charts.some((chart) => chart.id === id)),
    ],
  };
  return stepsBetween(design, now);
}
