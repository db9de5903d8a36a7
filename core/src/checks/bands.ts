import { bandsOf, divides, type Band } from '../chart/bands.js';
import { everyFor, fitToBand, setBand } from '../chart/band-edits.js';
import { setAcross, setConstruction } from '../chart/edits.js';
import { acrossOf, countsOf, leastOf, repeatsAcross, startOf, timesOf } from '../chart/frame.js';
import { LIMITS, type Chart } from '../chart/schema.js';
import { ROUND, wayOf } from '../construction/index.js';
import { counted } from '../values.js';
import { chartCheck, type Found, type Mend } from './finding.js';

const takenOut = (r: number): Mend => ({
  label: 'Take the band out',
  edit: (c) => setBand(c, r, null),
  isBesides: true,
});

/** A band goes on from the end of one round to the next: what has edges has no bands. */
export const bandNeedsRound = chartCheck(
  { tells: { 'band-needs-round': 'Band without a round' }, level: 'error' },
  ({ chart }) => {
    const way = wayOf(chart);
    if (way.takesBands) return [];
    return bandsOf(chart).map(({ row }): Found => ({
      id: 'band-needs-round',
      level: 'error',
      row: row + 1,
      message: `The band before row ${row + 1} goes on from the end of one round to the beginning of the next, in one yarn; this chart is worked ${way.worked}.`,
      mend: [
        takenOut(row),
        {
          label: `Work the chart ${ROUND.worked}`,
          edit: (c) => setConstruction(c, { ...c, construction: ROUND.id }),
          isBesides: true,
        },
      ],
    }));
  },
);

/** The number of repeats nearest to the designer's with which a band divides its round; null where none does. */
function repeatsFor(chart: Chart, row: number, band: Band): number | null {
  if (!repeatsAcross(chart)) return null;
  const [now, least] = [timesOf(chart), leastOf(chart)];
  for (let by = 1; by <= band.every; by++)
    for (const times of [now - by, now + by])
      if (times >= least && times <= LIMITS.repeats && divides(countsOf(chart, row, times).takes, band))
        return times;
  return null;
}

/** With the one cast on, the stitches of a round fall into whole stretches from crossing to crossing. */
export const bandDivides = chartCheck(
  { tells: { 'band-divides': 'Band that does not come out' }, level: 'error' },
  ({ chart }) => {
    if (!wayOf(chart).takesBands) return [];
    return bandsOf(chart).flatMap(({ row, band }): Found[] => {
      const holds = countsOf(chart, row).takes;
      if (divides(holds, band)) return [];
      const { every } = band;
      const over = (holds + 1) % every;
      const [fewer, more] = [holds - over, holds - over + every];
      const others = everyFor(chart, row, every);
      const otherwise =
        others.length === 0
          ? `none of 2 to 12 divides ${holds + 1}`
          : `${holds + 1} is a multiple of ${others.join(', ')}`;
      const times = repeatsFor(chart, row, band);
      const changed = (by: number): Mend => ({
        label: `${by < 0 ? 'Take' : 'Add'} ${counted(Math.abs(by), 'stitch')} in the round before, ${by < 0 ? 'add' : 'take'} as many in the one above`,
        edit: (c) => fitToBand(c, row, by),
        isBesides: true,
      });
      const nearest = [fewer - holds, more - holds].sort((a, b) => Math.abs(a) - Math.abs(b));
      return [
        {
          id: 'band-divides',
          level: 'error',
          row: row + 1,
          message: `The band before round ${row + 1} crosses every ${every} stitches: ${holds} and the one cast on are ${holds + 1}, no multiple of ${every}. ${fewer > 0 ? `${fewer} or ${more}` : more} stitches do; ${otherwise}.`,
          mend: [
            ...others.slice(0, 2).map((k): Mend => ({
              label: `Cross every ${k} stitches`,
              edit: (c) => setBand(c, row, { ...band, every: k }),
              isBesides: true,
            })),
            ...(times === null
              ? []
              : [
                  {
                    label: `Work ${counted(times, 'repeat')}, ${countsOf(chart, row, times).takes} stitches`,
                    edit: (c: Chart) => setAcross(c, { ...acrossOf(c), times }),
                    isBesides: true,
                  },
                ]),
            ...nearest.map(changed),
          ],
        },
      ];
    });
  },
);

/** The travelling stitch is worked together with the first of the round above, which begins where the band does. */
export const bandJoins = chartCheck(
  { tells: { 'band-joins': 'End of a band' }, level: 'error' },
  ({ chart }) => {
    if (!wayOf(chart).takesBands) return [];
    return bandsOf(chart).flatMap(({ row }): Found[] => {
      const [first] = chart.rows[row]!;
      const moves = startOf(chart, row) !== (row > 0 ? startOf(chart, row - 1) : 0);
      if (!moves && (first === 'k' || first === 'p')) return [];
      const why = moves
        ? 'which begins at another stitch than the round below'
        : 'which does not begin with a plain stitch';
      return [
        {
          id: 'band-joins',
          level: 'error',
          row: row + 1,
          columns: [1, 1],
          message: `The band before round ${row + 1} ends by working its travelling stitch together with the first of that round, ${why}.`,
          mend: [takenOut(row)],
        },
      ];
    });
  },
);
