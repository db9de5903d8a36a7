import { isInPairs } from '../../construction/index.js';
import type { Side } from '../../stitches/face.js';
import type { Stitch } from '../../stitches/book.js';
import type { BandLine, KeyLine, Pattern, RowLine } from '../pattern.js';
import {
  hintFor,
  quoted,
  readPiece,
  readRowsAhead,
  tryPiece,
  WordsError,
  type Again,
  type Segment,
  type Span,
  type Statement,
} from './language.js';
import { withPlainMarks } from './spelling.js';
import { namesIn, type Names } from './names.js';
import { keyElsewhere, keyIn, namesOfKey, type KeyCandidate, type KeyToldLine } from './key-lines.js';
import { BandsTold } from './bands-told.js';
import { LONGEST_LINE, piecesOf, sentenceEnds, SHORT } from './pieces.js';

/** Something in the text that does not add up. Rows count from 1. */
export interface Problem {
  id: string;
  level: 'error' | 'caution' | 'note';
  row?: number;
  message: string;
  /** The words it is about, as places of the text. */
  at?: Span;
  /** What a name may mean, where it is asked about. */
  ask?: { word: string; meanings: readonly Stitch[] };
}

/** A piece of the text that nothing was made of, and why. */
export interface Aside extends Span {
  text: string;
  why: string;
}

/** A pattern's text taken apart: the tree it says, what else it says, and what is wrong with it. */
export interface PatternLines {
  /** The text, its marks as the reader knows them. */
  text: string;
  pattern: Pattern;
  problems: Problem[];
  /** Rows that are worked again, and after how many lines of rows that is said. */
  again: { said: Again; after: number; at: Span }[];
  panel: { stitches: number; at: Span } | null;
  /** The side of row 1, where a sentence says it. */
  firstSide: Side | null;
  /** How many rows the text says are repeated. */
  rowRepeat: { rows: number; at: Span } | null;
  key: KeyCandidate[];
  /** Pieces that nothing was made of, and whether rows stand before each. */
  prose: (Span & { isBehindRows: boolean })[];
  /** Where a line of rows stands in the text, or an item of it. */
  placeOf: (line: RowLine, item?: object) => Span | undefined;
  /** Where a band stands in the text. */
  bandAt: (line: BandLine) => Span | undefined;
}

/** So many problems are told; a text with more is not a pattern yet. */
export const MOST_PROBLEMS = 60;
/** A book of patterns is longer; one pattern is not. */
const LONGEST_TEXT = 1_000_000;
const MOST_TEXT_LINES = 12_000;
/** More than the rows of any pattern: so many are read within a second. */
const MOST_WORDS = 40_000;
/** So many lines behind a row may be no part of it. */
const MOST_CUTS = 8;
/** More lines of rows, or of a key, than any chart needs are not read. */
const MOST_LINES = 2400;
const MOST_NUMBERS = 5000;

const emptyPattern = (): Pattern => ({
  head: { construction: null, bothFaces: false, names: null, hand: 'right' },
  multiple: null,
  castOn: null,
  rows: [],
  bands: [],
  plan: null,
  key: [],
});

/** "1st", "2nd", "11th". */
const ordinalOf = (n: number): string =>
  `${n}${n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')}`;

const isRow = ({ begins }: Segment): boolean => begins === 'row' || begins === 'maybeRow';

/** Reads a text's pieces one after the other. */
class Sheet {
  readonly pattern = emptyPattern();
  readonly problems: Problem[] = [];
  readonly again: PatternLines['again'] = [];
  panel: PatternLines['panel'] = null;
  firstSide: PatternLines['firstSide'] = null;
  rowRepeat: PatternLines['rowRepeat'] = null;
  readonly key: KeyCandidate[] = [];
  readonly bands = new BandsTold();
  readonly prose: Span[] = [];
  /** How many lines of rows stand before each piece of prose. */
  readonly rowsBefore = new WeakMap<Span, number>();
  private readonly lines = new WeakMap<RowLine, Span>();
  private readonly names: Names;
  private readonly inRow = new WeakMap<RowLine, { from: number; places: WeakMap<object, Span> }>();

