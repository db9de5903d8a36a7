import type { Hand } from '../../construction/index.js';
import type { Side } from '../../stitches/face.js';
import { allWays, wayCalled, wayWith, type Way } from '../../construction/index.js';
import { Lately, remembered } from '../../remember.js';
import type { BandItem } from '../../needle/braid.js';
import { keyWordOf } from '../manner.js';
import type {
  Body,
  CastOn,
  Head,
  Item,
  KeyLine,
  Multiple,
  Planned,
  Rest,
  RowLine,
  Steps,
} from '../pattern.js';
import { parse as parseText } from './grammar.js';
import { namesIn, plainName, type Names } from './names.js';

/** A stretch of a text, from the character `from` up to, not including, `to`. */
export interface Span {
  from: number;
  to: number;
}

/** Text that is not in the language; `at` is the place in it, from 0. */
export class WordsError extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

/** A piece of a text, and what it begins like. */
export interface Segment extends Span {
  begins: 'statement' | 'band' | 'row' | 'maybeRow' | 'keyHead' | 'key' | 'maybeKey' | 'other';
}

/** That rows are worked again: a stretch of them, or the last so many (all of them, where it does not say). */
export type Again = ({ from: number; to: number | null } | { last: number | null }) & {
  /** How often more, or in all; neither where it is left open. */
  more: number | null;
  times: number | null;
  /** The row that the last pass is said to end with. */
  ends: number | null;
  /** How many rows have been worked when they have been repeated: "until 12 rows have been worked". */
  rows?: number;
  /** What of them is worked once more after the last pass: "then rows 1 and 2 once". */
  then?: { from: number; to: number };
  /** "Rep them twice more": the rows that were spoken of last. */
  isThem?: boolean;
};

/** A line of the key, and what stands behind its steps; it may be told by another line, with the needle held elsewhere. */
export type ToldLine = Omit<KeyLine, 'steps'> & {
  steps: Steps | { type: 'like'; word: string; hold: 'front' | 'back' };
  rest: string;
};

/** Rows that are told without a number, so many of them, or all of a kind. */
export interface RowsTold {
  kind: RowLine['kind'];
  many: number;
  rest?: Rest;
  body: Body;
}

/** What a statement about the whole says. */
export type Statement =
  | { meant: 'hand'; value: Hand | 'left-said' }
  | { meant: 'side'; value: Side }
  | { meant: 'way'; value: null }
  | { meant: 'names'; value: NonNullable<Head['names']> }
  | {
      meant: 'head';
      value: {
        construction: Head['construction'];
        multiple: Multiple | null;
        panel: number | null;
        /** "20 sts used here". */
        used?: number;
        bothFaces?: true;
      };
    }
  | { meant: 'castOn'; value: CastOn & { before: string; tail: string } }
  | { meant: 'rows'; value: RowsTold[] }
  | { meant: 'plan'; value: Planned[] }
  | { meant: 'rowRepeat'; value: number }
  | { meant: 'repeat'; value: Again };

/** What the pieces of a pattern say, by the rule that reads them. */
interface Rules {
  Row: RowLine;
  UnreadRow: RowLine;
  KeyLine: ToldLine;
  Statement: Statement;
  CastOn: CastOn & { before: string; tail: string };
  Meaning: Item[];
  Band: BandPiece;
}

/** What one line of a band says: where it stands, one of its rounds, or that it ends. */
export type BandPiece =
  | { before: number; as: number }
  | { before: number; over: number; multiple: number | null }
  | { round: number; items: readonly BandItem[]; count: number }
  | { ends: number };

/** What a rule is told besides the text. */
export interface Told {
  /** The names that the key defines. */
  names?: Names;
  /** The charts that rows of a piece may work by; without them rows speak of no panels. */
  charts?: Names;
  /** Whether a group in brackets must say how often it is worked. */
  strict?: boolean;
  /** Whether a line of the key is to be taken as words, whatever these look like. */
  inWords?: boolean;
}

/** Brackets are read by recursion: what nests deeper than that can go is no pattern. */
function within<T>(parse: () => T): T {
  try {
    return parse();
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new WordsError('Brackets stand within brackets here deeper than in any pattern.', 0);
  }
}

/** Whether a line, as far as it goes, is the head of a row and nothing else: what follows is what the row says. */
export const isHeadOnly = (text: string): boolean => text.length < 90 && HEAD_ONLY.test(text);
const HEAD_NUMBERS = String.raw`(?:\d+(?:st|nd|rd|th)?|and|to|one|two|three|four|five|six|seven|eight|nine|ten|[,&–-]|\s)+`;
const HEAD_ONLY = new RegExp(
  String.raw`^\s*[•*–-]?\s*(?:(?:rows?|rounds?|rnds?|r)\s*\.?\s*${HEAD_NUMBERS}|(?:${HEAD_NUMBERS}|[a-z-]+\s+)(?:rows?|rounds?|rnds?)|\d+)\s*[:.)–-]*\s*(?:[([][^)\]]*[)\]])?\s*[:.–-]*\s*$`,
  'i',
);

