import { stitchBook, stitchId } from '../../stitches/book.js';
import type { Side } from '../../stitches/face.js';
import type { Item } from '../pattern.js';
import type { Reader } from './attempt.js';
import { literal, plainWord, stitchesNamed, waysOf, WordProblem } from './lexicon.js';
import type { Order, PlacedRow } from './order.js';
import type { Problem } from './pattern-lines.js';

/** The words of the rows in lower case, without the numbers of their runs, with the sides they are used on. */
export function usedWords({ rows }: Order): Map<string, Set<Side>> {
  const used = new Map<string, Set<Side>>();
  const look = (items: readonly Item[], side: Side): void => {
    for (const item of items) {
      if (item.type === 'star' || item.type === 'group') look(item.items, side);
      if (item.type !== 'word' && item.type !== 'rest') continue;
      const base = plainWord(item.word, side, stitchBook())?.base;
      const names = base === undefined ? [item.word.toLowerCase()] : [base, literal(item.word)];
      for (const name of names) used.set(name, (used.get(name) ?? new Set<Side>()).add(side));
    }
  };
  for (const { body, side } of rows) if (body?.type === 'items') look(body.items, side);
  return used;
}

/**
 * Names that mean nothing, or more than one thing: each is asked about once, where it is first met. So is a name that
 * would be another one's crossing: designers give one crossing one name.
 */
export function nameProblems({ rows, lexicon, placeOf }: Reader): Problem[] {
  const found = new Map<string, Problem>();
  const nameOf = new Map<string, string>();
  const look = (items: readonly Item[], placed: PlacedRow, row: number): void => {
    const { label, side, line } = placed;
    for (const item of items) {
      if (item.type === 'star' || item.type === 'group') look(item.items, placed, row);
      if (item.type !== 'word' || item.spelled) continue;
      const name = item.word.toLowerCase();
      if (found.has(name) || lexicon.told?.has(name) || lexicon.blocked?.has(name)) continue;
      try {
        const [only] = stitchesNamed(item.word, side, lexicon);
        if (typeof only !== 'object' || lexicon.defined.has(name) || lexicon.answers?.[name]) continue;
        const known = nameOf.get(stitchId(only));
        nameOf.set(stitchId(only), known ?? item.word);
        if (known === undefined || known.toLowerCase() === name) continue;
        const meanings = waysOf(only);
        found.set(name, {
          id: 'two-names',
          level: 'error',
          row,
          message: `${label}: "${item.word}" and "${known}" would be one crossing. Do both names mean it, or is another meant here? Define it in the key.`,
          at: line ? placeOf(line, item) : undefined,
          ask: { word: name, meanings },
        });
      } catch (error) {
        if (!(error instanceof WordProblem)) throw error;
        found.set(name, {
          id: error.id,
          level: 'error',
          row,
          message: `${label}: ${error.message}`,
          at: line ? placeOf(line, item) : undefined,
          ...(error.meanings.length ? { ask: { word: name, meanings: error.meanings } } : {}),
        });
      }
    }
  };
  rows.forEach((placed, r) => {
    if (placed.body?.type === 'items') look(placed.body.items, placed, r + 1);
  });
  return [...found.values()];
}
