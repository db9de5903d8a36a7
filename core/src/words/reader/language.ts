import type { Side, Worked } from '../../stitches/face.js';
import { parse as parseText } from './grammar.js';

/** A cable-needle move as it was written. */
export type WrittenMove =
  { slip: number; needle: 1 | 2; hold: 'front' | 'back' } | { work: Worked[]; from: 'left' | 1 | 2 };

export interface SpelledNode {
  type: 'spelled';
  moves: WrittenMove[];
  text: string;
}

/** What stands in a written row. */
export type ItemNode =
  | { type: 'star'; items: ItemNode[]; until: { last: number } | { more: number } | { tail: true } }
  | { type: 'group'; items: ItemNode[]; times: number }
  | { type: 'rest'; word: 'k' | 'p'; last: number }
  | SpelledNode
  | { type: 'word'; word: string; spelled: SpelledNode | null };

export type BodyNode =
  { type: 'as'; row: number } | { type: 'presented' } | { type: 'items'; items: ItemNode[] };

export interface RowNode {
  kind: 'row' | 'round';
  numbers: number[];
  /**
   * "and all WS rows", "and all even rounds": the line also holds for those not written elsewhere. A parity of
   * null is that of the row itself ("and every alternate row").
   */
  rest: { side: Side } | { parity: 0 | 1 | null } | null;
  side: Side | null;
  body: BodyNode;
  count: number | null;
}

export interface DefinitionNode {
  word: string;
  side: Side | null;
  moves: WrittenMove[];
}

/** Text that is not in the language; `at` is the place in the line, from 0. */
export class WordsError extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

function parse<T>(text: string, startRule: string): T {
  try {
    return parseText(text, { startRule } as never) as T;
  } catch (error) {
    const at = (error as { location?: { start: { offset: number } } }).location?.start.offset ?? 0;
    const found = text.slice(at, at + 12).trim();
    throw new WordsError(found ? `"${found}" was not understood here.` : 'The line breaks off here.', at);
  }
}

export const parseRow = (text: string): RowNode => parse(text, 'Row');
export const parseDefinition = (text: string): DefinitionNode => parse(text, 'Definition');
export const parseCastOn = (text: string): number => parse(text, 'CastOn');
export const parsePlan = (text: string): { from: number; to: number; times: number }[] => parse(text, 'Plan');
