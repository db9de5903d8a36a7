import { EditError, andThen, unchanged, type Edit } from '../chart/edit.js';
import { groundRow, insertRows, withRow } from '../chart/edits.js';
import { wayOf, sideOf, type Hand } from '../construction/index.js';
import { bookOf, LIMITS, type Chart, type Row } from '../chart/schema.js';
import { markerMoved, startOf } from '../chart/frame.js';
import { crossingsUsed } from '../names/check-names.js';
import { nameOf, namingOf, type NameSettings } from '../names/schools.js';
import type { Needle } from '../needle/loop.js';
import { castOnNeedle, needleFrom, workChart } from '../needle/needle.js';
import { sameStitch, spanOf, type Stitch } from '../stitches/book.js';
import { simpleCrossing, type Crossing } from '../stitches/crossing.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH, STITCH_KINDS } from '../stitches/kinds.js';
import { crossingSteps } from './moves.js';
import type { RowLine } from './pattern.js';
import { ownBody } from './reader/order.js';
import { readPiece, tryPiece, WordsError, type Span } from './reader/language.js';
import { withPlainMarks } from './reader/spelling.js';
import { namesIn, type Names } from './reader/names.js';
import { mannerOf } from './manner.js';
import { stitchesNamed, WordProblem, type Lexicon } from './reader/lexicon.js';
import { RowProblem } from './reader/at-work.js';
import { takenSoFar, workWords } from './reader/work.js';
import { turned } from './reader/hands.js';
import { beginsRight } from './vocabulary.js';

/** Words that cannot become a row of this chart, as one sentence for the designer. */
export class RowWordsError extends EditError {
  constructor(
    message: string,
    /** The characters of the words it is about; null where it is the row as a whole. */
    readonly at: Span | null = null,
  ) {
    super(message);
  }
}

/** Lays stitches over the columns of a row, keeping the gaps where they were. */
function overGaps(stitches: readonly Stitch[], was: Row, chart: Chart): Stitch[] {
  const book = bookOf(chart);
  const gaps = new Set<number>();
  let column = 0;
  for (const s of was) {
    if (s === NO_STITCH) gaps.add(column);
    column += spanOf(s, book);
  }
  const out: Stitch[] = [];
  let at = 0;
  const skipGaps = () => {
    while (gaps.has(at)) {
      out.push(NO_STITCH);
      at++;
    }
  };
  for (const s of stitches) {
    skipGaps();
    out.push(s);
    at += spanOf(s, book);
  }
  skipGaps();
  if (at !== chart.width)
    throw new RowWordsError(`These words fill ${at} columns; the chart has ${chart.width}.`);
  return out;
}

type HandedNames = NameSettings & { hand: Hand };

/** What written words make of a row so far. */
export interface RowRead {
  /** The row, where the words come out. */
  row: Row | null;
  problem: RowWordsError | null;
  /** The loops that wait for the row, and how many of them the words take, as far as they are understood. */
  waiting: number;
  taken: number;
}

/** A row's words in their place: what they are read with, and the needle they are worked over. */
interface Place {
  chart: Chart;
  index: number;
  side: Side;
  needle: Needle;
  lexicon: Lexicon;
  names: Names;
}

function placeOf(chart: Chart, index: number, settings: HandedNames): Place {
  const book = bookOf(chart);
  const side = sideOf(chart, index);
  const naming = namingOf(settings, chart);
  const named = crossingsUsed(chart).flatMap((c): [string, Crossing][] => {
    const name = nameOf(c, naming, side);
    return name === null ? [] : [[name.toLowerCase(), c]];
  });
  const works = workChart(chart);
  const before = index > 0 ? works[index - 1]!.loops : castOnNeedle(chart.rows[0]!, book);
  return {
    chart,
    index,
    side,
    needle: needleFrom(before, startOf(chart, index) - markerMoved(chart, index)),
    lexicon: {
      school: settings.school,
      hand: settings.hand,
      each: [naming.each],
      book,
      defined: new Map(named),
      hasEdges: wayOf(chart).hasEdges,
    },
    names: namesIn([...chart.own.flatMap((o) => [o.rs, o.ws]), ...named.map(([name]) => name)]),
  };
}

const HEADED = /^\s*(?:row|round|rnd)s?\b/i;
const ADVICE =
  'Name a crossing by its groups, such as 2/1 RPC, or spell it out: sl 2 to cable needle, hold in front, p1, k2 from cable needle.';

