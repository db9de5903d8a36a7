import { stitchBook } from '../../stitches/book.js';
import type { KeyLine } from '../pattern.js';
import { harmless } from './aside.js';
import { tryPiece, type Segment, type Span, type ToldLine } from './language.js';
import { plainWord } from './lexicon.js';
import { pairOf, piecesOf } from './pieces.js';

/** A line of the key, and what stands behind its steps. */
export type KeyToldLine = KeyLine & { rest: string };

/** A line that may be one of the key. */
export interface KeyCandidate {
  line: KeyToldLine;
  at: Span;
  /** Whether it is one beyond doubt: it stands in the key, or tells a crossing. */
  isSure: boolean;
}

/** More lines of a key than any pattern needs are not read. */
const MOST_KEY = 400;

/** A line of the key that is told by another: "as C5B, but hold in front". */
function asOther(line: ToldLine, others: readonly { line: ToldLine }[]): KeyToldLine {
  const { steps } = line;
  if (steps.type !== 'like') return { ...line, steps };
  const named = steps.word.toLowerCase();
  const other = others.find(({ line: l }) => l.word.toLowerCase() === named)?.line.steps;
  if (other?.type !== 'moves' || other.moves.filter((m) => 'slip' in m).length !== 1)
    return { ...line, steps: { type: 'words', text: `as ${steps.word}, but hold in ${steps.hold}` } };
  return {
    ...line,
    steps: { type: 'moves', moves: other.moves.map((m) => ('slip' in m ? { ...m, hold: steps.hold } : m)) },
  };
}

/** Lines as they are told by others of them. */
const settledKey = (
  found: readonly { line: ToldLine; at: Span; isSure: boolean }[],
  others: readonly { line: ToldLine }[] = [],
): KeyCandidate[] =>
  found.map((candidate) => ({ ...candidate, line: asOther(candidate.line, [...found, ...others]) }));

/**
 * The lines of a text that may be lines of its key. `ownWords` are stitches that the designer made, which are told in
 * words whatever these look like.
 */
export function keyIn(
  text: string,
  pieces: readonly Segment[],
  ownWords: ReadonlySet<string>,
): KeyCandidate[] {
  const found: { line: ToldLine; at: Span; isSure: boolean }[] = [];
  let inKey = false;
  for (const { begins, from, to } of pieces) {
    if (begins === 'keyHead') inKey = true;
    else if (begins === 'row') inKey = false;
    if ((begins !== 'key' && begins !== 'maybeKey') || found.length >= MOST_KEY) continue;
    for (const told of toldIn(text.slice(from, to))) {
      let line = tryPiece('KeyLine', told);
      if (line && line.steps.type !== 'words' && ownWords.has(line.word.toLowerCase()))
        line = tryPiece('KeyLine', told, { inWords: true });
      if (!line) continue;
      const isCrossing = line.steps.type !== 'words';
      // Our own sheets tell a word only under the heading of the key.
      if (begins === 'maybeKey' && !isCrossing && !inKey) continue;
      found.push({ line, at: { from, to }, isSure: inKey || isCrossing });
    }
  }
  return settledKey(found);
}

/** The lines that one piece of a key stands for: itself, or two that share their words. */
const toldIn = (text: string): readonly string[] => pairOf(text) ?? [text];

/** A key that several patterns share: what it tells holds where a pattern does not tell it itself. */
export function keyElsewhere(text: string, own: readonly KeyCandidate[]): KeyCandidate[] {
  const known = new Set(own.map(({ line }) => line.word.toLowerCase()));
  const found: { line: ToldLine; at: Span; isSure: boolean }[] = [];
  for (const { begins, from, to } of piecesOf(text))
    if (begins === 'key' || begins === 'maybeKey')
      for (const told of toldIn(text.slice(from, to))) {
        const line = tryPiece('KeyLine', told);
        if (line && !known.has(line.word.toLowerCase()) && own.length + found.length < MOST_KEY)
          found.push({ line, at: { from: 0, to: 0 }, isSure: false });
      }
  return settledKey(found, own);
}

/** The names that lines of a key give, which are found in rows as wholes; no other line with a colon in it gives one. */
export const namesOfKey = (text: string, key: readonly KeyCandidate[]): string[] =>
  key
    .filter(({ isSure, at }) => {
      const told = text.slice(at.from, at.to);
      return isSure || harmless({ text: told, isLine: true, isBehindRows: false, hasEdges: true }) === null;
    })
    .map(({ line }) => line.word)
    .filter(isName);

/** Whether a word of the key is a name of its own, which may have spaces, and no word that everyone knows. */
const isName = (word: string): boolean =>
  word.length <= 60 &&
  plainWord(word, 'RS', stitchBook()) === null &&
  plainWord(word, 'WS', stitchBook()) === null &&
  !/^(?:sl|move the marker (?:on|back)|sts?|rep|row|round|rnd|rs|ws)$/i.test(word);
