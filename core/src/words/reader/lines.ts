import { stitchBook, type Stitch } from '../../stitches/book.js';
import type { KeyLine, Pattern, RowLine } from '../pattern.js';
import {
  outlineOf,
  quoted,
  readPiece,
  tryPiece,
  withPlainMarks,
  WordsError,
  type Again,
  type Segment,
  type Span,
  type Statement,
  type ToldLine,
} from './language.js';
import { plainWord } from './lexicon.js';
import { namesIn, type Names } from './names.js';

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

/** A line that may be one of the key. */
export interface KeyCandidate {
  line: ToldLine;
  at: Span;
  /** Whether it is one beyond doubt: it stands in the key, or tells a crossing. */
  isSure: boolean;
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
  /** How many rows the text says are repeated. */
  rowRepeat: { rows: number; at: Span } | null;
  key: KeyCandidate[];
  prose: Span[];
  asides: Aside[];
  /** Where a line of rows stands in the text, or an item of it. */
  placeOf: (line: RowLine, item?: object) => Span | undefined;
}

/** So many problems are told; a text with more is not a pattern yet. */
export const MOST_PROBLEMS = 60;
/** The widest row, every crossing of it spelled out, is well under this. */
const LONGEST_LINE = 20_000;
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
const MOST_KEY = 400;

const emptyPattern = (): Pattern => ({
  head: { construction: null, hand: 'right' },
  multiple: null,
  castOn: null,
  rows: [],
  plan: null,
  key: [],
});

/** Whether a row, or a line of a key, ends where its text does: in a full stop, or with a count. */
const isEnded = (text: string): boolean =>
  /(?:\.|[([]\s*\d+\s*(?:sts?|stitch(?:es)?)\b[^)\]\n]*[)\]])\s*$/i.test(text);
const isCount = (text: string): boolean => /^[([=–-]\s*\d+\s*(?:sts?|stitch(?:es)?|[)\]])/i.test(text);

/** Pieces of a text with the lines that go on in the next joined to one. */
function piecesOf(text: string): Segment[] {
  const pieces: Segment[] = [];
  for (const line of outlineOf(text)) {
    line.forEach((segment, i) => {
      const open = i === 0 ? pieces.at(-1) : undefined;
      const goesOn =
        open !== undefined &&
        (open.begins === 'row' || open.begins === 'maybeRow' || open.begins === 'key') &&
        (segment.begins === 'other' || (segment.begins === 'maybeKey' && open.begins !== 'key')) &&
        // A blank line ends everything.
        !/\n[ ]*\n/.test(text.slice(open.to, segment.from)) &&
        segment.to - open.from <= LONGEST_LINE &&
        (!isEnded(text.slice(Math.max(open.from, open.to - 60), open.to)) ||
          isCount(text.slice(segment.from, segment.to)));
      if (goesOn) open.to = segment.to;
      else pieces.push({ ...segment });
    });
  }
  return pieces;
}

/** Reads a text's pieces one after the other. */
class Sheet {
  readonly pattern = emptyPattern();
  readonly problems: Problem[] = [];
  readonly again: PatternLines['again'] = [];
  panel: PatternLines['panel'] = null;
  rowRepeat: PatternLines['rowRepeat'] = null;
  readonly key: KeyCandidate[] = [];
  readonly prose: Span[] = [];
  readonly asides: Aside[] = [];
  private readonly lines = new WeakMap<RowLine, Span>();
  private readonly names: Names;
  private readonly inRow = new WeakMap<RowLine, { from: number; places: WeakMap<object, Span> }>();

