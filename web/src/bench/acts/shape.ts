import {
  deleteColumns,
  deleteRows,
  groundRow,
  insertColumns,
  insertRows,
  jogOf,
  leastOf,
  passesOf,
  presentingRow,
  ribBlock,
  newBand,
  setAcross,
  setBand,
  setJog,
  setMirror,
  setUp,
  takeAcross,
  takeUp,
  timesOf,
  type Chart,
  type Mirror,
} from '@cordelina/core';
import { followsIn } from '../../desk/state/habits.js';
import { bench } from '../../desk/state/bench.js';
import { edit } from '../../desk/state/editing.js';
import { store, type AppDispatch } from '../../desk/state/index.js';
import { now } from './here.js';

/** Rows and columns, where they repeat, where they begin, and the line they are mirrored about. */
export function shape(dispatch: AppDispatch) {
  return {
    insertRow: () => {
      const { cursor } = now();
      const { habits, bench: at } = store.getState();
      const follows = followsIn(habits, at.id);
      const rowOver = (c: Chart) => (follows ? presentingRow(c, cursor.row) : groundRow(c));
      if (dispatch(edit('insert a row', (c) => insertRows(c, cursor.row + 1, [rowOver(c)]))))
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
    /** A band is put below the row at the cursor, or the one that is there is set. */
    band: () => {
      const { cursor, chart } = now();
      const { row } = cursor;
      const isThere = chart.bands[row] !== undefined;
      if (isThere || dispatch(edit('put a band in', (c) => setBand(c, row, newBand(c, row)))))
        dispatch(bench.banded(row));
    },
    /** The selected columns become a rib. */
    rib: () => {
      const { block, hasSelection } = now();
      if (!hasSelection)
        return dispatch(bench.said({ text: 'Select the rope that is to be ribbed first.', tone: 'refused' }));
      return dispatch(edit('rib the selection', (c) => ribBlock(c, block)));
    },
    /** The selected columns, and where they are not all of its rows these too, become the repeat. */
    repeatSelection: () => {
      const { block } = now();
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
    /** The selected rows become the repeat up. */
    repeatRows: () => {
      const { block, hasSelection } = now();
      if (!hasSelection)
        return dispatch(bench.said({ text: 'Select the rows that repeat first.', tone: 'refused' }));
      return dispatch(
        edit('set the repeat up', (c) =>
          setUp(c, {
            setup: block.rows.from,
            closing: c.rows.length - 1 - block.rows.to,
            times: passesOf(c),
          }),
        ),
      );
    },
    /** The repeat of the row at the cursor begins so many stitches later; in the round, the round itself. */
    jog: (by: number) => {
      const { cursor } = now();
      dispatch(
        edit(by > 0 ? 'begin a row later' : 'begin a row earlier', (c) =>
          setJog(c, cursor.row, jogOf(c, cursor.row) + by),
        ),
      );
    },
    straighten: () => {
      const { cursor } = now();
      dispatch(edit('begin a row with the others', (c) => setJog(c, cursor.row, 0)));
    },
    symmetry: (mirror: Mirror | null) => dispatch(edit('line of symmetry', (c) => setMirror(c, mirror))),
    takeAcross: () => dispatch(edit('take the smallest repeat across', takeAcross)),
    takeUp: () => dispatch(edit('take the smallest repeat up', takeUp)),
  };
}
