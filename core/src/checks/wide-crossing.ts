import { sideOf } from '../construction/index.js';
import { crossingSize, type Crossing } from '../stitches/crossing.js';
import type { Side } from '../stitches/face.js';
import { eachCrossing } from './each-crossing.js';
import { rowCheck } from './finding.js';

/** The stitches on cable needles at once: the group met first, and a centre group behind it. */
function heldIn(c: Crossing, side: Side): number {
  const met = (c.lean === 'left') === (side === 'RS') ? c.front : c.back;
  return met.length + c.centre.length;
}

/** More stitches in one crossing, or held at once, than the custom is, make holes and strain (custom). */
export const wideCrossing = rowCheck(
  { tells: { 'wide-crossing': 'Wide crossing' }, level: 'caution', reads: ['rules'] },
  (knitted, r) => {
    const side = sideOf(knitted.chart, r);
    const { mostCrossed, mostHeld } = knitted.rules;
    return eachCrossing(knitted, r, (c, from, to) => {
      const size = crossingSize(c);
      const held = heldIn(c, side);
      if (size <= mostCrossed && held <= mostHeld) return null;
      const what = size > mostCrossed ? `crosses ${size} stitches` : `holds ${held} stitches at once`;
      return {
        id: 'wide-crossing',
        level: 'caution',
        message: `Row ${r + 1}: the crossing in columns ${from}–${to} ${what}; that pulls holes and strains the hands.`,
      };
    });
  },
);
