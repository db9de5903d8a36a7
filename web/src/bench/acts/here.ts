import { presentsBelow, sideOf } from '@cordelina/core';
import { bench, selectionOf } from '../../desk/state/bench.js';
import { chartOnBench } from '../../desk/state/editing.js';
import { store, type AppDispatch } from '../../desk/state/index.js';

/** Where the hands are on the bench. */

/** The chart, the cursor and the selection as they are just now. */
export const now = () => {
  const state = store.getState().bench;
  return {
    chart: chartOnBench(store.getState())!,
    cursor: state.cursor,
    skips: store.getState().habits.skips,
    block: selectionOf(state),
    hasSelection: !!state.anchor,
  };
};

/** The row to go to at the end of one: in flat work past wrong-side rows that only present, if that is wished. */
export const rowAfter = (row: number): number => {
  const { chart, skips } = now();
  let next = row + 1;
  while (skips && next < chart.rows.length - 1 && sideOf(chart, next) === 'WS' && presentsBelow(chart, next))
    next++;
  return next;
};

/** Moves on past so many columns; at the end of the row, to the next one. */
export const goOn = (dispatch: AppDispatch, columns: number): void => {
  const { chart, cursor } = now();
  const next = cursor.column + columns;
  const atEnd = next >= chart.width && cursor.row < chart.rows.length - 1;
  dispatch(
    bench.moved({ cell: atEnd ? { row: rowAfter(cursor.row), column: 0 } : { ...cursor, column: next } }),
  );
};
