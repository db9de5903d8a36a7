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

interface GrammarFault {
  message: string;
  /** What the grammar looked for; null where one of its rules says itself what is wrong. */
  expected: unknown[] | null;
  location: { start: { offset: number } };
}

function parse<T>(text: string, startRule: string): T {
  try {
    return parseText(text, { startRule } as never) as T;
  } catch (error) {
    const { expected, message, location } = error as Partial<GrammarFault>;
    if (!location) throw error;
    const at = location.start.offset;
    if (!expected) throw new WordsError(message!, at);
    const found = text.slice(at, at + 12).trim();
    throw new WordsError(found ? `"${found}" was not understood here.` : 'The line breaks off here.', at);
  }
}

/** What a line of a pattern begins to say. */
export type Meant = 'blank' | 'row' | 'head' | 'hand' | 'plan' | 'keyHead' | 'crossing' | 'castOn' | 'prose';

export const meantBy = (line: string): Meant => parse(line, 'Meant');

export const parseRow = (line: string): RowLine => parse(line, 'Row');
/** A line of the key that tells a crossing by its moves. */
export const parseCrossing = (line: string): KeyLine => parse(line, 'Crossing');
/** Any line of a key: its steps in words. */
export const parseKeyLine = (line: string): KeyLine => parse(line, 'KeyLine');
export const parseCastOn = (line: string): CastOn => parse(line, 'CastOn');
export const parsePlan = (line: string): Stretch[] => parse(line, 'Plan');
export const parseHand = (line: string): Hand => parse(line, 'Hand');
export const parseHead = (line: string): { construction: Head['construction']; multiple: Multiple | null } =>
  parse(line, 'Head');
