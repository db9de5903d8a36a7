import type { Passage } from '../ropes/stand.js';
import { isMeeting, standIn, type Meeting } from '../ropes/trace.js';
import { crossingSize } from '../stitches/crossing.js';
import { ropeRowCheck } from './finding.js';

/** Whether one crossing last carried all stitches of another. */
function isCarriedBy(meeting: Meeting, { row, index }: Passage): boolean {
  for (let i = 0; i < crossingSize(meeting.crossing); i++) {
    const { last } = standIn(meeting, i);
    if (last?.row !== row || last.index !== index) return false;
  }
  return true;
}

/**
 * The same loops crossed again at once strangle the rope: within two rows, or in fewer rows than the crossing has
 * stitches (custom: a rope that crosses after about as many rows as it has stitches looks round).
 */
export const crossedAgain = ropeRowCheck(
  { tells: { 'crossed-again': 'Crossed again too soon' }, level: 'caution', reads: ['rules'] },
  ({ roped, rules }, r) =>
    roped.rows[r]!.meetings.flatMap((meeting) => {
      const { crossing, column } = meeting;
      const { last } = standIn(meeting, 0);
      if (!last || r - last.row > rules.rowsBeforeAgain || !isMeeting(meeting)) return [];
      const size = crossingSize(crossing);
      if (r - last.row >= size || !isCarriedBy(meeting, last)) return [];
      const row = roped.rowOf(r);
      const from = roped.columnOf(row, column) + 1;
      return [
        {
          id: 'crossed-again',
          level: 'caution',
          row: row + 1,
          columns: [from, from + size - 1],
          message: `Row ${row + 1}: the crossing in columns ${from}–${from + size - 1} crosses the same stitches again that row ${roped.rowOf(last.row) + 1} crossed; so soon, it pulls tight and cannot be seen.`,
        },
      ];
    }),
);
