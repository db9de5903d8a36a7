import { isWorkedAgain, repeatRows } from '../chart/frame.js';
import { workAgain } from '../needle/needle.js';
import { chartCheck } from './finding.js';
import { counted } from '../values.js';

/**
 * The needle after the repeat up equals the needle before it: always in its count, in its faces only where a row
 * works by them. A slip keeps the face it finds, so a pass that begins on other faces may leave another cloth; a
 * row of plain stitches makes its faces itself. Before row 1 the needle holds the cast-on, which shows no face
 * yet: there the second pass and the third are compared.
 */
export const needleAtRepeat = chartCheck(
  { tells: { 'needle-at-repeat': 'Repeat ends unlike it begins' }, level: 'error' },
  ({ chart, works }) => {
    const repeat = repeatRows(chart);
    if (!repeat) return [];
    // What is worked once can be worked so; it could not be again.
    const level = isWorkedAgain(chart) ? 'error' : 'caution';
    const { first, last } = repeat;
    const end = works[last]!;
    const live = first > 0 ? works[first - 1]!.makes : works[0]!.takes;
    const rows = `${first + 1}–${last + 1}`;
    if (end.makes !== live)
      return [
        {
          id: 'needle-at-repeat',
          level,
          row: last + 1,
          message: `The repeat of rows ${rows} begins with ${counted(live, 'stitch')} and ends with ${end.makes}: it cannot be worked again.`,
        },
      ];
    const second = workAgain(chart, works.slice(first, last + 1), end.loops);
    const [one, two] =
      first > 0
        ? [works.slice(first, last + 1), second]
        : [second, workAgain(chart, second, second.at(-1)!.loops)];
    for (let i = 0; i < one.length; i++) {
      const [was, is] = [one[i]!.loops, two[i]!.loops];
      const loop = was.findIndex(({ face }, k) => face !== is[k]!.face);
      if (loop < 0) continue;
      const row = first + i + 1;
      return [
        {
          id: 'needle-at-repeat',
          level,
          row,
          message: `The repeat of rows ${rows} ends unlike it begins, and row ${row} slips what it finds: its stitch ${loop + 1} from the right is ${was[loop]!.face} at first and ${is[loop]!.face} when the rows are worked again.`,
        },
      ];
    }
    return [];
  },
);