/** Whether a line may be cut behind a stop, as far as it goes: not behind the head of a row, nor inside brackets. */
const canCut = (text: string): boolean => {
  let open = 0;
  for (const mark of text) open += '([{'.includes(mark) ? 1 : ')]}'.includes(mark) ? -1 : 0;
  return open <= 0 && !isHeadOnly(text);
};

// Most lines of a text stay as they are while one is written, or proved anew after an edit.
const outlines = new Lately<Segment[]>();
const outlineAt = (segments: readonly Segment[], by: number): Segment[] =>
  segments.map((s) => ({ ...s, from: s.from + by, to: s.to + by }));

/** Sets apart what is read in one go: to begin a reader costs more than to read most lines. No text has it. */
const APART = '\x01';
/** So many characters are read in one go. */
const MOST_AT_ONCE = 200_000;

/** Texts in bundles, each short enough to be read in one go. */
function bundles(texts: Iterable<string>): string[][] {
  const out: string[][] = [];
  let size = Infinity;
  for (const text of new Set(texts)) {
    if (size + text.length > MOST_AT_ONCE) {
      out.push([]);
      size = 0;
    }
    out.at(-1)!.push(text);
    size += text.length + 1;
  }
  return out;
}

/** The lines of a text, each taken apart into its pieces. */
export function outlineOf(text: string): Segment[][] {
  let at = 0;
  const lines = text.split('\n');
  const unknown = lines.filter((line) => line.trim() && !outlines.has(line));
  for (const bundle of bundles(unknown)) {
    const parse = () =>
      parseText(bundle.join(APART), {
        startRule: 'Outlines',
        canCut,
        ...dynamic({}),
      } as never) as Segment[][];
    within(parse).forEach((segments, i) => outlines.of(bundle[i]!, () => segments));
  }
  return lines.map((line) => {
    const parse = () =>
      within(
        () => parseText(line, { startRule: 'Outlines', canCut, ...dynamic({}) } as never) as Segment[][],
      )[0]!;
    const segments = line.trim() ? outlineAt(outlines.of(line, parse), at) : [];
    at += line.length + 1;
    return segments;
  });
}

/** The beginning of a piece of text, short enough to be told. */
export const quoted = (text: string, most = 24): string => {
  const plain = text.replace(/\s+/g, ' ').trim();
  return `"${plain.length > most ? `${plain.slice(0, most).trim()}…` : plain}"`;
};

interface GrammarFault {
  message: string;
  /** What the grammar looked for; null where one of its rules says itself what is wrong. */
  expected: unknown[] | null;
  location: { start: { offset: number } };
}

const PAIRS: Record<string, string> = { ')': '(', ']': '[', '}': '{' };

/** The bracket or asterisk before a place that nothing ends. */
function leftOpen(text: string, at: number): { mark: string; at: number } | null {
  const open: { mark: string; at: number }[] = [];
  for (let i = 0; i < Math.min(at, text.length); i++) {
    const mark = text[i]!;
    if ('([{'.includes(mark)) open.push({ mark, at: i });
    else if (PAIRS[mark] && open.at(-1)?.mark === PAIRS[mark]) open.pop();
  }
  const rest = text.slice(at);
  const bracket = open.at(-1);
  if (bracket && !rest.includes({ '(': ')', '[': ']', '{': '}' }[bracket.mark]!)) return bracket;
  // The last star that begins a repeat, and is not the one that "rep from *" speaks of.
  const star = [...text.slice(0, at).matchAll(/(?<!from\s*|between\s*|to\s*)\*/gi)].at(-1)?.index ?? -1;
  return star >= 0 && !/\*|\brep/i.test(text.slice(star + 1)) ? { mark: '*', at: star } : null;
}

/** What is wrong where the grammar could not go on, in a sentence that names the likely cause. */
function faultIn(text: string, at: number): WordsError {
  const open = leftOpen(text, at);
  if (open?.mark === '*')
    return new WordsError('The repeat that "*" begins here has no "rep from *" that says how far.', open.at);
  if (open) return new WordsError(`The bracket "${open.mark}" that opens here is not closed.`, open.at);
  const found = text.slice(at, at + 12).trim();
  return new WordsError(found ? `"${found}" was not understood here.` : 'The line breaks off here.', at);
}

