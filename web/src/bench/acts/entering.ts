import {
  bookOf,
  fillCounted,
  indexAt,
  mirrorStitch,
  spanOfAll,
  andThen,
  unchanged,
  unworkStitch,
  workRun,
  type Stitch,
} from '@cordelina/core';
import { bench } from '../../desk/state/bench.js';
import { work } from '../../desk/state/editing.js';
import type { AppDispatch } from '../../desk/state/index.js';
import { goOn, now, rowAfter } from './here.js';

/** What was set in one row, one entry after the other, so that it can be set again in another. */
interface RowEntry {
  chart: string | null;
  row: number;
  parts: { column: number; stitches: readonly Stitch[] }[];
}

/** Stitches set at the cursor, filled in and taken out. */
export function entering(dispatch: AppDispatch) {
  let last: RowEntry = { chart: null, row: -1, parts: [] };

  /** Puts stitches at the cursor and moves on past them. */
  const place = (stitches: readonly Stitch[], label: string, alone = false) => {
    const {
      cursor,
      chart: { id },
    } = now();
    if (!dispatch(work(label, (c) => workRun(c, cursor.row, cursor.column, stitches), { alone }))) return;
    const part = { column: cursor.column, stitches };
    const goesOn = last.chart === id && last.row === cursor.row;
    last = { chart: id, row: cursor.row, parts: goesOn ? [...last.parts, part] : [part] };
    goOn(dispatch, spanOfAll(stitches, bookOf(now().chart)));
  };

  /** Sets what was set in one row again in the row of the cursor: in its own columns, or from the cursor on; mirrored. */
  const again = (mirrored: boolean) => {
    const { cursor, chart } = now();
    if (!last.parts.length)
      return dispatch(bench.said({ text: 'Nothing has been set in a row yet.', tone: 'refused' }));
    const book = bookOf(chart);
    const from = Math.min(...last.parts.map((p) => p.column));
    const to = Math.max(...last.parts.map((p) => p.column + spanOfAll(p.stitches, book)));
    const by = cursor.column === 0 ? 0 : cursor.column - from;
    const parts = last.parts.map(({ column, stitches }) => {
      const at = column + by;
      if (!mirrored) return { column: at, stitches };
      const turned = [...stitches].reverse().map((s) => mirrorStitch(s, book));
      // About the chart's line where it has one; else about the middle of what was set, or of the chart.
      const axis = chart.mirror?.axis ?? (cursor.column === 0 ? chart.width : from + to + 2 * by);
      return { column: axis - at - spanOfAll(stitches, book), stitches: turned };
    });
    const done = dispatch(
      work(mirrored ? 'the last row’s entry, mirrored' : 'the last row’s entry', (c) =>
        parts.reduce(
          (made, p) => andThen(made, (m) => workRun(m, cursor.row, p.column, p.stitches)),
          unchanged(c),
        ),
      ),
    );
    if (done) dispatch(bench.moved({ cell: { row: rowAfter(cursor.row), column: 0 } }));
    return done;
  };

  return {
    place,
    leave: (columns: number) => goOn(dispatch, columns),
    again: () => again(false),
    againMirrored: () => again(true),
    fill: (stitch: Stitch, alone = false) => {
      const { block, hasSelection } = now();
      if (hasSelection) {
        if (!dispatch(work('fill', (c) => fillCounted(c, block, stitch), { alone }))) return;
        // The hand goes on beside what was filled, in its lowest row.
        dispatch(bench.moved({ cell: { row: block.rows.from, column: block.columns.from } }));
        goOn(dispatch, block.columns.to - block.columns.from + 1);
      } else place([stitch], 'set a stitch', alone);
    },
    clear: () => {
      const { block, cursor, hasSelection } = now();
      dispatch(
        work('clear to ground', (c) => {
          // An increase or decrease is taken away with the columns it opened or closed.
          const unworked = hasSelection ? unchanged(c) : unworkStitch(c, cursor.row, cursor.column);
          return unworked.steps.length ? unworked : fillCounted(c, block, c.ground);
        }),
      );
    },
    /** Takes the stitch at the cursor in hand. */
    grab: () => {
      const { chart, cursor } = now();
      const row = chart.rows[cursor.row]!;
      const stitch = row[indexAt(row, cursor.column, bookOf(chart))];
      if (stitch !== undefined) dispatch(bench.tookUp(stitch));
    },
  };
}
