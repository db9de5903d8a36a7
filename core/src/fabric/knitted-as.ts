import { isCrossed } from '../chart/bands.js';
import { jogOf } from '../chart/frame.js';
import { jogsFrom } from '../chart/repeat-lines.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { seenBehind } from '../chart/turn.js';
import { wayOf } from '../construction/index.js';
import { remembered } from '../remember.js';
import { isCrossing, type Stitch, type StitchBook } from '../stitches/book.js';
import { crossing as makeCrossing } from '../stitches/crossing.js';
import type { Worked } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';

/** What of a chart is knitted for a look at its cloth: of pairs one of the two fabrics, bands with their rounds as rows. */

/** A band among the rows that are knitted: the first of its rounds, how many they are, and how often its strands cross. */
export interface LaidBand {
  row: number;
  rounds: number;
  every: number | null;
}

/** Of pairs the loops that show on side 1: a knit fabric by themselves, whatever their yarns. */
export const frontSheet = remembered((chart: Chart): Chart => ({ ...chart, rows: chart.rows.map(frontRow) }));

const frontRow = remembered((row: Row): Row => {
  const knit = (group: readonly Worked[]) => group.map((): Worked => 'k');
  const shown = (stitch: Stitch): Stitch =>
    isCrossing(stitch)
      ? makeCrossing(stitch.lean, knit(stitch.front), knit(stitch.back), knit(stitch.centre))
      : stitch === 'p'
        ? 'k'
        : stitch;
  return row.map(shown);
});

/** A round of a band binds each stitch once, and so knits it. */
const boundRow = remembered((above: Row, book: StitchBook): Row =>
  above.flatMap((stitch): Stitch[] => {
    const { takes, span } = book.facts(stitch);
    return [...Array<Stitch>(takes).fill('k'), ...Array<Stitch>(Math.max(0, span - takes)).fill(NO_STITCH)];
  }),
);

/** What is knitted, the row of the drawn chart that each of its rows stands for, and where its bands lie. */
interface Banded {
  chart: Chart;
  rowOf: readonly number[];
  bands: readonly LaidBand[];
}

/** A chart with the rounds of its bands among its rows. */
export const withBands = remembered((drawn: Chart): Banded => {
  const rowOf: number[] = [];
  const bands: LaidBand[] = [];
  const takesBands = wayOf(drawn).takesBands;
  drawn.rows.forEach((_, r) => {
    const band = takesBands ? drawn.bands[r] : undefined;
    if (band) {
      bands.push({ row: rowOf.length, rounds: band.rounds, every: isCrossed(band) ? band.every : null });
      rowOf.push(...Array<number>(band.rounds).fill(r));
    }
    rowOf.push(r);
  });
  if (!bands.length) return { chart: drawn, rowOf, bands };
  const book = bookOf(drawn);
  const isBound = new Set(
    bands.flatMap(({ row, rounds }) => Array.from({ length: rounds }, (_, i) => row + i)),
  );
  const rows = rowOf.map((r, i) => (isBound.has(i) ? boundRow(drawn.rows[r]!, book) : drawn.rows[r]!));
  const jogs = jogsFrom(rowOf.map((r) => jogOf(drawn, r)));
  return { chart: { ...drawn, rows, jogs, bands: {} }, rowOf, bands };
});

/**
 * What is to be knitted for a look at a side of a chart's cloth, and the side of that to look at. A fabric of pairs has a front on
 * either side: its other one is the front of the cloth turned over.
 */
export const seenFrom = <S extends 'RS' | 'WS'>(
  chart: Chart,
  side: S,
): { chart: Chart; side: 'RS' | 'WS' } =>
  side === 'WS' && wayOf(chart).loops === 2 ? { chart: seenBehind(chart), side: 'RS' } : { chart, side };
