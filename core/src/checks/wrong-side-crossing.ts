import { bothCount, sideOf } from '../construction/index.js';
import { moveUp } from '../needle/mend-crossing.js';
import { eachCrossing } from './each-crossing.js';
import { rowCheck } from './finding.js';

/** Flat, crossings are usually kept to right-side rows, where they can be seen. */
export const crossingOnWrongSide = rowCheck(
  { tells: { 'wrong-side-crossing': 'Crossing on the wrong side' }, level: 'caution', reads: ['bothFaces'] },
  (knitted, r) => {
    const { chart } = knitted;
    // Where both sides count, none of them is unseen.
    if (sideOf(chart, r) === 'RS' || bothCount(chart)) return [];
    // The row above is what the designer mostly meant; the lowest of a chart has none below.
    const by = r + 1 < chart.rows.length || r === 0 ? 1 : -1;
    const found: ReturnType<Parameters<typeof eachCrossing>[2]> = {
      id: 'wrong-side-crossing',
      level: 'caution',
      message: `Row ${r + 1} is a wrong-side row: its crossing is worked unseen, from behind.`,
      mend: {
        label: `Cross in row ${r + 1 + by}`,
        edit: (c, { columns }) => moveUp(c, r, columns![0] - 1, by),
      },
    };
    return eachCrossing(knitted, r, () => found);
  },
);
