import { repeatsUp } from '../chart/frame.js';
import { homeOf } from '../ropes/home.js';
import { chartCheck } from './finding.js';

/**
 * Crossings carry their pairs' colours with them: after one repeat these may stand elsewhere, and the rows as charted would change
 * colours where nothing crosses.
 */
export const coloursHome = chartCheck(
  { tells: { 'colours-home': 'Colours not home' }, level: 'note' },
  ({ chart }) => {
    if (!repeatsUp(chart)) return [];
    const home = homeOf(chart);
    if (!home || home.repeats === 1) return [];
    return [
      {
        id: 'colours-home',
        level: 'note',
        message: `The colours come home after ${home.repeats} repeats, ${home.rows} rows: chart so many rows as one repeat, or they change where nothing is crossed.`,
      },
    ];
  },
);