  constructor(
    readonly text: string,
    private readonly ownWords: ReadonlySet<string>,
    readonly isOwn: boolean,
    keyText: string,
  ) {
    const pieces = piecesOf(text);
    this.readKey(pieces);
    this.readKeyElsewhere(keyText);
    this.names = namesIn([...ownWords, ...this.key.map(({ line }) => line.word).filter(isName)]);
    let rows = 0;
    let numbers = 0;
    for (const piece of pieces) {
      const isRow = piece.begins === 'row' || piece.begins === 'maybeRow';
      if (isRow && (++rows > MOST_LINES || numbers > MOST_NUMBERS)) continue;
      const before = this.pattern.rows.length;
      this.read(piece);
      for (const line of this.pattern.rows.slice(before)) numbers += line.numbers.length;
    }
    if (numbers > MOST_NUMBERS)
      this.tell('too-many-rows', `The text speaks of more than ${MOST_NUMBERS} rows; the first are read.`);
    if (rows > MOST_LINES)
      this.tell('too-many-rows', `The text has ${rows} lines of rows; the first ${MOST_LINES} are read.`);
    this.pattern.key = this.key.filter(({ isSure }) => isSure).map(({ line }) => withoutRest(line));
  }

  private tell(id: string, message: string, at?: Span, row?: number): void {
    if (this.problems.length < MOST_PROBLEMS) this.problems.push({ id, level: 'error', row, message, at });
  }

  private readKey(pieces: readonly Segment[]): void {
    let inKey = false;
    for (const { begins, from, to } of pieces) {
      if (begins === 'keyHead') inKey = true;
      else if (begins === 'row') inKey = false;
      if ((begins !== 'key' && begins !== 'maybeKey') || this.key.length >= MOST_KEY) continue;
      const text = this.text.slice(from, to);
      let line = tryPiece('KeyLine', text);
      if (line && line.steps.type !== 'words' && this.ownWords.has(line.word.toLowerCase()))
        line = tryPiece('KeyLine', text, { inWords: true });
      if (!line) continue;
      const isCrossing = line.steps.type !== 'words';
      // Our own sheets tell a word only under the heading of the key.
      if (begins === 'maybeKey' && !isCrossing && !inKey) continue;
      this.key.push({ line, at: { from, to }, isSure: inKey || isCrossing });
    }
  }

  /** A key that several patterns share: what it tells holds where this one does not tell it itself. */
  private readKeyElsewhere(text: string): void {
    const known = new Set(this.key.map(({ line }) => line.word.toLowerCase()));
    for (const { begins, from, to } of piecesOf(text)) {
      const line =
        begins === 'key' || begins === 'maybeKey' ? tryPiece('KeyLine', text.slice(from, to)) : null;
      if (line && !known.has(line.word.toLowerCase()) && this.key.length < MOST_KEY)
        this.key.push({ line, at: { from: 0, to: 0 }, isSure: false });
    }
  }

  private read(piece: Segment): void {
    switch (piece.begins) {
      case 'row':
      case 'maybeRow':
        return this.readRow(piece);
      case 'statement':
        return this.readStatement(piece);
      case 'keyHead':
        return;
      case 'key':
      case 'maybeKey':
        if (this.key.some(({ at }) => at.from === piece.from)) return;
        return this.readOther(piece);
      case 'other':
        return this.readOther(piece);
    }
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
      return this.readOther(piece);
    const number = /\d+/.exec(text)?.[0];
    const about = number ? `Row ${number.slice(0, 8)}` : quoted(text);
    const at = piece.from + Math.min(fault.at, text.length - 1);
    this.tell(
      'not-understood',
      `${about}: ${fault.message}`,
      { from: at, to: Math.min(piece.to, at + 12) },
      number ? Number(number) : undefined,
    );
  }