/** The row that words make in a place. @throws RowWordsError with the characters it is about */
function rowIn({ chart, index, side, needle, lexicon, names }: Place, text: string): Row {
  // A row may be written without its number and count.
  const head = HEADED.test(text) ? '' : `Row ${index + 1}: `;
  let places: WeakMap<object, Span> | null = null;
  const placed = (at: Span | undefined): Span | null =>
    at ? { from: Math.max(0, at.from - head.length), to: Math.max(0, at.to - head.length) } : null;
  try {
    const piece = readPiece('Row', withPlainMarks(head + text), { names, strict: true });
    const { body } = piece.value;
    places = piece.places;
    if (body.type === 'as') {
      const [as] = body.rows as [number];
      const target = chart.rows[as - 1];
      if (!target) throw new RowWordsError(`The chart has no row ${as}.`);
      if (body.rows.length > 1 || body.swaps)
        throw new RowWordsError(
          'A row is as one other here, stitch by stitch: write out what differs, or change it on the chart.',
        );
      return target;
    }
    const { stitches, moved } = workWords(ownBody(body, 0), needle, side, lexicon);
    const wanted = markerMoved(chart, index);
    if (moved !== (beginsRight(side, { way: wayOf(chart), hand: lexicon.hand }) ? wanted : -wanted))
      throw new RowWordsError('Where a round begins is set on the chart, and its words follow.');
    return overGaps(turned(stitches, side, lexicon.hand), chart.rows[index]!, chart);
  } catch (error) {
    const at = (item: object | undefined) => placed(item && places?.get(item));
    if (error instanceof RowProblem)
      throw new RowWordsError(`Row ${index + 1} ${error.message}`, at(error.item));
    if (error instanceof WordProblem) throw new RowWordsError(`${error.said} ${ADVICE}`, at(error.item));
    if (error instanceof WordsError) {
      const from = Math.max(0, error.at - head.length);
      throw new RowWordsError(error.message, { from, to: Math.max(from + 1, text.trimEnd().length) });
    }
    throw error;
  }
}

/** How many loops words take as far as they are understood: all of them, or those before the last comma that is. */
function takenBy({ needle, side, lexicon, names }: Place, text: string): number {
  const body = HEADED.test(text) ? text.replace(/^[^:]*:/, '') : text;
  for (let end = body.length, tries = 0; end > 0 && tries < 200; tries++) {
    const piece = body.slice(0, end).trim();
    const row = piece && tryPiece('Row', withPlainMarks(`Row 1: ${piece}`), { names, strict: true });
    const taken =
      row && row.body.type !== 'as' ? takenSoFar(ownBody(row.body, 0), needle, side, lexicon) : null;
    if (taken !== null) return taken;
    end = Math.max(body.lastIndexOf(',', end - 1), body.lastIndexOf(';', end - 1));
  }
  return 0;
}

/** What the words of one row make, worked over the needle of the row below with each repeat once, as the chart is drawn. */
export function readRowWords(chart: Chart, index: number, text: string, settings: HandedNames): RowRead {
  const place = placeOf(chart, index, settings);
  const waiting = place.needle.length;
  try {
    const row = rowIn(place, text);
    return { row, problem: null, waiting, taken: waiting };
  } catch (error) {
    if (!(error instanceof RowWordsError)) throw error;
    return { row: null, problem: error, waiting, taken: takenBy(place, text) };
  }
}

/**
 * The row that written words make, worked over the needle of the row below with each repeat once, as the
 * chart is drawn. The words may leave out the row's number and count.
 *
 * @throws RowWordsError when they are not understood or do not come out
 */
export const rowFromWords = (chart: Chart, index: number, text: string, settings: HandedNames): Row =>
  rowIn(placeOf(chart, index, settings), text);

/** Words of a row that do not come out, as they were written. */
export interface RowDraft {
  /** From 0. */
  row: number;
  text: string;
}

/** What a text of several rows makes of a chart: those that come out, and those that wait as they were written. */
export interface RowsRead {
  edit: Edit;
  drafts: RowDraft[];
  /** How many rows were set. */
  set: number;
}

/** A line of a text of rows, and the rows (from 0) it stands for. */
interface Line {
  rows: number[];
  text: string;
}

/**
 * The lines of a text, each with its rows: by their numbers where they have some, a line without one going on under
 * the row above it; else one after the other from `index` up.
 */
