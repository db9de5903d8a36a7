import { bookOf } from '../chart/schema.js';
import type { Hand } from '../construction/index.js';
import { provedWay } from '../words/proof/way.js';
import type { Piece } from '../chart/piece.js';
import { sameStitches } from '../chart/steps.js';
import { needleOf, type Needle } from '../needle/loop.js';
import { workStitches } from '../needle/needle.js';
import type { Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { ProvedRows } from '../words/proof/key.js';
import type { ReadRows } from '../words/proof/prove.js';
import type { Item, RowLine } from '../words/pattern.js';
import { turned } from '../words/reader/hands.js';
import { parsePiece } from '../words/reader/language.js';
import type { Lexicon } from '../words/reader/lexicon.js';
import { bodyFor, type OwnBody } from '../words/reader/order.js';
import { takesByItself, workWords } from '../words/reader/work.js';
import { needleAbove, type Assembled } from './assemble.js';
import type { OwnLine } from './lines-of-sizes.js';
import { bodyRowOf } from './told-rows.js';

/**
 * Rows of a piece read back as they are printed and worked on a needle from its border up: what lies between the panels by the
 * reader of all patterns, a panel by the printed row of the chart it names, "as set" by its own rule. What they work is held
 * against the rows of the piece, stitch by stitch. It takes the piece's rows from its chart, and nothing else.
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

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

const HEAD = /^(?:Row|Round)s? (\d+)(?:–(\d+))?(?: \((RS|WS|right side|wrong side)\))?$/;
const COUNT = /\. \((\d+) st(?:s|itch|itches)?\)$/;
const AS_SET =
  /^continue as set(?:(?:, each panel by its next row \(from the first of its repeat when its last is worked\))?, (?:all else )?as (?:the (?:row|round) below|(\d+) (?:row|round)s below))?$/;

/** One row told in words, or the rule that rows go on by. */
class Reader {
  private readonly panel: RegExp;
  private readonly byName: ReadonlyMap<string, PrintedChart>;

  constructor(
    charts: readonly PrintedChart[],
    private readonly lexicon: Lexicon,
  ) {
    this.byName = new Map(charts.map((c) => [c.name, c]));
    const names = [...this.byName.keys()].sort((a, b) => b.length - a.length).map(escaped);
    this.panel = new RegExp(
      `(?:^|, )(?:(pm|sm)|work row (\\d+) of (${names.join('|') || '(?!)'})(?: over the next (\\d+) st(?:s|itch|itches)?)?(?: \\((\\d+) after it\\))?)(?=, |$)`,
      'g',
    );
  }

  /** The stretches of a row, from the right. */
  row(text: string, side: Side): Read[] {
    const found: Read[] = [];
    const words = (said: string) => {
      if (!said) return;
      const { body } = parsePiece('Row', `Row 1: ${said}`, { strict: true });
      if (body.type !== 'items') throw new PieceMisread(`"${said}" does not say what is worked.`);
      const loops = takesByItself(body, side, this.lexicon);
      if (loops === null)
        throw new PieceMisread(`"${said}" does not say over how many stitches it is worked.`);
      found.push({ kind: 'words', body, loops });
    };
    let at = 0;
    for (const told of text.matchAll(this.panel)) {
      words(text.slice(at, told.index).replace(/^, /, ''));
      at = told.index + told[0].length;
      const [, mark, row, name, over, after] = told;
      if (mark) found.push({ kind: 'mark', isNew: mark === 'pm' });
      else
        found.push({
          kind: 'panel',
          chart: this.byName.get(name!)!,
          row: Number(row),
          over: over === undefined ? null : Number(over),
          after: after === undefined ? null : Number(after),
        });
    }
    words(text.slice(at).replace(/^, /, ''));
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
  told(number: number, text: string, side: Side): Stitch[] {
    const row = this.reader.row(text, side);
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

/**
 * Holds the lines of a piece's rows, as they are printed for one size, against its assembled rows.
 *
 * @returns the rows told in words, for the key
 * @throws PieceMisread, RowProblem or WordProblem where they say anything else
 */
export function provePanelRows(
  piece: Piece,
  made: Assembled,
  lines: readonly OwnLine[],
  charts: readonly PrintedChart[],
  hand: Hand,
): ProvedRows {
  const book = bookOf(made.chart);
  const lexicon: Lexicon = { school: undefined, hand, book, defined: new Map() };
  const knitter = new Knitter(new Reader(charts, lexicon), lexicon, needleAbove(made));
  let number = 0;
  let every = 0;
  for (const { head, words } of lines) {
    const told = HEAD.exec(head);
    if (!told) throw new PieceMisread(`"${head}" is not the head of a row.`);
    const [from, to] = [Number(told[1]), Number(told[2] ?? told[1])];
    if (from !== number + 1 || to < from || to > made.body)
      throw new PieceMisread(`"${head}" does not follow row ${number} of ${made.body}.`);
    const count = COUNT.exec(words);
    const text = words.replace(COUNT, '').replace(/\.$/, '');
    const set = AS_SET.exec(text);
    if (set?.[0].includes('below')) every = Number(set[1] ?? 1);
    if (set ? every < 1 : from !== to) throw new PieceMisread(`"${head}" does not say what is worked.`);
    for (number = from; number <= to; number++) {
      const side = sideOfRow(piece, number);
      if (told[3] && (told[3].startsWith('W') || told[3].startsWith('w')) !== (side === 'WS'))
        throw new PieceMisread(`Row ${number} is told as a row of the other side.`);
      const stitches = set ? knitter.asSet(number, every, side) : knitter.told(number, text, side);
      const cells = made.chart.rows[bodyRowOf(made, number - 1)]!.filter((s) => s !== NO_STITCH);
      if (!sameStitches(stitches, cells))
        throw new PieceMisread(`Row ${number} does not work the stitches of the piece.`);
      if (count && Number(count[1]) !== knitter.needle.length)
        throw new PieceMisread(
          `Row ${number} leaves ${knitter.needle.length} stitches, not ${Number(count[1])}.`,
        );
    }
    number = to;
  }
  if (number !== made.body)
    throw new PieceMisread(`Its rows end with row ${number}; the piece has ${made.body}.`);
  return { rows: knitter.used, piece: { side: (row) => sideOfRow(piece, row) }, lexicon };
}

/** The side of a row by the proof's own account. */
function sideOfRow({ construction, firstRow }: Piece, number: number): Side {
  return provedWay({ construction }).side(number, firstRow);
}
