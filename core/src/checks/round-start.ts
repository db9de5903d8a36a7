import { isWorkedAgain, repeatRows, startOf } from '../chart/frame.js';
import { chartCheck } from './finding.js';
import { counted } from '../values.js';

/** In the round the marker is, after the rows of the repeat, where it was before them: or the next pass begins elsewhere. */
export const roundStart = chartCheck(
  { tells: { 'round-start': 'Start of the round' }, level: 'error' },
  ({ chart }) => {
    const repeat = repeatRows(chart);
    if (!repeat) return [];
    // What is worked once can be worked so; it could not be again.
    const level = isWorkedAgain(chart) ? 'error' : 'caution';
    const { first, last } = repeat;
    const [before, after] = [first > 0 ? startOf(chart, first - 1) : 0, startOf(chart, last)];
    if (before === after) return [];
    return [
      {
        id: 'round-start',
        level,
        row: last + 1,
        message: `The repeat of rounds ${first + 1}–${last + 1} ends with the round marker ${counted(Math.abs(after - before), 'stitch')} from where it began: the next pass would begin elsewhere. Let round ${last + 1} begin where the others do.`,
      },
    ];
  },
);
