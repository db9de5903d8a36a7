import type { Piece, Size } from '../chart/piece-document.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { sameStitches } from '../chart/steps.js';
import type { Hand } from '../construction/index.js';
import { needleOf, type Needle } from '../needle/loop.js';
import { freshNeedle, workStitches } from '../needle/needle.js';
import type { Stitch } from '../stitches/book.js';
import { sameValue } from '../values.js';
import type { Side } from '../stitches/face.js';
import type { ProvedRows } from '../words/proof/prove-key.js';
import type { ReadRows } from '../words/proof/prove.js';
import { Problems } from '../words/proof/problems.js';
import { proveBands } from '../words/proof/prove-bands.js';
import { provedWay } from '../words/proof/way.js';
import type { Item, RowLine } from '../words/pattern.js';
import { turned } from '../words/reader/hands.js';
import { BandsTold } from '../words/reader/bands-told.js';
import { parsePiece, tryPiece } from '../words/reader/language.js';
import type { Lexicon } from '../words/reader/lexicon.js';
import { namesIn, type Names } from '../words/reader/names.js';
import { bodyFor, type OwnBody } from '../words/reader/order.js';
import { takesByItself, workWords } from '../words/reader/work.js';
import type { Assembled } from './assemble.js';
import type { OwnLine } from './lines-of-sizes.js';
import { bandsWorkedOut, ProvedBody, workedOut } from './proof-rows.js';

/**
 * Rows of a piece read back as they are printed, by the grammar of all patterns, and worked on a needle from its border up: what lies
 * between the panels by its words, a panel by the printed row of the chart it names, "as set" by its own rule. What they work is
 * held against what the document says, stitch by stitch, by the proof's own account.
 */

/** What is wrong with the words of a piece. */
export class PieceMisread extends Error {}

/** The printed rows of a chart, under the name that words call it by. */
export interface PrintedChart {
  name: string;
  read: ReadRows;
}

/** A stretch of a row as it was read, from the right. */
type Read =
  | { kind: 'words'; body: Extract<OwnBody, { type: 'items' }>; loops: number }
  | { kind: 'panel'; chart: PrintedChart; row: number; over: number | null; after: number | null }
  | { kind: 'mark'; isNew: boolean };

/** Rows of a piece as the one grammar reads them, whose words lie between panels and markers. */
class Reader {
  private readonly byName: ReadonlyMap<string, PrintedChart>;
  private readonly charts: Names;

  constructor(
    charts: readonly PrintedChart[],
    private readonly lexicon: Lexicon,
  ) {
    this.byName = new Map(charts.map((c) => [c.name, c]));
    this.charts = namesIn(this.byName.keys());
  }

  /** A printed line. @throws WordsError where it is not understood */
  line({ head, words }: OwnLine): RowLine {
    return parsePiece('Row', `${head}: ${words}`, { strict: true, charts: this.charts });
  }

  /** The stretches of a row, from the right. */
  stretches(items: readonly Item[], side: Side): Read[] {
    const found: Read[] = [];
    let between: Item[] = [];
    const close = () => {
      if (!between.length) return;
      const body = { type: 'items' as const, items: between };
      const loops = takesByItself(body, side, this.lexicon);
      if (loops === null)
        throw new PieceMisread('It does not say over how many stitches something is worked.');
      found.push({ kind: 'words', body, loops });
      between = [];
    };
    for (const item of items)
      if (item.type === 'panel') {
        close();
        const { name, row, over, after } = item;
        const chart = this.byName.get(name);
        if (!chart) throw new PieceMisread(`It works by ${name}, which is not printed.`);
        found.push({ kind: 'panel', chart, row, over, after });
      } else if (item.type === 'aside' && (item.mark === 'place' || item.mark === 'slip')) {
        close();
        found.push({ kind: 'mark', isNew: item.mark === 'place' });
      } else between.push(item);
    close();
    return turned(found, side, this.lexicon.hand);
  }
}

/** The row of a panel that follows another by what its printed rows say of their repeat. */
function rowAfter({ read }: PrintedChart, row: number): number {
  const repeat = read.plan?.find(({ times }) => times === null);
  return repeat && row === repeat.to ? repeat.from : row + 1;
}

/** A piece being worked by its words. */
class Knitter {
  /** Rows as they were read, from the lowest. */
  private readonly rows: Read[][] = [];
  /** Loops that each stretch of the last row left. */
  private left: number[] = [];
  private marks = 0;
  readonly used: RowLine[] = [];
  private readonly printed = new Map<string, { needle: Needle; stitches: Stitch[] }[]>();

  constructor(
    private readonly reader: Reader,
    private readonly lexicon: Lexicon,
    public needle: Needle,
  ) {}

  /** Works a row told by itself; gives its stitches from the right. */
  told(number: number, said: readonly Item[], side: Side): Stitch[] {
    const row = this.reader.stretches(said, side);
    // What stands in words is told by the key.
    const items = row.flatMap((r): Item[] =>
      r.kind === 'words'
        ? r.body.items
        : r.kind === 'mark'
          ? [{ type: 'aside', text: r.isNew ? 'pm' : 'sm' }]
          : [],
    );
    const body = { type: 'items' as const, items };
    this.used.push({ kind: null, numbers: [number], rest: null, side, body, count: null });
    return this.work(number, row, side);
  }

