import { NO_STITCH } from '../stitches/kinds.js';
import type { Stitch } from '../stitches/book.js';
import { rowTitle } from '../construction/index.js';
import { divides, USUAL_BAND, type Band } from './bands.js';
import { andThen, become, EditError, unchanged, type Edit } from './edit.js';
import { openColumns, withRow } from './edits.js';
import { acrossOf, countsOf, passesOf, repeatRows, timesOf } from './frame.js';
import { cutAt, indexAt } from './rows.js';
import { bookOf, type Chart, type Row } from './schema.js';

/** Puts a band before a row (from 0), sets the one that is there, or (null) takes it out. @throws EditError */
export function setBand(chart: Chart, r: number, band: Band | null): Edit {
  if (!chart.rows[r]) throw new EditError(`The chart has no row ${r + 1}.`);
  const { [r]: _, ...others } = chart.bands;
  return become(chart, { ...chart, bands: band ? { ...others, [r]: band } : others });
}

/** The usual distances of the crossings of a band (common practice, no source). */
const [LEAST_USUAL, MOST_USUAL] = [2, 12];

/** The usual distances that divide the round before a row, the nearest to a wished one first. */
export function everyFor(chart: Chart, r: number, wish: number): number[] {
  const { takes } = countsOf(chart, r);
  return Array.from({ length: MOST_USUAL - LEAST_USUAL + 1 }, (_, i) => i + LEAST_USUAL)
    .filter((every) => divides(takes, { every, rounds: 2 }))
    .sort((a, b) => Math.abs(a - wish) - Math.abs(b - wish) || a - b);
}

/** A band to put before a row: the usual one, its strands crossed as often as divides the round where any does. */
export const newBand = (chart: Chart, r: number): Band => ({
  ...USUAL_BAND,
  every: everyFor(chart, r, USUAL_BAND.every)[0] ?? USUAL_BAND.every,
});

/** A band put before another row than the one it stands before. @throws EditError where one stands there */
export function moveBand(chart: Chart, from: number, to: number): Edit {
  const band = chart.bands[from];
  if (!band || from === to) return unchanged(chart);
  if (chart.bands[to])
    throw new EditError(`A band stands before ${rowTitle(chart, to + 1).toLowerCase()} already.`);
  return andThen(setBand(chart, from, null), (c) => setBand(c, to, band));
}

/** More stitches than these are not won or lost in one round for a band: other numbers of repeats do better. */
const MOST_CHANGED = 4;

const isPlain = (stitch: Stitch | undefined): stitch is 'k' | 'p' => stitch === 'k' || stitch === 'p';

/** Where in both rows around a band plain stitches stand, from the left edge on, outside what is repeated across. */
function plainColumns(chart: Chart, r: number, wide: 1 | 2): number[] {
  const book = bookOf(chart);
  const { before, after } = acrossOf(chart);
  const isRepeated = (c: number) => timesOf(chart) > 1 && c >= before - wide + 1 && c < chart.width - after;
  const at = (row: Row, c: number) => row[indexAt(row, c, book)];
  const found: number[] = [];
  for (let c = chart.width - wide; c >= 0 && found.length < MOST_CHANGED; c--) {
    if (isRepeated(c) || (found.length && found.at(-1)! < c + wide + 1)) continue;
    const columns = Array.from({ length: wide }, (_, i) => c + i);
    const [below, above] = [chart.rows[r - 1]!, chart.rows[r]!];
    const fits =
      columns.every((col) => isPlain(at(below, col)) && isPlain(at(above, col))) &&
      new Set(columns.map((col) => at(below, col))).size === 1;
    if (fits && chart.rows.every((row) => cutAt(row, c + 1, book) >= 0)) found.push(c);
  }
  return found;
}

const replaced = (row: Row, column: number, stitches: readonly Stitch[], chart: Chart): Row => {
  const i = indexAt(row, column, bookOf(chart));
  return [...row.slice(0, i), ...stitches, ...row.slice(i + stitches.length)];
};

const TOGETHER = { k: 'k2tog', p: 'p2tog' } as const;
const MADE = { k: 'm1l', p: 'm1lp' } as const;

/**
 * The round before a band worked to so many stitches more, or (negative) fewer, for the band alone: the round above it takes
 * them back.
 *
 * @throws EditError where there is no room, or the round is worked again with others above it
 */
export function fitToBand(chart: Chart, r: number, by: number): Edit {
  const repeat = repeatRows(chart);
  if (r < 1) throw new EditError('A band before the first round lies on the cast-on.');
  if (repeat?.first === r && passesOf(chart) > 1)
    throw new EditError('The round before the repeat is another one each time.');
  if (Math.abs(by) > MOST_CHANGED)
    throw new EditError(`At most ${MOST_CHANGED} stitches are won or lost so.`);
  const columns = plainColumns(chart, r, by < 0 ? 2 : 1).slice(0, Math.abs(by));
  if (columns.length < Math.abs(by)) throw new EditError('The rounds have too few plain stitches for it.');
  // From the left, so that columns that come do not move those still to be seen to.
  return columns.reduce(
    (edit, c) => andThen(edit, (now) => (by < 0 ? oneFewer(now, r, c) : oneMore(now, r, c))),
    unchanged(chart),
  );
}

function oneFewer(chart: Chart, r: number, c: number): Edit {
  const book = bookOf(chart);
  const [below, above] = [chart.rows[r - 1]!, chart.rows[r]!];
  const worked = below[indexAt(below, c, book)] as 'k' | 'p';
  const next = above[indexAt(above, c + 1, book)] as 'k' | 'p';
  const first = withRow(chart, r - 1, replaced(below, c, [TOGETHER[worked], NO_STITCH], chart));
  return andThen(first, (now) => withRow(now, r, replaced(now.rows[r]!, c + 1, [MADE[next]], now)));
}

function oneMore(chart: Chart, r: number, c: number): Edit {
  const book = bookOf(chart);
  const [below, above] = [chart.rows[r - 1]!, chart.rows[r]!];
  const worked = below[indexAt(below, c, book)] as 'k' | 'p';
  const over = above[indexAt(above, c, book)] as 'k' | 'p';
  const opened = openColumns(chart, c + 1, 1, (row) => [row === r - 1 ? MADE[worked] : NO_STITCH]);
  return andThen(opened, (now) => withRow(now, r, replaced(now.rows[r]!, c, [TOGETHER[over]], now)));
}
