import { crossingSize } from '../stitches/crossing.js';
import { ropesCheck } from './finding.js';

/** Cloth counts as dense where crossing rows take so much of their stitches, and come within so many rows (custom). */
const DENSE_SHARE = 2 / 3;
const DENSE_ROWS = 8;
/** A panel narrower than this is a rope or a plait by itself. */
const ALL_OVER = 16;

/** Crossings close to each other all over make a firm cloth that draws in: a larger needle and a swatch are advised (custom). */
export const denseCloth = ropesCheck(
  { tells: { 'dense-cloth': 'Dense cloth' }, level: 'note', reads: ['part'] },
  ({ chart, roped }) => {
    if (chart.part === 'panel' || chart.width < ALL_OVER) return [];
    const shares = roped.crossed
      .slice(0, chart.rows.length)
      .filter((meetings) => meetings.length)
      .map(
        (meetings) =>
          meetings.reduce((sum, m) => sum + crossingSize(m.crossing), 0) / meetings[0]!.met.length,
      );
    const mean = shares.reduce((sum, s) => sum + s, 0) / shares.length;
    if (shares.length < 2 || mean < DENSE_SHARE || chart.rows.length > DENSE_ROWS * shares.length) return [];
    return [
      {
        id: 'dense-cloth',
        level: 'note',
        message:
          'Crossings stand close all over: the cloth grows firm and draws in. Try a needle one size up, and measure a washed and blocked swatch.',
      },
    ];
  },
);
