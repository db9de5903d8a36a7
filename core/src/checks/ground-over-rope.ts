import { placeStitches } from '../chart/edits.js';
import { loopsOf } from '../ropes/stand.js';
import { faceIn, standIn, type Meeting } from '../ropes/trace.js';
import { crossingSize, flipCrossing } from '../stitches/crossing.js';
import { counted, type RopeCheck } from './finding.js';

/** Whether all stitches of the front are ground, purl before or after, and all of the back a rope's. */
function isOverRope(meeting: Meeting): boolean {
  const loops = loopsOf(meeting.crossing);
  const all = (of: 'front' | 'back', is: (i: number) => boolean) =>
    loops.every(({ group }, i) => group !== of || is(i));
  return (
    all(
      'front',
      (i) => !standIn(meeting, i).rope && (loops[i]!.shows === 'purl' || faceIn(meeting, i) === 'purl'),
    ) && all('back', (i) => standIn(meeting, i).rope && loops[i]!.shows === 'knit')
  );
}

/** A stitch of the ground that is crossed in front of a rope hides it: the rope is meant to lie over. */
export const groundOverRope: RopeCheck = ({ roped }, r) =>
  roped.rows[r]!.meetings.filter(isOverRope).map(({ crossing, column }) => {
    const row = roped.rowOf(r);
    const at = roped.columnOf(row, column);
    const size = crossingSize(crossing);
    const { front } = crossing;
    return {
      id: 'ground-over-rope',
      level: 'caution',
      row: row + 1,
      columns: [at + 1, at + size],
      message: `Row ${row + 1}: the crossing in columns ${at + 1}–${at + size} lays ${counted(front.length, 'stitch')} of the ground in front of the rope; there it is hidden.`,
      mend: {
        label: 'Lay the rope in front',
        edit: (c) => placeStitches(c, row, at, [flipCrossing(crossing)]),
      },
    };
  });
