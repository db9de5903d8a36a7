import type { Hand } from '../../chart/schema.js';
import { sameCrossing, type Crossing } from '../../stitches/crossing.js';
import type { KeyLine } from '../pattern.js';
import { crossingOfLoose } from './loose.js';
import { crossingOfMoves, WordProblem } from './lexicon.js';
import type { Problem } from './lines.js';

/** The crossings a pattern's key defines, by name in lower case, and what is wrong with the key. */
export function definedCrossings(
  key: readonly KeyLine[],
  hand: Hand,
): { defined: Map<string, Crossing>; problems: Problem[] } {
  const defined = new Map<string, Crossing>();
  const problems: Problem[] = [];
  for (const { word, side, steps } of key) {
    if (steps.type === 'words') continue;
    const name = word.toLowerCase();
    try {
      const made =
        steps.type === 'moves'
          ? crossingOfMoves(steps.moves, side ?? 'RS', hand)
          : crossingOfLoose(steps, side ?? 'RS', hand);
      if (!made) continue;
      const known = defined.get(name);
      if (known && !sameCrossing(known, made))
        problems.push({
          id: 'same-name',
          level: 'error',
          message: `The key gives "${word}" two different meanings. Two crossings of one pattern never share a name.`,
        });
      else defined.set(name, made);
    } catch (error) {
      if (!(error instanceof WordProblem)) throw error;
      problems.push({ id: error.id, level: 'error', message: `Key, "${word}": ${error.message}` });
    }
  }
  return { defined, problems };
}
