import { placeStitches } from '../chart/edits.js';
import { loopsOf } from '../ropes/stand.js';
import { faceIn, standIn, type Meeting } from '../ropes/trace.js';
import { crossingSize, flipCrossing, type Group } from '../stitches/crossing.js';
import { ropesCheck } from './finding.js';
import { counted } from '../values.js';

const all = ({ crossing }: Meeting, of: Group, is: (i: number, shows: 'knit' | 'purl') => boolean): boolean =>
  loopsOf(crossing).every(({ group, shows }, i) => group !== of || is(i, shows));

/** Whether all stitches of one group are ground, purl before or after, and all of the other knit before and after. */
const hasOver = (meeting: Meeting, over: Group, under: Group): boolean =>
  all(
    meeting,
    over,
    (i, shows) => !standIn(meeting, i).rope && (shows === 'purl' || faceIn(meeting, i) === 'purl'),
  ) &&
  all(
    meeting,
    under,
    (i, shows) => shows === 'knit' && (standIn(meeting, i).rope || faceIn(meeting, i) === 'knit'),
  );

/**
 * A stitch of the ground that is crossed in front of a rope hides it: the rope is meant to lie over. What has not crossed before
 * is no rope yet; there it goes by what most such crossings of the chart do.
 */
export const groundOverRope = ropesCheck(
  { tells: { 'ground-over-rope': 'Ground over its rope' }, level: 'caution' },
  function* ({ roped }) {
    const meetings = roped.crossed.flat();
    const wrong = meetings.filter((m) => hasOver(m, 'front', 'back'));
    if (!wrong.length) return;
    const isManner = meetings.filter((m) => hasOver(m, 'back', 'front')).length <= wrong.length;
    for (const meeting of wrong) {
      if (isManner && !all(meeting, 'back', (i) => standIn(meeting, i).rope)) continue;
      const { crossing, column } = meeting;
      const row = roped.rowOf(meeting.row);
      const at = roped.columnOf(row, column);
      const size = crossingSize(crossing);
      yield {
        id: 'ground-over-rope',
        level: 'caution',
        row: row + 1,
        columns: [at + 1, at + size],
        message: `Row ${row + 1}: the crossing in columns ${at + 1}–${at + size} lays ${counted(crossing.front.length, 'stitch')} of the ground in front of the rope; there it is hidden.`,
        mend: {
          label: 'Lay the rope in front',
          edit: (c) => placeStitches(c, row, at, [flipCrossing(crossing)]),
        },
      };
    }
  },
);
