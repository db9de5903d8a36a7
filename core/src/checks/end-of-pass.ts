import { endOf, repeatRows, startOf } from '../chart/frame.js';
import { wayOf } from '../construction/index.js';
import { chartCheck, type Found } from './finding.js';
import { counted } from '../values.js';

/**
 * A last pass that is ended part-way leaves the needle to the closing rows as the whole repeat does: on the same side,
 * with as many loops, and in the round with its marker in the same place.
 */
export const endOfPass = chartCheck(
  { tells: { 'end-of-pass': 'End of the last pass' }, level: 'error' },
  ({ chart, works }) => {
    const repeat = repeatRows(chart);
    const rows = endOf(chart);
    if (!repeat || !rows || repeat.last === chart.rows.length - 1) return [];
    const end = repeat.first + rows - 1;
    const left = repeat.last - end;
    const tell = (message: string): Found[] => [
      {
        id: 'end-of-pass',
        level: 'error',
        row: end + 1,
        message: `The last pass ends after row ${end + 1}, and row ${repeat.last + 2} follows it: ${message}`,
      },
    ];
    if (left % wayOf(chart).rowsToSameSide !== 0)
      return tell('that row would be worked on the other side than the chart says.');
    const [part, whole] = [works[end]!, works[repeat.last]!];
    if (part.makes !== whole.makes)
      return tell(
        `${counted(part.makes, 'stitch')} are on the needle there, and ${whole.makes} after the whole repeat.`,
      );
    if (startOf(chart, end) !== startOf(chart, repeat.last))
      return tell('the round marker stands elsewhere there than after the whole repeat.');
    return [];
  },
);
