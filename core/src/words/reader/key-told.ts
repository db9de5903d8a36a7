import { stitchId, type Stitch } from '../../stitches/book.js';
import { otherLean, type Lean, type Side } from '../../stitches/face.js';
import { methodOf, type TwistMethod, type TwistWay } from '../../stitches/twist.js';
import type { Item } from '../pattern.js';
import type { KeyRead } from './define.js';
import { crossingOfMoves, WordProblem, type Lexicon } from './lexicon.js';
import { crossingOfLoose } from './loose.js';
import type { Order } from './order.js';
import type { PatternLines } from './pattern-lines.js';

/** A crossing that is spelled out in brackets behind its name is told for all rows that use the name. */
export function defineSpelled({ rows }: Order, lines: PatternLines, key: KeyRead): void {
  const look = (items: readonly Item[], side: Side): void => {
    for (const item of items) {
      if (item.type === 'star' || item.type === 'group') look(item.items, side);
      if (item.type !== 'word' || !item.spelled) continue;
      const name = item.word.toLowerCase();
      if (key.defined.has(name) || key.blocked.has(name)) continue;
      try {
        key.defined.set(name, crossingOfMoves(item.spelled, side, lines.pattern.head.hand));
      } catch (error) {
        // It is told where the row is worked.
        if (!(error instanceof WordProblem)) throw error;
      }
    }
  };
  for (const { body, side } of rows) if (body?.type === 'items') look(body.items, side);
}

/** The method by which a key works its two-stitch twists, as far as it tells them; null where none has these ways. */
export function twistIn({ key }: PatternLines, hand: Lexicon['hand']): TwistMethod | null {
  const ways: Partial<Record<Lean, TwistWay>> = {};
  for (const { line } of key) {
    const { steps, side } = line;
    if (steps.type !== 'twist' || side === 'WS') continue;
    const made = crossingOfLoose(steps, 'RS', hand);
    const seen = made && (hand === 'left-same-fabric' ? otherLean(made.lean) : made.lean);
    if (seen) ways[seen] ??= steps;
  }
  return methodOf(ways);
}

/** The names of crossings as a key writes them, by crossing id. */
export const namesTold = (lines: PatternLines, key: KeyRead): Record<string, string> =>
  Object.fromEntries([...key.defined].map(([, c]) => [stitchId(c), nameIn(lines, c, key)]));

function nameIn(lines: PatternLines, crossing: Stitch, { defined }: KeyRead): string {
  const id = stitchId(crossing);
  const name = [...defined].find(([, c]) => stitchId(c) === id)?.[0];
  return (
    lines.key.find(({ line }) => line.word === name || line.word.toLowerCase() === name)?.line.word ??
    name ??
    ''
  );
}
