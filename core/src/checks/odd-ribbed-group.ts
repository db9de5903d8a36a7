import { bothCount } from '../construction/index.js';
import type { Crossing } from '../stitches/crossing.js';
import { faceOf, type Worked } from '../stitches/face.js';
import { eachCrossing } from './each-crossing.js';
import { rowCheck } from './finding.js';

/** Whether knit and purl take turns in a group: a ribbed rope, which is seen from both sides. */
function isRibbed(group: readonly Worked[]): boolean {
  for (let i = 1; i < group.length; i++) if (faceOf(group[i]!) === faceOf(group[i - 1]!)) return false;
  return group.length > 1;
}

const isOdd = (group: readonly Worked[]): boolean => group.length % 2 === 1 && isRibbed(group);

/** The stitches of the first group of a crossing that is odd; 0 where none is. */
const oddIn = ({ front, centre, back }: Crossing, isOdd: (group: readonly Worked[]) => boolean): number =>
  [front, centre, back].find(isOdd)?.length ?? 0;

/**
 * Where both faces count a rope is ribbed, and a crossing moves whole ribs: an odd group breaks the rib at its edge, on either face
 * (custom).
 */
export const oddGroup = rowCheck(
  { tells: { 'odd-group': 'Odd group where both sides count' }, level: 'caution', reads: ['bothFaces'] },
  (knitted, r) =>
    bothCount(knitted.chart)
      ? eachCrossing(knitted, r, (c, from, to) => {
          const odd = oddIn(c, (group) => group.length % 2 === 1);
          if (!odd) return null;
          return {
            id: 'odd-group',
            level: 'caution',
            message: `Row ${r + 1}: the crossing in columns ${from}–${to} has a group of ${odd}. Both sides count here, and an odd group breaks the rib at its edge: move 2, 4 or 6 stitches.`,
          };
        })
      : [],
);

/** Ribbed groups look right on both faces when they are even: two, four or six stitches (custom). */
export const oddRibbedGroup = rowCheck(
  { tells: { 'odd-ribbed-group': 'Odd ribbed group' }, level: 'caution', reads: ['bothFaces'] },
  (knitted, r) =>
    eachCrossing(knitted, r, (c, from, to) => {
      const odd = oddIn(c, isOdd);
      // Where both sides count any odd group is told.
      if (!odd || bothCount(knitted.chart)) return null;
      return {
        id: 'odd-ribbed-group',
        level: 'caution',
        message: `Row ${r + 1}: the crossing in columns ${from}–${to} has a ribbed group of ${odd}; an odd one shows otherwise on the other face.`,
      };
    }),
);
