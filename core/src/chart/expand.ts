import type { Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { sideOf } from '../construction/index.js';
import type { Band } from './bands.js';
import { expandRow, passesOf, startOf, timesOf, workedRows } from './frame.js';
import type { Chart } from './schema.js';

/** One row as it is worked: of which chart row (from 1), on which side, its stitches from the right as the RS looks. */
export interface ExpandedRow {
  row: number;
  side: Side;
  stitches: Stitch[];
  /** In the round, how many stitches after the first round's marker it begins, where that is not 0. */
  start?: number;
  /** The band that is worked before it. */
  band?: Band;
}

/** A row that cannot be worked as the chart's repeat says. Rows count from 1. */
export class NotRepeatable extends Error {
  constructor(readonly row: number) {
    super(`Row ${row} cannot be cut at its repeat lines: a stitch lies across one of them.`);
  }
}

/**
 * The piece as it is worked, row after row: the repeat across worked `times` times, the repeat up `passes` times,
 * gaps left out. Both are the designer's numbers when not given.
 *
 * @throws NotRepeatable
 */
export function expandPiece(chart: Chart, times = timesOf(chart), passes = passesOf(chart)): ExpandedRow[] {
  const rows = chart.rows.map((_, r) => {
    const stitches = expandRow(chart, r, times);
    if (!stitches) throw new NotRepeatable(r + 1);
    const start = startOf(chart, r);
    const band = chart.bands[r];
    const worked = stitches.filter((s) => s !== NO_STITCH);
    return {
      row: r + 1,
      side: sideOf(chart, r),
      stitches: worked,
      ...(start && { start }),
      ...(band && { band }),
    };
  });
  return [...workedRows(chart, passes)].map(({ row }) => rows[row]!);
}