/** What the grammar finds that is not written in it: the names of the key, of charts, and of the ways of working. */
const dynamic = ({ names, charts }: Told) => ({
  names: names?.find,
  charts: charts?.find,
  ways: {
    find: wayNames(allWays()).find,
    called: (text: string) => wayCalled(plainName(text)),
    says: waySays(allWays()),
    with: wayWith,
  },
});

const wayNames = remembered((ways: readonly Way[]) =>
  namesIn(ways.flatMap(({ worked, called }) => [worked, ...called])),
);

/** How many characters of what some way says of itself stand at a place of a text; 0 for none. */
const waySays = remembered((ways: readonly Way[]) => {
  const said = [...new Set(ways.flatMap(({ says }) => says))];
  return (text: string, at: number): number => said.find((line) => text.startsWith(line, at))?.length ?? 0;
});

const pieces = new Lately<{ value: unknown; places: WeakMap<object, Span> } | WordsError>();

function parsed(
  rule: keyof Rules,
  text: string,
  told: Told,
): { value: unknown; places: WeakMap<object, Span> } | WordsError {
  const places = new WeakMap<object, Span>();
  try {
    const options = { startRule: rule, alone: true, places, ...told, ...dynamic(told) };
    const value = within(() => parseText(text, options as never) as unknown);
    // A name of the key is kept as the tree has it, however it is printed.
    if (rule === 'KeyLine') (value as ToldLine).word = keyWordOf((value as ToldLine).word);
    return { value, places };
  } catch (error) {
    if (error instanceof WordsError) return error;
    const { expected, message, location } = error as Partial<GrammarFault>;
    if (!location) throw error;
    const at = location.start.offset;
    return expected ? faultIn(text, at) : new WordsError(message!, at);
  }
}

/**
 * Reads rows in one go, so that each is known when it is asked for; one that does not keep to the language is left to be
 * read by itself, which tells what is wrong with it.
 */
export function readRowsAhead(texts: Iterable<string>, told: Told): void {
  const keyOf = (text: string) => pieceKey('Row', text, told);
  const unknown = [...texts].filter((text) => !pieces.has(keyOf(text)));
  if (unknown.length < 2) return;
  for (const bundle of bundles(unknown)) {
    const places = new WeakMap<object, Span>();
    const options = { startRule: 'Rows', places, ...told, ...dynamic(told) };
    try {
      const rows = within(() => parseText(bundle.join(APART), options as never) as (RowLine | null)[]);
      rows.forEach((value, i) => value && pieces.of(keyOf(bundle[i]!), () => ({ value, places })));
    } catch (error) {
      // Brackets that nest too deep: each row says so of itself.
      if (!(error instanceof WordsError)) throw error;
    }
  }
}

const pieceKey = (rule: keyof Rules, text: string, told: Told): string =>
  `${rule} ${told.strict ? 1 : 0}${told.inWords ? 1 : 0} ${told.names?.key ?? ''} ${told.charts?.key ?? '-'} ${text}`;

/**
 * Reads one piece by the rule it begins like; what is read is shared with others who read the same, and is not to be
 * changed. `places` says where in the piece each item stands.
 *
 * @throws WordsError that says what is wrong with it, and where
 */
export function readPiece<R extends keyof Rules>(
  rule: R,
  text: string,
  told: Told = {},
): { value: Rules[R]; places: WeakMap<object, Span> } {
  const key = pieceKey(rule, text, told);
  const found = pieces.of(key, () => parsed(rule, text, told));
  if (found instanceof WordsError) throw found;
  return found as { value: Rules[R]; places: WeakMap<object, Span> };
}

/** The same, without the places. @throws WordsError */
export const parsePiece = <R extends keyof Rules>(rule: R, text: string, told: Told = {}): Rules[R] =>
  readPiece(rule, text, told).value;

/** The same; null where the text does not keep to the rule. */
export function tryPiece<R extends keyof Rules>(rule: R, text: string, told: Told = {}): Rules[R] | null {
  try {
    return parsePiece(rule, text, told);
  } catch (error) {
    if (error instanceof WordsError) return null;
    throw error;
  }
}

/** What would be understood in place of words that are not; an empty text where nothing is known. */
export function hintFor(text: string): string {
  if (/instead of|in place of|replac/i.test(text)) return 'Write "as row 1, but C4B instead of C4F".';
  if (/\(\s*\d+(?:\s*[,:;]\s*\d+)+\s*\)/.test(text))
    return 'Are these the figures of other sizes? Give all sizes alike, in the cast-on too, or one size alone.';
  if (/\bto\b|until/i.test(text)) return 'Understood are "to end", "to last 2 sts" and "to marker".';
  if (/every \d+(?:st|nd|rd|th)/i.test(text)) return 'Give the numbers of the rows: "rows 1, 5 and 9".';
  return '';
}
