import { repeatRows } from '../chart/frame.js';
import type { Chart } from '../chart/schema.js';
import type { Side } from '../stitches/face.js';
import type { Way } from '../construction/index.js';
import { lcm, modulo } from '../values.js';
import type { Gauge } from '../measures/gauge.js';
import type { Length } from '../measures/length.js';

/** How the panels of a piece go up: which row of each falls on each row of the piece, and where they meet again. */

/** The rows of a panel: some once, then those of its repeat over and over, then some once. */
export interface PanelRows {
  setup: number;
  repeat: number;
  closing: number;
}

/** A panel in the piece. Rows count from 1. */
export interface PanelUp {
  rows: PanelRows;
  /** The row of the piece that the panel begins on. */
  start: number;
  /** The row of the panel it begins with. */
  begins: number;
  /** The side its first row is charted for; null where every row is alike on both, or worked in the round. */
  side: Side | null;
  /** The rows of the panel in which something is crossed. */
  crossed: readonly number[];
}

/** The rows of a chart as a panel: one without a repeat up is itself repeated. */
export function panelRows(chart: Pick<Chart, 'rows' | 'up'>): PanelRows {
  const repeat = repeatRows(chart);
  if (!repeat) return { setup: 0, repeat: chart.rows.length, closing: 0 };
  const { first, last } = repeat;
  return { setup: first, repeat: last - first + 1, closing: chart.rows.length - last - 1 };
}

/**
 * The row of a panel that a row of the piece works: its set-up rows once, then its repeat. Where the piece has so many
 * rows (`last`) its closing rows come at the end. Null before the panel begins.
 */
export function panelRowAt({ rows, start, begins }: PanelUp, row: number, last = Infinity): number | null {
  if (row < start) return null;
  const { setup, repeat, closing } = rows;
  const above = last - row;
  if (above < closing) return setup + repeat + closing - above;
  const at = row - start + begins - 1;
  return at < setup ? at + 1 : setup + modulo(at - setup, repeat) + 1;
}

/** The row of the piece from which a panel only repeats. */
const repeatsFrom = ({ rows, start, begins }: PanelUp): number =>
  start + Math.max(0, rows.setup - (begins - 1));

/** Past so many rows panels meet in no piece that anyone knits. */
const MOST_ROWS = 1_000_000;

/** When panels stand beside each other as they did. */
export interface MeetAgain {
  /** The row of the piece from which all of them repeat. */
  from: number;
  /** After how many rows all of them stand alike again; null where that is past any piece. */
  every: number | null;
}

/** The rows after which panels meet again: the least common multiple of their repeats, from where the last one repeats. */
export function meetAgain(panels: readonly PanelUp[]): MeetAgain {
  let every: number | null = 1;
  for (const { rows } of panels) {
    if (every !== null) every = lcm(every, rows.repeat);
    if (every !== null && every > MOST_ROWS) every = null;
  }
  return { from: Math.max(1, ...panels.map(repeatsFrom)), every };
}

/** What keeps a panel's rows from their sides, where rows take turns between these. */
export type SideClash =
  /** It begins on a row of the other side: one row later, or with a further set-up row, it would not. */
  | 'begins'
  /** Its repeat is no whole number of turns: the second pass is worked from the other side. */
  | 'odd';

/** Whether a panel falls on rows of its own sides as its piece is worked; `first` is the side of row 1 of the piece. */
export function sideClash(
  { rows, start, begins, side }: PanelUp,
  first: Side,
  { rowsToSameSide, sideOf }: Way,
): SideClash | null {
  if (side === null) return null;
  if (rows.repeat % rowsToSameSide !== 0) return 'odd';
  return sideOf(start - 1, first) === sideOf(begins - 1, side) ? null : 'begins';
}

/** One way to come to a length. */
export interface LengthWay {
  /** Whole repeats; or ended part-way; or begun and ended alike: as many rows before the first crossing as after the last. */
  kind: 'whole' | 'part' | 'centred';
  /** The row of the panel that is worked first, and the one worked last before the closing rows. */
  begins: number;
  ends: number;
  /** Passes of the repeat that are begun. */
  passes: number;
  rows: number;
  length: Length;
  off: Length;
}

