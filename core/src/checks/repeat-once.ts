import { setUp } from '../chart/edits.js';
import { isWorkedAgain, repeatRows, upOf } from '../chart/frame.js';
import { wayOf } from '../construction/index.js';
import { chartCheck } from './finding.js';

/**
 * Rows that are set to repeat, are worked once and go on into others: people say six rows and work eight. Which they mean is theirs
 * to say.
 */
export const repeatOnce = chartCheck(
  { tells: { 'repeat-once': 'Repeat worked once' }, level: 'note', reads: ['part'] },
  ({ chart }) => {
    const repeat = repeatRows(chart);
    const height = chart.rows.length;
    if (!repeat || chart.part === 'panel' || isWorkedAgain(chart) || repeat.last === height - 1) return [];
    const { first, last } = repeat;
    const rows = `rows ${first + 1}–${last + 1}`;
    const rest = last + 2 === height ? `row ${height} follows` : `rows ${last + 2}–${height} follow`;
    const whole = height - first;
    return [
      {
        id: 'repeat-once',
        level: 'note',
        row: last + 1,
        message: `The repeat is set as ${rows}, but they are worked once, and ${rest}: nothing repeats so.`,
        mend: [
          ...(whole % wayOf(chart).rowsToSameSide === 0
            ? [
                {
                  label: `Repeat rows ${first + 1}–${height}`,
                  edit: (c: typeof chart) => setUp(c, { ...upOf(c), closing: 0 }),
                },
              ]
            : []),
          {
            label: `Work ${rows} twice`,
            edit: (c: typeof chart) => setUp(c, { ...upOf(c), times: 2 }),
            isBesides: true,
          },
        ],
      },
    ];
  },
);