  private readStatement(piece: Segment): void {
    let { from } = piece;
    while (from < piece.to) {
      const text = this.text.slice(from, piece.to);
      const end = tryPiece('Statement', text) ? text.length : sentenceEnd(text);
      const told = tryPiece('Statement', text.slice(0, end));
      if (told) this.take(told, { from, to: from + end });
      else if (
        /^\(?\s*(?:a\s+)?multiples?\s+of\b|^work\s+(?:rows?|rounds?)\s+\d|^rep\w*\.?\s+(?:rows?|rounds?)\s+\d/i.test(
          text,
        )
      )
        this.tell('not-understood', `${quoted(text)}: this was not understood.`, { from, to: from + end });
      else this.prose.push({ from, to: from + end });
      from += end;
      while (from < piece.to && /[\s;]/.test(this.text[from]!)) from++;
    }
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
        pattern.head.hand = told.value;
        break;
      case 'head': {
        const { construction, multiple, panel } = told.value;
        if (construction && pattern.head.construction && construction !== pattern.head.construction)
          twice('how it is worked');
        pattern.head.construction ??= construction;
        if (multiple && pattern.multiple && JSON.stringify(multiple) !== JSON.stringify(pattern.multiple))
          twice('the multiple');
        pattern.multiple ??= multiple;
        if (panel !== null) this.panel ??= { stitches: panel, at };
        break;
      }
      case 'castOn': {
        const { tail, ...castOn } = told.value;
        if (castOn.isPanel) {
          this.panel ??= { stitches: castOn.stitches, at };
          if (!this.isOwn) break;
        }
        if (pattern.castOn && pattern.castOn.stitches !== castOn.stitches) twice('the cast-on');
        pattern.castOn ??= castOn;
        if (/\b(?:join|in the round|in rounds)\b/i.test(tail)) pattern.head.construction ??= 'round';
        else if (/[a-z]{3}/i.test(tail))
          this.setAside({ from: at.to - tail.trimStart().length, to: at.to }, 'it says nothing of the rows');
        break;
      }
      case 'rowRepeat':
        if (this.rowRepeat && this.rowRepeat.rows !== told.value) twice('the repeat');
        this.rowRepeat ??= { rows: told.value, at };
        break;
      case 'plan':
        if (pattern.plan) twice('how the rows follow each other');
        pattern.plan ??= told.value;
        break;
      case 'repeat':
        this.again.push({ said: told.value, after: pattern.rows.length, at });
        break;
    }
  }

  private readOther({ from, to }: Span): void {
    const text = this.text.slice(from, to);
    const castOn = /\bcast[ -]*on\b|\bco\b/i.test(text) ? tryPiece('CastOn', text) : null;
    if (castOn) this.take({ meant: 'castOn', value: castOn }, { from, to });
    else this.prose.push({ from, to });
  }

  /** Lines that were taken for a row's, and are not. */
  private readLeft(from: number, to: number): void {
    const text = this.text.slice(from, to);
    for (const piece of outlineOf(text).flat())
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

  setAside(at: Span, why: string): void {
    if (this.asides.length < MOST_PROBLEMS)
      this.asides.push({ ...at, text: this.text.slice(at.from, Math.min(at.to, at.from + 120)), why });
  }
}

/** Where the first sentence of a text ends. */
function sentenceEnd(text: string): number {
  const end = /\.\s/.exec(text);
  return end ? end.index + 1 : text.length;
}

const withoutRest = ({ rest: _, ...line }: ToldLine): KeyLine => line;

/** Whether a word of the key is a name of its own, which may have spaces, and no word that everyone knows. */
const isName = (word: string): boolean =>
  word.length <= 60 &&
  plainWord(word, 'RS', stitchBook()) === null &&
  plainWord(word, 'WS', stitchBook()) === null &&
  !/^(?:sl|move the marker (?:on|back)|sts?|rep|row|round|rnd|rs|ws)$/i.test(word);

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
    rowRepeat: null,
    key: [],
    prose: [],
    asides: [],
    placeOf: () => undefined,
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
  const { text: readable, problems } = withoutLongLines(withPlainMarks(text));
  try {
    const sheet = new Sheet(readable, ownWords, isOwn, withPlainMarks(keyText));
    const { pattern, again, panel, rowRepeat, key, prose, asides } = sheet;
    const told = [...problems, ...sheet.problems].slice(0, MOST_PROBLEMS);
    const placeOf: PatternLines['placeOf'] = (line, item) => sheet.placeOf(line, item);
    return { text: readable, pattern, problems: told, again, panel, rowRepeat, key, prose, asides, placeOf };
  } catch (error) {
    if (!(error instanceof WordsError)) throw error;
    return empty({ id: 'not-understood', level: 'error', message: error.message });
  }
}