  /** Works a row that goes on as set: panels by their next rows, all else as so many rows below. */
  asSet(number: number, every: number, side: Side): Stitch[] {
    const [last, like] = [this.rows.at(-1), this.rows.at(-every)];
    if (!last || !like || last.length !== like.length)
      throw new PieceMisread(`Row ${number} goes on as set where nothing is set yet.`);
    const row = last.map((part, i): Read => {
      const other = like[i]!;
      if (part.kind === 'panel') {
        const { chart } = part;
        return { kind: 'panel', chart, row: rowAfter(chart, part.row), over: null, after: null };
      }
      if (part.kind === 'mark') return { kind: 'mark', isNew: false };
      if (other.kind !== 'words') throw new PieceMisread(`Row ${number} cannot go on as set.`);
      return other;
    });
    return this.work(number, row, side);
  }

  private work(number: number, row: Read[], side: Side): Stitch[] {
    const fault = (why: string) => new PieceMisread(`Row ${number} ${why}`);
    const marks = row.filter((r) => r.kind === 'mark');
    if (marks.some((m) => m.isNew !== (number === 1)) || (number > 1 && marks.length !== this.marks))
      throw fault('does not slip the markers that were placed.');
    this.marks = marks.length;
    const stitches: Stitch[] = [];
    const left: number[] = [];
    let at = 0;
    row.forEach((part, i) => {
      if (part.kind === 'mark') return left.push(0);
      // In a row that is set a panel has as many as it left there.
      const known = this.rows.at(-1)?.length === row.length ? this.left[i] : undefined;
      const loops = part.kind === 'words' ? part.loops : (part.over ?? known);
      if (loops === undefined) throw fault(`does not say over how many stitches ${nameOf(part)} is worked.`);
      if (at + loops > this.needle.length) throw fault('works more stitches than are on the needle.');
      const below = needleOf(this.needle.slice(at, at + loops));
      const made =
        part.kind === 'words' ? this.words(part.body, below, side) : this.panel(part, below, side, fault);
      const makes = made.reduce((sum, s) => sum + this.lexicon.book.facts(s).makes, 0);
      const says = part.kind === 'panel' ? (part.after ?? part.over) : null;
      if (says !== null && says !== makes)
        throw fault(`says that ${nameOf(part)} leaves ${says} stitches; it leaves ${makes}.`);
      stitches.push(...made);
      left.push(makes);
      at += loops;
    });
    if (at !== this.needle.length)
      throw fault(`works ${at} of the ${this.needle.length} stitches on the needle.`);
    this.needle = workStitches(stitches, this.needle, this.lexicon.book).loops;
    this.rows.push(row);
    this.left = left;
    return stitches;
  }

  private words(body: OwnBody, below: Needle, side: Side): Stitch[] {
    return turned(workWords(body, below, side, this.lexicon).stitches, side, this.lexicon.hand);
  }

  /** The printed row of a chart worked over the loops that are there. */
  private panel(
    { chart, row }: Extract<Read, { kind: 'panel' }>,
    below: Needle,
    side: Side,
    fault: (why: string) => PieceMisread,
  ): Stitch[] {
    const { read, name } = chart;
    if (row < 1 || row > read.piece.height) throw fault(`works row ${row} of ${name}, which it has not.`);
    const charted = read.piece.side(row);
    if (charted !== side)
      throw fault(`is a ${side} row, and row ${row} of ${name} is written for the ${charted}.`);
    const key = `${name} ${row}`;
    const known = this.printed.get(key) ?? [];
    const found = known.find(({ needle }) => needle === below);
    if (found) return found.stitches;
    const body = bodyFor(read.numbered, row, side);
    if (!body) throw fault(`works row ${row} of ${name}, which is not written.`);
    const worked = workWords(body, below, side, read.lexicon).stitches;
    const stitches = turned(worked, side, this.lexicon.hand);
    this.printed.set(key, [...known.slice(-MOST_KEPT), { needle: below, stitches }]);
    return stitches;
  }
}

/** Needles of a printed row whose stitches are kept. */
const MOST_KEPT = 40;

const nameOf = (part: Read): string => (part.kind === 'panel' ? part.chart.name : 'what it says');

/** A piece in one size whose words are proved: the document, and what was put together of it. */
export interface Proved {
  charts: readonly Chart[];
  piece: Piece;
  size: Size;
  made: Assembled;
}

/** The rows of the parts that must be worked, by the proof's own account. */
const bodyOf = ({ charts, piece, size, made }: Proved): ProvedBody =>
  new ProvedBody(
    charts,
    piece,
    size,
    bookOf(made.chart),
    made.laid.parts.map(({ going }) => going?.begins ?? 1),
    made.body,
  );

