import { isPlain, moveAlong } from '../needle/mend-crossing.js';
import { loopsOf } from '../ropes/stand.js';
import { splitBy } from '../ropes/whole.js';
import { crossingSize } from '../stitches/crossing.js';
import { counted, type RopeCheck } from './finding.js';

/** Columns a crossing is looked for a better place at, nearest first. */
const NEARBY = [-1, 1, -2, 2, -3, 3];

/** Stitches that have crossed together are one rope; a crossing that takes only some of them splits it. */
export const ropeSplit: RopeCheck = (knitted, r) => {
  const { roped, chart } = knitted;
  return roped.rows[r]!.meetings.flatMap(({ met: stands, crossing, first, column, splits }) => {
    const split = splits ? splitBy(crossing, first, stands) : null;
    if (!split) return [];
    const row = roped.rowOf(r);
    const at = roped.columnOf(row, column);
    const size = crossingSize(crossing);
    const fronts = loopsOf(crossing).map(({ group }) => group === 'front');
    const by = NEARBY.find(
      (b) =>
        !splitBy(crossing, first + b, stands) &&
        fronts.every((is, i) => !is || stands[first + b + i]?.rope) &&
        isPlain(chart, row, b > 0 ? at + size : at + b, Math.abs(b)),
    );
    return [
      {
        id: 'rope-split',
        level: 'caution',
        row: row + 1,
        columns: [at + 1, at + size],
        message: `Row ${row + 1}: the crossing in columns ${at + 1}–${at + size} takes ${split.taken} of the ${counted(split.of, 'stitch')} that crossed together in row ${roped.rowOf(split.row) + 1}; it splits their rope.`,
        ...(by !== undefined && {
          mend: {
            label: `Move the crossing ${counted(Math.abs(by), 'column')} to the ${by > 0 ? 'left' : 'right'}`,
            edit: (c) => moveAlong(c, row, at, by),
          },
        }),
      },
    ];
  });
};