  constructor(
    readonly text: string,
    ownWords: ReadonlySet<string>,
    readonly isOwn: boolean,
    keyText: string,
  ) {
    const pieces = piecesOf(text);
    this.key.push(...keyIn(text, pieces, ownWords));
    this.key.push(...keyElsewhere(keyText, this.key));
    this.names = namesIn([...ownWords, ...namesOfKey(text, this.key)]);
    readRowsAhead(
      pieces
        .filter(isRow)
        .slice(0, MOST_LINES)
        .map(({ from, to }) => text.slice(from, to)),
      { names: this.names, strict: !isOwn },
    );
    let rows = 0;
    let numbers = 0;
    for (const piece of pieces) {
      if (isRow(piece) && (++rows > MOST_LINES || numbers > MOST_NUMBERS)) continue;
      const before = this.pattern.rows.length;
      this.read(piece);
      for (const line of this.pattern.rows.slice(before)) numbers += line.numbers.length;
    }
    if (numbers > MOST_NUMBERS)
      this.tell('too-many-rows', `The text speaks of more than ${MOST_NUMBERS} rows; the first are read.`);
    if (rows > MOST_LINES)
      this.tell('too-many-rows', `The text has ${rows} lines of rows; the first ${MOST_LINES} are read.`);
    this.pattern.bands = this.bands.lines;
    for (const at of this.bands.unfinished())
      this.tell('band-not-understood', `${quoted(text.slice(at.from, at.to))}: this band is not ended.`, at);
    this.pattern.key = this.key.filter(({ isSure }) => isSure).map(({ line }) => withoutRest(line));
  }

  private tell(id: string, message: string, at?: Span, row?: number): void {
    if (this.problems.length < MOST_PROBLEMS) this.problems.push({ id, level: 'error', row, message, at });
  }

  private read(piece: Segment): void {
    switch (piece.begins) {
      case 'row':
      case 'maybeRow':
        return this.readRow(piece);
      case 'keyHead':
        return;
      case 'band':
        return this.readBand(piece);
      case 'key':
      case 'maybeKey':
        if (this.key.some(({ at }) => at.from === piece.from)) return;
        return this.readSentences(piece);
      case 'statement':
      case 'other':
        return this.readSentences(piece);
    }
  }

  /** A line of a band: it begins one, goes on with the last, or ends it. */
  private readBand({ from, to }: Span): void {
    const at = { from, to };
    const said = this.bands.read(this.text.slice(from, to), at);
    if (said) this.tell('band-not-understood', said, at);
  }

