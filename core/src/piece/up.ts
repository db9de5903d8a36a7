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
  /** Whole repeats; or ended part-way; or begun and ended as many rows from the ends of the repeat, so that both look alike. */
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
 * The ways a panel comes to a length: whole repeats on both sides of it; ended where it is nearest; and centred. Where
 * rows take turns between the sides a panel that begins on another row of its repeat keeps the side it is charted for.
 *
 * @param gauge rows over a length
 */
export function lengthWays(
  { setup, repeat, closing }: PanelRows,
  gauge: Gauge,
  wanted: Length,
  { rowsToSameSide }: Way,
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
  // As many rows are left off below as above: set-up and closing rows would stand in the way of that.
  if (setup === 0 && closing === 0) {
    let best: LengthWay | null = null;
    for (let off = rowsToSameSide; 2 * off < repeat; off += rowsToSameSide) {
      const n = Math.max(1, Math.round((wish + 2 * off) / repeat));
      const one = way('centred', n * repeat - 2 * off, off + 1);
      if (!best || Math.abs(one.off) < Math.abs(best.off)) best = one;
    }
    if (best) ways.push(best);
  }
  return ways.sort((a, b) => Math.abs(a.off) - Math.abs(b.off));
}