/**
 * Where a repeat may be begun, and how many rows may be worked, for both ends to look alike: as many rows come before the first
 * crossing as after the last; where nothing is crossed, as many rows of the repeat are left off below as above.
 *
 * @param wish the number of rows that is wished for: of those there are the nearest
 */
function* alikeEnds(
  repeat: number,
  wish: number,
  rowsToSameSide: number,
  crossed: readonly number[],
): Generator<{ begins: number; rows: number; uneven: number }> {
  /** The nearest to what is wished of so many rows and any number of repeats. */
  const nearest = (rows: number) => rows + Math.max(0, Math.round((wish - rows) / repeat)) * repeat;
  if (!crossed.length) {
    for (let off = rowsToSameSide; 2 * off < repeat; off += rowsToSameSide)
      yield { begins: off + 1, rows: nearest(repeat - 2 * off), uneven: 0 };
    return;
  }
  const after = (last: number) => Math.min(...crossed.map((row) => modulo(row - last - 1, repeat) + 1));
  const widest = Math.max(...crossed.map(after));
  for (let begins = 1; begins <= repeat; begins += rowsToSameSide) {
    const before = Math.min(...crossed.map((row) => modulo(row - begins, repeat)));
    // No piece begins with a crossing where it need not.
    if (!before && widest > 1) continue;
    for (const last of crossed)
      // Nothing more is crossed in as many rows after it.
      if (after(last) > before)
        yield {
          begins,
          rows: nearest(modulo(last - begins, repeat) + 1 + before),
          // Half of what lies between crossings looks best.
          uneven: Math.abs(before - widest / 2),
        };
  }
}

/**
 * The ways a panel comes to a length: whole repeats on both sides of it; ended where it is nearest; and centred. Where
 * rows take turns between the sides a panel that begins on another row of its repeat keeps the side it is charted for.
 *
 * @param gauge rows over a length
 * @param crossed the rows of the repeat in which something is crossed
 */
export function lengthWays(
  { setup, repeat, closing }: PanelRows,
  gauge: Gauge,
  wanted: Length,
  { rowsToSameSide }: Way,
  crossed: readonly number[] = [],
): LengthWay[] {
  const lengthOfRows = (n: number): Length => Math.round((n * gauge.over) / gauge.count);
  const way = (kind: LengthWay['kind'], rows: number, begins: number): LengthWay => {
    const worked = rows - closing + begins - 1 - setup;
    return {
      kind,
      begins,
      ends: setup + modulo(worked - 1, repeat) + 1,
      passes: Math.ceil(worked / repeat),
      rows,
      length: lengthOfRows(rows),
      off: lengthOfRows(rows) - wanted,
    };
  };
  const wish = (wanted * gauge.count) / gauge.over;
  const ways: LengthWay[] = [];
  const passes = Math.max(1, Math.floor((wish - setup - closing) / repeat));
  for (const n of [passes, passes + 1]) ways.push(way('whole', setup + n * repeat + closing, 1));
  const nearest = Math.max(setup + closing + 1, Math.round(wish));
  if (!ways.some(({ rows }) => rows === nearest)) ways.push(way('part', nearest, 1));
  // Set-up and closing rows would stand in the way of ends that are alike.
  if (setup === 0 && closing === 0) {
    const alike = [...alikeEnds(repeat, wish, rowsToSameSide, crossed)].sort(
      (a, b) =>
        Math.abs(a.rows - wish) - Math.abs(b.rows - wish) || a.uneven - b.uneven || a.begins - b.begins,
    );
    const nearest = alike[0] && way('centred', alike[0].rows, alike[0].begins);
    if (nearest) ways.push(nearest);
  }
  return ways.sort((a, b) => Math.abs(a.off) - Math.abs(b.off));
}