function linesIn(text: string, index: number, chart: Chart): Line[] {
  const written = text
    .split(/\r\n|[\r\n]/)
    .map((line) => line.trim())
    .filter(Boolean);
  if (!written.some((line) => HEADED.test(line)))
    return written.map((line, i) => ({ rows: [index + i], text: line }));
  const joined: string[] = [];
  for (const line of written)
    if (HEADED.test(line) || !joined.length) joined.push(line);
    else joined.push(`${joined.pop()!} ${line}`);
  const lines = joined.map((line): Line & { rest: RowLine['rest'] } => {
    const head = tryPiece('Row', withPlainMarks(line.replace(/:.*$/s, ': k')));
    return { rows: (head?.numbers ?? []).map((n) => n - 1), text: line, rest: head?.rest ?? null };
  });
  // A line for all rows like it stands for those that no other line names.
  const named = new Set(lines.flatMap(({ rows }) => rows));
  return lines.map(({ rows, text: said, rest }) => {
    if (!rest) return { rows, text: said };
    const isLike = (r: number) =>
      !rest.but?.includes(r + 1) &&
      ('side' in rest
        ? sideOf(chart, r) === rest.side
        : (r + 1) % 2 === (rest.parity ?? ((rows[0] ?? 0) + 1) % 2));
    const others = chart.rows.flatMap((_, r) => (!named.has(r) && isLike(r) ? [r] : []));
    return { rows: [...rows, ...others], text: said };
  });
}

/**
 * Writes several rows of a text into a chart, from row `index` up or at the numbers they name. Rows beyond the chart
 * are put in. Those that do not come out are left as the chart has them, and given back as they were written.
 *
 * @throws EditError when the chart has no room for so many rows
 */
export function writeRowsFrom(chart: Chart, index: number, text: string, settings: HandedNames): RowsRead {
  const lines = linesIn(text, index, chart)
    .flatMap(({ rows, text: said }) => rows.map((row) => ({ row, text: said })))
    .sort((a, b) => a.row - b.row);
  const height = Math.max(chart.rows.length, ...lines.map(({ row }) => row + 1));
  if (height > LIMITS.rows) throw new EditError(`A chart holds at most ${LIMITS.rows} rows.`);
  const missing = height - chart.rows.length;
  const ground = Array.from({ length: missing }, () => groundRow(chart));
  let edit = missing ? insertRows(chart, chart.rows.length, ground) : unchanged(chart);
  const drafts: RowDraft[] = [];
  let set = 0;
  for (const { row, text: said } of lines)
    try {
      // The number is another row's where a line stands for several.
      const words = said.replace(HEADED.test(said) ? /^[^:]*:\s*/ : /^/, '');
      const made = rowFromWords(edit.chart, row, words, settings);
      edit = andThen(edit, (c) => withRow(c, row, made));
      set++;
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      drafts.push({ row, text: said });
    }
  return { edit, drafts, set };
}

/** A word that may stand in a row, and what it is. */
export interface Completion {
  word: string;
  meaning: string;
}

const COMMON: readonly (readonly [number, number])[] = [
  [1, 1],
  [2, 1],
  [2, 2],
  [3, 1],
  [3, 2],
  [3, 3],
  [4, 4],
];

/** The words a row of a chart may be written with on its side: its own crossings first, stitches, then crossings of its school. */
export function completionsFor(chart: Chart, index: number, settings: HandedNames): Completion[] {
  const { side, lexicon } = placeOf(chart, index, settings);
  const { book } = lexicon;
  const naming = namingOf(settings, chart);
  const stepsOf = (c: Crossing) =>
    crossingSteps(c, side, settings.hand, mannerOf({ form: 'short', terms: 'US' }, chart));
  const meansThat = (word: string, c: Crossing): boolean => {
    try {
      const [meant] = stitchesNamed(word, side, lexicon);
      return meant !== undefined && sameStitch(meant, c);
    } catch (error) {
      if (error instanceof WordProblem) return false;
      throw error;
    }
  };
  const words = new Map<string, string>();
  const put = (word: string | null, meaning: string) => {
    if (word && !words.has(word)) words.set(word, meaning);
  };
  for (const c of crossingsUsed(chart)) put(nameOf(c, naming, side), stepsOf(c));
  for (const kind of [...STITCH_KINDS.values(), ...chart.own.map((o) => book.kind(o.id)!)])
    put((side === 'RS' ? kind.rs : kind.ws).replace('#', '1'), kind.name);
  put('*', 'begins a repeat');
  put('rep from * to last ', 'ends it before the last stitches');
  put('rep from * to end', 'ends it where the row ends');
  put('work the stitches as they present', 'the faces of the row below');
  for (const [front, back] of COMMON)
    for (const lean of ['left', 'right'] as const)
      for (const ground of ['k', 'p'] as const) {
        const c = simpleCrossing(lean, front, back, ground);
        const word = nameOf(c, naming, side);
        // A name that leaves open what it means is no help.
        if (word && meansThat(word, c)) put(word, stepsOf(c));
      }
  return [...words].map(([word, meaning]) => ({ word, meaning }));
}
