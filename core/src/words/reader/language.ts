import type { Stretch } from '../../chart/frame.js';
import type { Hand } from '../../chart/schema.js';
import type { CastOn, Head, KeyLine, Multiple, RowLine } from '../pattern.js';
import { parse as parseText } from './grammar.js';

/** Text that is not in the language; `at` is the place in the line, from 0. */
export class WordsError extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

/** What the lines of a pattern can say. */
interface Said {
  row: RowLine;
  head: { construction: Head['construction']; multiple: Multiple | null };
  hand: Hand;
  plan: Stretch[];
  castOn: CastOn;
  /** A line of the key that tells a crossing by its moves. */
  crossing: KeyLine;
}

type Meaning = { [M in keyof Said]: { meant: M; value: Said[M] } }[keyof Said];

/**
 * A line of a pattern: what it says; what it begins like where it does not keep to that; or words that may be a line
 * of the key (`told`) or prose.
 */
export type Line =
  | Meaning
  | { meant: keyof Said; text: string }
  | { meant: 'told'; value: KeyLine }
  | { meant: 'blank' | 'keyHead' | 'prose'; text: string };

/** Brackets are read by recursion: what nests deeper than that can go is no pattern. */
function within<T>(parse: () => T): T {
  try {
    return parse();
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new WordsError('Brackets stand within brackets here deeper than in any pattern.', 0);
  }
}

/**
 * The lines of a whole text. Key lines of `notCrossings` (in lower case) are told in words, whatever these look like.
 *
 * @throws WordsError where brackets nest too deep
 */
export const parsePattern = (text: string, notCrossings: ReadonlySet<string>): Line[] =>
  within(() => parseText(text, { startRule: 'Pattern', notCrossings } as never) as Line[]);

interface GrammarFault {
  message: string;
  /** What the grammar looked for; null where one of its rules says itself what is wrong. */
  expected: unknown[] | null;
  location: { start: { offset: number } };
}

const RULES: Record<keyof Said, string> = {
  row: 'Row',
  head: 'Head',
  hand: 'Hand',
  plan: 'Plan',
  castOn: 'CastOn',
  crossing: 'Crossing',
};

/** Reads one line by itself, as what it begins like. @throws WordsError that says what is wrong with it */
export function parseLine<M extends keyof Said>(meant: M, text: string): Said[M] {
  try {
    return within(() => parseText(text, { startRule: RULES[meant], alone: true } as never) as Said[M]);
  } catch (error) {
    if (error instanceof WordsError) throw error;
    const { expected, message, location } = error as Partial<GrammarFault>;
    if (!location) throw error;
    const at = location.start.offset;
    if (!expected) throw new WordsError(message!, at);
    const found = text.slice(at, at + 12).trim();
    throw new WordsError(found ? `"${found}" was not understood here.` : 'The line breaks off here.', at);
  }
}
