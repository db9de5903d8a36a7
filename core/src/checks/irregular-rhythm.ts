import { andThen, unchanged } from '../chart/edit.js';
import { moveUp } from '../needle/mend-crossing.js';
import { rhythmOfMeetings } from '../ropes/rhythm.js';
import { interlacesOf, placeIn } from '../ropes/roped.js';
import type { Meeting } from '../ropes/trace.js';
import { crossingSize } from '../stitches/crossing.js';
import { ropesCheck, type Found } from './finding.js';
import { counted } from '../values.js';

/** Crossings of one rope, or one plait, mostly come at even distances; one that does not is a slip of the pencil. */
export const irregularRhythm = ropesCheck(
  { tells: { 'irregular-rhythm': 'Irregular rhythm' }, level: 'caution', reads: ['rules'] },
  ({ roped, rules }) => {
    const { interlaces, interlaceOf, crossingOf, meetings } = interlacesOf(roped);
    const together: Meeting[][] = interlaces.map(() => []);
    meetings.forEach((meeting, i) => together[interlaceOf[crossingOf[i]!]!]!.push(meeting));
    return together.flatMap((own) => {
      const { usual, astray, even } = rhythmOfMeetings(own);
      if (!astray.length || astray.length * rules.shareAstray > astray.length + even) return [];
      const byRow = new Map<number, Meeting[]>(astray.map(({ row }) => [row, []]));
      for (const meeting of own) byRow.get(meeting.row)?.push(meeting);
      return astray.map(({ row: drawn, gap, late }): Found => {
        const places = byRow
          .get(drawn)!
          .map((m) => ({ ...placeIn(roped, m), size: crossingSize(m.crossing) }));
        const { row } = places[0]!;
        const columns = [...new Set(places.map(({ column }) => column))];
        return {
          id: 'irregular-rhythm',
          level: 'caution',
          row: row + 1,
          columns: [Math.min(...columns) + 1, Math.max(...places.map(({ column, size }) => column + size))],
          message: `Row ${row + 1} crosses ${counted(gap, 'row')} after the crossing below; the others of this rope are ${usual} apart.`,
          ...(late !== null && {
            mend: {
              label: `Cross in row ${row + 1 - late} instead`,
              edit: (c) =>
                columns.reduce(
                  (edit, column) => andThen(edit, (made) => moveUp(made, row, column, -late)),
                  unchanged(c),
                ),
            },
          }),
        };
      });
    });
  },
);
