import { endOf, repeatRows, startOf } from '../chart/frame.js';
import { constructionOf } from '../construction/construction.js';
import { workAgain } from '../needle/needle.js';
import { counted, type Check, type Finding } from './finding.js';

/** Flat, a repeat of an odd number of rows turns right-side rows into wrong-side ones on the second pass. */
export const oddRepeat: Check = ({ chart }) => {
  const repeat = repeatRows(chart);
  if (!repeat) return [];
  const { first, last } = repeat;
  const rows = last - first + 1;
  if (rows % constructionOf(chart).rowsToSameSide === 0) return [];
  return [
    {
      id: 'odd-row-repeat',
      level: 'error',
      row: last + 1,
      message: `The repeat of rows ${first + 1}–${last + 1} is ${counted(rows, 'row')} high: worked flat, its right-side rows become wrong-side rows on the second pass.`,
    },
  ];
};

/**
 * A last pass that is ended part-way leaves the needle to the closing rows as the whole repeat does: on the same side,
 * with as many loops, and in the round with its marker in the same place.
 */
export const endOfPass: Check = ({ chart, works }) => {
  const repeat = repeatRows(chart);
  const rows = endOf(chart);
  if (!repeat || !rows || repeat.last === chart.rows.length - 1) return [];
  const end = repeat.first + rows - 1;
  const left = repeat.last - end;
  const tell = (message: string): Finding[] => [
    {
      id: 'end-of-pass',
      level: 'error',
      row: end + 1,
      message: `The last pass ends after row ${end + 1}, and row ${repeat.last + 2} follows it: ${message}`,
    },
  ];
  if (left % constructionOf(chart).rowsToSameSide !== 0)
    return tell('that row would be worked on the other side than the chart says.');
  const [part, whole] = [works[end]!, works[repeat.last]!];
  if (part.makes !== whole.makes)
    return tell(
      `${counted(part.makes, 'stitch')} are on the needle there, and ${whole.makes} after the whole repeat.`,
    );
  if (startOf(chart, end) !== startOf(chart, repeat.last))
    return tell('the round marker stands elsewhere there than after the whole repeat.');
  return [];
};

/** In the round the marker is, after the rows of the repeat, where it was before them: or the next pass begins elsewhere. */
export const roundStart: Check = ({ chart }) => {
  const repeat = repeatRows(chart);
  if (!repeat) return [];
  const { first, last } = repeat;
  const [before, after] = [first > 0 ? startOf(chart, first - 1) : 0, startOf(chart, last)];
  if (before === after) return [];
  return [
    {
      id: 'round-start',
      level: 'error',
      row: last + 1,
      message: `The repeat of rounds ${first + 1}–${last + 1} ends with the round marker ${counted(Math.abs(after - before), 'stitch')} from where it began: the next pass would begin elsewhere. Let round ${last + 1} begin where the others do.`,
    },
  ];
};

/**
 * The needle after the repeat up equals the needle before it: always in its count, in its faces only where a row
 * works by them. A slip keeps the face it finds, so a pass that begins on other faces may leave another cloth; a
 * row of plain stitches makes its faces itself. Before row 1 the needle holds the cast-on, which shows no face
 * yet: there the second pass and the third are compared.
 */
export const needleAtRepeat: Check = ({ chart, works }) => {
  const repeat = repeatRows(chart);
  if (!repeat) return [];
  const { first, last } = repeat;
  const end = works[last]!;
  const live = first > 0 ? works[first - 1]!.makes : works[0]!.takes;
  const rows = `${first + 1}–${last + 1}`;
  if (end.makes !== live)
    return [
      {
        id: 'needle-at-repeat',
        level: 'error',
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
        level: 'error',
        row,
        message: `The repeat of rows ${rows} ends unlike it begins, and row ${row} slips what it finds: its stitch ${loop + 1} from the right is ${was[loop]!.face} at first and ${is[loop]!.face} when the rows are worked again.`,
      },
    ];
  }
  return [];
};
