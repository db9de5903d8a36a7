import { bothCount } from '../construction/index.js';
import { placeIn, placeNumber, type Place } from '../ropes/roped.js';
import { crossingSize } from '../stitches/crossing.js';
import { ropesCheck } from './finding.js';

/** Ground that was purl and is knit once a rope has passed over it, or the other way: a texture begins, or a slip. */
export const groundChanges = ropesCheck(
  { tells: { 'ground-changes-face': 'Ground changes its face' }, level: 'note', reads: ['bothFaces'] },
  ({ chart, roped }) => {
    // Where both faces count the ground is garter, and changes in every row.
    if (bothCount(chart)) return [];
    const changed = new Map<number, Place & { size: number }>();
    for (const meetings of roped.crossed)
      for (const meeting of meetings) {
        if (!meeting.changesGround) continue;
        const place = placeIn(roped, meeting);
        changed.set(placeNumber(place), { ...place, size: crossingSize(meeting.crossing) });
      }
    const [first] = [...changed].sort(([a], [b]) => a - b);
    if (!first) return [];
    const [, { row, column, size }] = first;
    const columns: [number, number] = [column + 1, column + size];
    return [
      {
        id: 'ground-changes-face',
        level: 'note',
        row: row + 1,
        columns,
        message:
          changed.size === 1
            ? `Row ${row + 1}: the ground under the crossing in columns ${columns[0]}–${columns[1]} is knit on one side of it and purl on the other.`
            : `The ground is knit on one side and purl on the other at ${changed.size} crossings, first in row ${row + 1}, columns ${columns[0]}–${columns[1]}.`,
      },
    ];
  },
);
