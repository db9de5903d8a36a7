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

/** The stitches of a crossing's odd ribbed group; 0 where it has none. */
const oddIn = ({ front, centre, back }: Crossing): number =>
  isOdd(front) ? front.length : isOdd(centre) ? centre.length : isOdd(back) ? back.length : 0;

/** Ribbed groups look right on both faces when they are even: two, four or six stitches (custom). */
export const oddRibbedGroup = rowCheck(
  { tells: { 'odd-ribbed-group': 'Odd ribbed group' }, level: 'caution' },
  (knitted, r) =>
    eachCrossing(knitted, r, (c, from, to) => {
      const odd = oddIn(c);
      if (!odd) return null;
      return {
        id: 'odd-ribbed-group',
        level: 'caution',
        message: `Row ${r + 1}: the crossing in columns ${from}–${to} has a ribbed group of ${odd}; an odd one shows otherwise on the other face.`,
      };
    }),
);