/** Holds the chart that was put together of a piece against what its document says, row by row. @throws PieceMisread */
export function proveAssembled(of: Proved): void {
  const { chart, below, body, above } = of.made;
  const wanted = bodyOf(of);
  const { border } = of.piece;
  const bands = [
    [below, border.bottom?.band],
    [chart.rows.length - above, border.top?.band],
  ] as const;
  if (!sameValue(chart.bands, Object.fromEntries(bands.filter(([, band]) => band))))
    throw new PieceMisread('Its bands do not stand where its borders meet the panels.');
  const worked = [...workedOut(chart)];
  const placed = bandsWorkedOut(chart);
  const due = [
    [below, border.bottom?.band],
    [worked.length - above, border.top?.band],
  ] as const;
  if (placed.join() !== due.flatMap(([at, band]) => (band ? [at] : [])).join())
    throw new PieceMisread('Its bands are not worked once, where its borders meet the panels.');
  if (worked.length !== below + body + above)
    throw new PieceMisread(`It is ${worked.length} rows high, not ${below + body + above}.`);
  for (let number = 1; number <= body; number++) {
    const row = wanted.row(number);
    if (!row || !sameStitches(worked[below + number - 1]!, row))
      throw new PieceMisread(`Row ${number} is not put together of what its parts work.`);
  }
}

/** The needle that the rows below the parts leave. */
function needleBelow({ chart, below, castOn }: Assembled): Needle {
  let needle = freshNeedle(castOn);
  let row = 0;
  for (const stitches of workedOut(chart)) {
    if (row++ === below) break;
    needle = workStitches(stitches, needle, bookOf(chart)).loops;
  }
  return needle;
}

const parsesAsBand = ({ head, words }: OwnLine): boolean => tryPiece('Band', `${head}: ${words}`) !== null;

/**
 * Holds the lines of a piece's rows, as they are printed for one size, against what its document says.
 *
 * @returns the rows told in words, for the key
 * @throws PieceMisread, WordsError, RowProblem or WordProblem where they say anything else
 */
export function provePanelRows(
  of: Proved,
  lines: readonly OwnLine[],
  charts: readonly PrintedChart[],
  hand: Hand,
): ProvedRows {
  const { made, piece } = of;
  const wanted = bodyOf(of);
  const { calls, saysSide } = provedWay(piece);
  const book = bookOf(made.chart);
  const lexicon: Lexicon = { school: undefined, hand, book, defined: new Map() };
  const reader = new Reader(charts, lexicon);
  const knitter = new Knitter(reader, lexicon, needleBelow(made));
  let number = 0;
  let every = 0;
  const bands = new BandsTold();
  for (const printed of lines) {
    if (parsesAsBand(printed)) {
      const fault = bands.read(`${printed.head}: ${printed.words}`, { from: 0, to: 0 });
      if (fault) throw new PieceMisread(`"${printed.head}": ${fault}`);
      continue;
    }
    const { kind, numbers, rest, side: says, body, count } = reader.line(printed);
    const fault = (why: string) => new PieceMisread(`"${printed.head}" ${why}`);
    const [from, to] = [numbers[0] ?? 0, numbers.at(-1) ?? 0];
    if (kind !== calls || rest || numbers.length !== to - from + 1)
      throw fault('is not the head of its row.');
    if (from !== number + 1 || to > made.body) throw fault(`does not follow row ${number} of ${made.body}.`);
    if (body.type === 'asSet') every = body.rule?.every ?? every;
    else if (body.type !== 'items' || from !== to) throw fault('does not say what is worked.');
    if (body.type === 'asSet' && every < 1) throw fault('goes on by a rule that is not told.');
    if (from === to ? says !== (saysSide ? wanted.side(from) : null) : says !== null)
      throw fault('does not say rightly which side it is worked on.');
    for (number = from; number <= to; number++) {
      const side = wanted.side(number);
      const stitches =
        body.type === 'asSet' ? knitter.asSet(number, every, side) : knitter.told(number, body.items, side);
      const row = wanted.row(number);
      if (!row || !sameStitches(stitches, row))
        throw new PieceMisread(`Row ${number} does not work the stitches of the piece.`);
      if (count !== null && count !== knitter.needle.length)
        throw new PieceMisread(`Row ${number} leaves ${knitter.needle.length} stitches, not ${count}.`);
    }
    number = to;
  }
  if (number !== made.body)
    throw new PieceMisread(`Its rows end with row ${number}; the piece has ${made.body}.`);
  if (bands.unfinished().length) throw new PieceMisread('A band is not ended.');
  const problems = new Problems();
  const band = piece.border.bottom?.band;
  const takes = needleBelow(made).length;
  proveBands(
    bands.lines,
    { bands: () => new Map(band ? [[1, band]] : []), takes: () => takes, times: null, tried: [1] },
    problems,
  );
  const [problem] = problems.list;
  if (problem) throw new PieceMisread(problem.message);
  return { rows: knitter.used, bands: bands.lines, piece: { side: (row) => wanted.side(row) }, lexicon };
}