  private readRow(piece: Segment): void {
    const text = this.text.slice(piece.from, piece.to);
    let end = text.length;
    let first: WordsError | null = null;
    for (let cuts = 0; ; cuts++) {
      const found = this.tryRow(text.slice(0, end), piece.from);
      if (!(found instanceof WordsError)) {
        const { many = 1, ...line } = found as RowLine & { many?: number };
        this.takeRows(line, found, { from: piece.from, to: piece.from + end }, many);
        break;
      }
      first ??= found;
      // The line where it fails may be no part of the row, unless the words before it want more.
      const cut = text.lastIndexOf('\n', Math.min(found.at, end - 1));
      if (cut <= 0 || cuts > MOST_CUTS || /[,;([{*]\s*$/.test(text.slice(0, cut)))
        return this.noRow(piece, text, first);
      end = cut;
    }
    if (end < text.length) this.readLeft(piece.from + end, piece.to);
  }

  /** Takes a line of rows; "next 4 rows" are so many alike. */
  private takeRows(line: RowLine, found: RowLine, at: Span, many: number): void {
    for (let i = 0; i < many && this.pattern.rows.length < MOST_LINES; i++) {
      const row = { ...line };
      this.inRow.set(row, this.inRow.get(found)!);
      this.lines.set(row, at);
      this.pattern.rows.push(row);
    }
  }

  private tryRow(text: string, from: number): RowLine | WordsError {
    try {
      const { value, places } = readPiece('Row', text, { names: this.names, strict: !this.isOwn });
      // The line is this text's own; what stands in it is shared with lines that say the same.
      const row = { ...value };
      this.inRow.set(row, { from, places });
      return row;
    } catch (error) {
      if (error instanceof WordsError) return error;
      throw error;
    }
  }

  private noRow(piece: Segment, text: string, fault: WordsError): void {
    // "3. Sew the seams." is no row; "3. k2, (p2" is one with a fault.
    if (piece.begins === 'maybeRow' && !/[:.)\]]\s*[*([{]*\s*(?:knit|purl|[kp])\s?\d/i.test(text))
      return this.readSentences(piece);
    const number = /\d+/.exec(text)?.[0];
    const head = tryPiece('UnreadRow', text);
    // The row stands in its place, though nobody knows what it works: one fault is told once.
    if (head?.numbers.length || head?.named)
      this.takeRows(
        { ...head, body: { type: 'unread' }, count: null },
        head,
        { from: piece.from, to: piece.to },
        1,
      );
    const hint = hintFor(text.slice(Math.max(0, fault.at - 12)));
    const about = number ? `Row ${number.slice(0, 8)}` : quoted(text);
    const at = piece.from + Math.min(fault.at, text.length - 1);
    this.tell(
      'not-understood',
      `${about}: ${fault.message}${hint && ` ${hint}`}`,
      { from: at, to: Math.min(piece.to, at + 12) },
      number ? Number(number) : undefined,
    );
  }

  /** Reads what is no row and no line of the key, sentence by sentence; what nothing is made of is kept. */
  private readSentences({ from: start, to: last }: Span): void {
    let from = start;
    while (from < last) {
      const text = this.text.slice(from, last);
      const ends = sentenceEnds(text);
      const [to, told] = [...ends].reverse().reduce<[number, Statement | null]>(
        ([end, found], next) => {
          if (found) return [end, found];
          const said = this.tryStatement(text.slice(0, next));
          return said ? [next, said] : [end, null];
        },
        [ends[0]!, null],
      );
      if (told) this.take(told, { from, to: from + to });
      else this.unclaimed({ from, to: from + to });
      from += to;
      while (from < last && /[\s;]/.test(this.text[from]!)) from++;
    }
  }

  private tryStatement(text: string): Statement | null {
    const told = tryPiece(
      'Statement',
      text.replace(/^["' ]*(.*?)["' ]*$/s, (all, said: string) => said.padEnd(all.length)),
    );
    // A condition or a negation says nothing of this pattern, but for what it denies.
    return told && /^\W*(?:if|unless|when|should you|for those)\b/i.test(text) ? null : told;
  }

  /** A sentence that nothing was made of; brackets at its end, or how it is worked, may say something by themselves. */
  private unclaimed({ from, to }: Span): void {
    const text = this.text.slice(from, to);
    const bracket = /\S.*?(?=\([^()]*\)[ .]*$)/s.exec(text)?.[0].length ?? 0;
    const clause = /^.*\S,[ ]+(?=[^,]*$)/s.exec(text)?.[0].length ?? 0;
    const lead = bracket ? text.length - text.trimStart().length + bracket : clause;
    const found = lead > 0 && !this.isOwn ? this.tryStatement(text.slice(lead)) : null;
    const told = bracket || found?.meant === 'head' ? found : null;
    if (told) {
      this.take(told, { from: from + lead, to });
      this.prose.push({ from, to: from + lead });
    } else this.prose.push({ from, to });
    this.rowsBefore.set(this.prose.at(-1)!, this.pattern.rows.length);
  }

  private take(told: Statement, at: Span): void {
    const { pattern } = this;
    const twice = (what: string) =>
      this.tell(
        'said-twice',
        `${quoted(this.text.slice(at.from, at.to))}: ${what} is said otherwise before.`,
        at,
      );
    switch (told.meant) {
      case 'hand':
        pattern.head.hand = told.value === 'left-said' ? 'left-same-fabric' : told.value;
        if (told.value === 'left-said')
          this.problems.push({
            id: 'left-hand-taken',
            level: 'caution',
            message:
              'The text is written for left hands: its rows are read from the left as the right side looks, and its crossings as those hands work them.',
            at,
          });
        break;
      case 'way':
        break;
      case 'names':
        if (pattern.head.names && pattern.head.names !== told.value)
          twice('what the numbers in names of crossings count');
        pattern.head.names ??= told.value;
        break;
      case 'side':
        // Said before the rows it is that of the first; behind some, that of whatever comes next.
        if (pattern.rows.length) this.unclaimed(at);
        else this.firstSide ??= told.value;
        break;
      case 'head': {
        const { construction, multiple, panel, used, bothFaces } = told.value;
        if (construction && pattern.head.construction && construction !== pattern.head.construction)
          twice('how it is worked');
        pattern.head.construction ??= construction;
        pattern.head.bothFaces ||= bothFaces === true;
        if (multiple && pattern.multiple && JSON.stringify(multiple) !== JSON.stringify(pattern.multiple))
          twice('the multiple');
        pattern.multiple ??= multiple;
        if (used !== undefined) pattern.castOn ??= { stitches: used, repeats: null };
        if (panel !== null) this.panel ??= { stitches: panel, at };
        break;
      }
      case 'castOn': {
        const { before, tail, ...castOn } = told.value;
        if (castOn.isPanel) {
          this.panel ??= { stitches: castOn.stitches, at };
          if (!this.isOwn) break;
        }
        if (/\b(?:not|if|unless)\b/i.test(before)) {
          this.unclaimed(at);
          break;
        }
        if (pattern.castOn && pattern.castOn.stitches !== castOn.stitches) twice('the cast-on');
        pattern.castOn ??= castOn;
        if (before.trim()) this.clauses({ from: at.from, to: at.from + before.length });
        this.clauses({ from: at.to - tail.length, to: at.to });
        break;
      }
      case 'rows':
        for (const { kind, many, rest, body } of told.value)
          for (let i = 0; i < many && pattern.rows.length < MOST_LINES; i++) {
            const line: RowLine = {
              kind,
              numbers: [],
              ...(rest ? {} : { named: many > 1 ? `${ordinalOf(i + 1)} plain` : 'plain' }),
              rest: rest ?? null,
              side: null,
              body: body.type === 'turns' ? { ...body, words: [body.words[i % 2]!] } : body,
              count: null,
            };
            this.lines.set(line, at);
            pattern.rows.push(line);
          }
        break;
      case 'rowRepeat':
        if (this.rowRepeat && this.rowRepeat.rows !== told.value) twice('the repeat');
        this.rowRepeat ??= { rows: told.value, at };
        break;
      case 'plan':
        if (pattern.plan) twice('how the rows follow each other');
        pattern.plan ??= told.value;
        break;
      case 'repeat':
        this.again.push({ said: this.withThem(told.value), after: pattern.rows.length, at });
        break;
    }
  }

  /** "Rep them twice more": those that were spoken of last. */
  private withThem(said: Again): Again {
    const last = this.again.at(-1)?.said;
    if (!said.isThem || !last) return said;
    const { more, times, ends, rows, then } = said;
    return {
      ...('from' in last ? { from: last.from, to: last.to } : { last: last.last }),
      more,
      times,
      ends,
      rows,
      then,
    };
  }

  /** What stands before or behind a cast-on, clause by clause: rows, or how it is joined; what is neither is kept. */
  private clauses({ from, to }: Span): void {
    const lead = /^[\s,;.:&–-]*(?:(?:and|then|next)\b[\s,]*)*/i;
    for (let at = from; at < to;) {
      at += lead.exec(this.text.slice(at, to))![0].length;
      const text = this.text.slice(at, to);
      if (!/[A-Za-z0-9]/.test(text)) return;
      const breaks = [...text.matchAll(/[,;.:](?=\s|$)|\s(?=(?:and|then)\s)/g)].map((m) => m.index);
      const isStop = (n: number) => text[n] !== '.' || !SHORT.test(text.slice(Math.max(0, n - 8), n));
      const ends = [...new Set([...breaks.filter((n) => n > 0 && isStop(n)), text.length])];
      const end = ends.findLast((n) => this.tryStatement(text.slice(0, n)) !== null);
      const told = end === undefined ? null : this.tryStatement(text.slice(0, end));
      const span = { from: at, to: at + (told ? end! : ends[0]!) };
      if (told) this.take(told, span);
      else this.unclaimed(span);
      at = span.to;
    }
  }

  /** Lines that were taken for a row's, and are not. */
  private readLeft(from: number, to: number): void {
    const text = this.text.slice(from, to);
    for (const piece of piecesOf(text))
      this.read({
        begins: piece.begins === 'key' ? 'other' : piece.begins,
        from: from + piece.from,
        to: from + piece.to,
      });
  }

  /** Where a line of rows stands in the text, or an item of it. */
  placeOf(line: RowLine, item?: object): Span | undefined {
    const row = this.inRow.get(line);
    const at = item && row?.places.get(item);
    return row && at ? { from: at.from + row.from, to: at.to + row.from } : this.lines.get(line);
  }
}

const withoutRest = ({ rest: _, ...line }: KeyToldLine): KeyLine => line;

/** A text whose overlong lines are blanked, and a problem for each of them. */
function withoutLongLines(text: string): { text: string; problems: Problem[] } {
  const problems: Problem[] = [];
  const lines = text.split('\n').map((line) => {
    if (line.length <= LONGEST_LINE) return line;
    const message = `${quoted(line)}: this line has ${line.length} characters; at most ${LONGEST_LINE} are read.`;
    if (problems.length < MOST_PROBLEMS) problems.push({ id: 'not-understood', level: 'error', message });
    return ' '.repeat(line.length);
  });
  return { text: lines.join('\n'), problems };
}

/** What the reader is told of a text: words of stitches the designer made, and whether it is a sheet of our own. */
export interface SheetOptions {
  ownWords?: ReadonlySet<string>;
  isOwn?: boolean;
  keyText?: string;
}

/** Rows that are told to be of side 1 or 2: where sides have numbers, both count. */
const SIDES_NUMBERED = /^[ \t]*(?:rows?|rnds?|rounds?)\b[^\n:]{0,80}\bside[- ](?:1|2|one|two)\b/im;

/** Reads a text into a pattern's tree. Each piece of it is used, told as a problem, or kept as prose. */
export function readLines(
  text: string,
  { ownWords = new Set(), isOwn = false, keyText = '' }: SheetOptions = {},
): PatternLines {
  const empty = (problem: Problem): PatternLines => ({
    text: '',
    pattern: emptyPattern(),
    problems: [problem],
    again: [],
    panel: null,
    firstSide: null,
    rowRepeat: null,
    key: [],
    prose: [],
    placeOf: () => undefined,
    bandAt: () => undefined,
  });
  if (text.length > LONGEST_TEXT)
    return empty({
      id: 'text-too-long',
      level: 'error',
      message: `The text has ${text.length} characters; at most ${LONGEST_TEXT} are read. Give one pattern at a time.`,
    });
  const count = text.split('\n').length;
  if (count > MOST_TEXT_LINES)
    return empty({
      id: 'text-too-long',
      level: 'error',
      message: `The text has ${count} lines; at most ${MOST_TEXT_LINES} are read. Give one pattern at a time.`,
    });
  const words = isOwn ? 0 : (text.match(/[,;]/g)?.length ?? 0);
  if (words > MOST_WORDS)
    return empty({
      id: 'text-too-long',
      level: 'error',
      message: `The text has ${words} words between commas; at most ${MOST_WORDS} are read. Give one pattern at a time.`,
    });
  const { text: readable, problems } = withoutLongLines(withPlainMarks(text, isOwn));
  try {
    const sheet = new Sheet(readable, ownWords, isOwn, withPlainMarks(keyText, isOwn));
    const { pattern, again, panel, firstSide, rowRepeat, key, rowsBefore } = sheet;
    // In pairs the sides have numbers of themselves.
    pattern.head.bothFaces ||= !isInPairs(pattern.head) && SIDES_NUMBERED.test(readable);
    const prose = sheet.prose.map((at) => ({ ...at, isBehindRows: (rowsBefore.get(at) ?? 0) > 0 }));
    const told = [...problems, ...sheet.problems].slice(0, MOST_PROBLEMS);
    const placeOf: PatternLines['placeOf'] = (line, item) => sheet.placeOf(line, item);
    return {
      text: readable,
      pattern,
      problems: told,
      again,
      panel,
      firstSide,
      rowRepeat,
      key,
      prose,
      placeOf,
      bandAt: (line) => sheet.bands.placeOf(line),
    };
  } catch (error) {
    if (!(error instanceof WordsError)) throw error;
    return empty({ id: 'not-understood', level: 'error', message: error.message });
  }
}
