import {
  bookOf,
  copyBlock,
  deleteColumns,
  deleteRows,
  EditError,
  fillCounted,
  flipCrossing,
  groundRow,
  indexAt,
  insertColumns,
  insertRows,
  isCrossing,
  leastOf,
  mirrorBlock,
  mirrorCrossing,
  pasteRows,
  placeStitches,
  rowFacts,
  setAcross,
  slipBelow,
  spanOfAll,
  timesOf,
  turnCrossing,
  unchanged,
  unworkStitch,
  workRun,
  type Crossing,
  type Row,
  type Stitch,
} from '@cordelina/core';
import { useMemo } from 'react';
import { bench, selectionOf } from '../store/bench.js';
import { chartOnBench, edit, redo, undo } from '../store/editing.js';
import { store, useAppDispatch, type AppDispatch } from '../store/index.js';

/** What was last copied; shared by all charts of this page. */
let clipboard: readonly Row[] | null = null;

/** What is done to the chart itself; each acts on the cursor and the selection as they are when it is called. */
export function useChartActs() {
  const dispatch = useAppDispatch();
  return useMemo(() => chartActs(dispatch), [dispatch]);
}

function chartActs(dispatch: AppDispatch) {
  const now = () => {
    const state = store.getState().bench;
    return {
      chart: chartOnBench(store.getState())!,
      cursor: state.cursor,
      block: selectionOf(state),
      hasSelection: !!state.anchor,
    };
  };

  /** Puts stitches at the cursor and moves on past them; at the end of the row, to the row above. */
  const place = (stitches: readonly Stitch[], label: string) => {
    const { cursor } = now();
    if (!dispatch(edit(label, (c) => workRun(c, cursor.row, cursor.column, stitches)))) return;
    const { chart } = now();
    const next = cursor.column + spanOfAll(stitches, bookOf(chart));
    const atEnd = next >= chart.width;
    const cell =
      atEnd && cursor.row < chart.rows.length - 1
        ? { row: cursor.row + 1, column: 0 }
        : { ...cursor, column: next };
    dispatch(bench.moved({ cell }));
  };

  /** Puts another crossing in the place of the one at the cursor; without one, of the one in hand. */
  const recross = (label: string, change: (c: Crossing) => Crossing) => {
    const { cursor, chart } = now();
    const { hand } = store.getState().bench;
    const here = chart.rows[cursor.row]!;
    const under = here[indexAt(here, cursor.column, bookOf(chart))];
    if (hand && isCrossing(hand) && !(under && isCrossing(under)))
      return dispatch(bench.tookUp(change(hand)));
    return dispatch(
      edit(label, (c) => {
        const book = bookOf(c);
        const row = c.rows[cursor.row]!;
        const i = indexAt(row, cursor.column, book);
        const stitch = row[i];
        if (stitch === undefined || !isCrossing(stitch))
          throw new EditError('Put the cursor on a crossing, or select what to mirror.');
        return placeStitches(c, cursor.row, rowFacts(row, book).starts[i]!, [change(stitch)]);
      }),
    );
  };

  return {
    place,
    fill: (stitch: Stitch) => {
      const { block, hasSelection } = now();
      if (hasSelection) dispatch(edit('fill', (c) => fillCounted(c, block, stitch)));
      else place([stitch], 'set a stitch');
    },
    clear: () => {
      const { block, cursor, hasSelection } = now();
      dispatch(
        edit('clear to ground', (c) => {
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
    flip: () => recross('swap over and under', flipCrossing),
    turn: () => recross('turn the lean', turnCrossing),
    slip: () => {
      const { cursor } = now();
      dispatch(edit('slip the rope below', (c) => slipBelow(c, cursor.row, cursor.column)));
    },
    copy: () => {
      const { chart, block } = now();
      const copied = dispatch(
        edit('copy', (c) => {
          clipboard = copyBlock(chart, block);
          return unchanged(c);
        }),
      );
      if (!copied) return;
      const [w, h] = [block.columns.to - block.columns.from + 1, block.rows.to - block.rows.from + 1];
      dispatch(bench.said({ text: `Copied ${w} × ${h}.`, tone: 'said' }));
    },
    cut: () => {
      const { chart, block } = now();
      dispatch(
        edit('cut', (c) => {
          clipboard = copyBlock(chart, block);
          return fillCounted(c, block, c.ground);
        }),
      );
    },
    paste: () => {
      const rows = clipboard;
      const { block } = now();
      if (!rows) return dispatch(bench.said({ text: 'Nothing has been copied yet.', tone: 'refused' }));
      return dispatch(edit('paste', (c) => pasteRows(c, block.rows.from, block.columns.from, rows)));
    },
    mirror: () => {
      const { block, hasSelection } = now();
      if (hasSelection) dispatch(edit('mirror', (c) => mirrorBlock(c, block)));
      else recross('mirror the crossing', mirrorCrossing);
    },
    insertRow: () => {
      const { cursor } = now();
      if (dispatch(edit('insert a row', (c) => insertRows(c, cursor.row + 1, [groundRow(c)]))))
        dispatch(bench.moved({ cell: { ...cursor, row: cursor.row + 1 } }));
    },
    deleteRow: () => {
      const { block } = now();
      const n = block.rows.to - block.rows.from + 1;
      dispatch(edit(n === 1 ? 'delete a row' : `delete ${n} rows`, (c) => deleteRows(c, block.rows.from, n)));
    },
    insertColumn: () => {
      const { cursor } = now();
      if (dispatch(edit('insert a column', (c) => insertColumns(c, cursor.column + 1, 1))))
        dispatch(bench.moved({ cell: { ...cursor, column: cursor.column + 1 } }));
    },
    deleteColumn: () => {
      const { block } = now();
      const n = block.columns.to - block.columns.from + 1;
      dispatch(
        edit(n === 1 ? 'delete a column' : `delete ${n} columns`, (c) =>
          deleteColumns(c, block.columns.from, n),
        ),
      );
    },
    repeatSelection: () => {
      const { block, hasSelection } = now();
      if (!hasSelection)
        return dispatch(bench.said({ text: 'Select the columns that repeat first.', tone: 'refused' }));
      return dispatch(
        edit('set the repeat', (c) =>
          setAcross(c, {
            before: block.columns.from,
            after: c.width - 1 - block.columns.to,
            times: timesOf(c),
            least: leastOf(c),
          }),
        ),
      );
    },
    selectAll: () => {
      const { chart } = now();
      dispatch(
        bench.selected({
          anchor: { row: 0, column: 0 },
          cursor: { row: chart.rows.length - 1, column: chart.width - 1 },
        }),
      );
    },
    undo: () => dispatch(undo()),
    redo: () => dispatch(redo()),
  };
}

export type ChartActs = ReturnType<typeof chartActs>;
