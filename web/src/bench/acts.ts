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
  jogOf,
  leastOf,
  mirrorBlock,
  mirrorCrossing,
  mirrorStitch,
  MOTIF_LIMITS,
  motifFrom,
  ownIn,
  passesOf,
  pasteFrom,
  placeStitches,
  presentingRow,
  presentsBelow,
  rowFacts,
  setAcross,
  setJog,
  setMirror,
  setUp,
  sideOf,
  slipBelow,
  spanOfAll,
  takeAcross,
  takeUp,
  andThen,
  timesOf,
  turnCrossing,
  unchanged,
  unworkStitch,
  workRun,
  type Block,
  type Chart,
  type Crossing,
  type Mirror,
  type Row,
  type Stitch,
} from '@cordelina/core';
import { useMemo } from 'react';
import { bench, selectionOf } from '../desk/state/bench.js';
import { chartOnBench, edit, redo, undo, work } from '../desk/state/editing.js';
import { followsIn } from '../desk/state/habits.js';
import { store, useAppDispatch, type AppDispatch } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';
import { changeStudio, studioIn, withOne } from '../desk/state/studio.js';

/** What was last copied, with the stitches of her own it uses; shared by all charts of this page. */
let clipboard: { rows: readonly Row[]; own: Chart['own'] } | null = null;

/** What was set in one row, one entry after the other, so that it can be set again in another. */
interface RowEntry {
  chart: string | null;
  row: number;
  parts: { column: number; stitches: readonly Stitch[] }[];
}

const copied = (chart: Chart, block: Block): NonNullable<typeof clipboard> => {
  const rows = copyBlock(chart, block);
  return { rows, own: ownIn(rows, chart.own) };
};

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
      skips: store.getState().habits.skips,
      block: selectionOf(state),
      hasSelection: !!state.anchor,
    };
  };

  /** The row to go to at the end of one: in flat work past wrong-side rows that only present, if that is wished. */
  const rowAfter = (row: number): number => {
    const { chart, skips } = now();
    let next = row + 1;
    while (
      skips &&
      next < chart.rows.length - 1 &&
      sideOf(chart, next) === 'WS' &&
      presentsBelow(chart, next)
    )
      next++;
    return next;
  };

  /** Moves on past so many columns; at the end of the row, to the next one. */
  const goOn = (columns: number) => {
    const { chart, cursor } = now();
    const next = cursor.column + columns;
    const atEnd = next >= chart.width && cursor.row < chart.rows.length - 1;
    dispatch(
      bench.moved({ cell: atEnd ? { row: rowAfter(cursor.row), column: 0 } : { ...cursor, column: next } }),
    );
  };

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
    goOn(spanOfAll(stitches, bookOf(now().chart)));
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

  /** Puts another crossing in the place of the one at the cursor; without one, of the one in hand. */
  const recross = (label: string, change: (c: Crossing) => Crossing) => {
    const { cursor, chart } = now();
    const { hand } = store.getState().bench;
    const here = chart.rows[cursor.row]!;
    const under = here[indexAt(here, cursor.column, bookOf(chart))];
    if (hand && isCrossing(hand) && !(under && isCrossing(under)))
      return dispatch(bench.tookUp(change(hand)));
    return dispatch(
      work(label, (c) => {
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
    leave: goOn,
    again: () => again(false),
    againMirrored: () => again(true),
    fill: (stitch: Stitch, alone = false) => {
      const { block, hasSelection } = now();
      if (hasSelection) {
        if (!dispatch(work('fill', (c) => fillCounted(c, block, stitch), { alone }))) return;
        // The hand goes on beside what was filled, in its lowest row.
        dispatch(bench.moved({ cell: { row: block.rows.from, column: block.columns.from } }));
        goOn(block.columns.to - block.columns.from + 1);
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
    flip: () => recross('swap over and under', flipCrossing),
    turn: () => recross('turn the lean', turnCrossing),
    slip: () => {
      const { cursor } = now();
      dispatch(edit('slip the rope below', (c) => slipBelow(c, cursor.row, cursor.column)));
    },
    copy: () => {
      const { chart, block } = now();
      const isCopied = dispatch(
        edit('copy', (c) => {
          clipboard = copied(chart, block);
          return unchanged(c);
        }),
      );
      if (!isCopied) return;
      const [w, h] = [block.columns.to - block.columns.from + 1, block.rows.to - block.rows.from + 1];
      dispatch(bench.said({ text: `Copied ${w} × ${h}.`, tone: 'said' }));
    },
    cut: () => {
      const { chart, block } = now();
      dispatch(
        work('cut', (c) => {
          clipboard = copied(chart, block);
          return fillCounted(c, block, c.ground);
        }),
      );
    },
    paste: () => {
      const held = clipboard;
      const { block } = now();
      if (!held) return dispatch(bench.said({ text: 'Nothing has been copied yet.', tone: 'refused' }));
      return dispatch(
        work('paste', (c) => pasteFrom(c, block.rows.from, block.columns.from, held.rows, held.own)),
      );
    },
    mirror: () => {
      const { block, hasSelection } = now();
      if (hasSelection) dispatch(work('mirror', (c) => mirrorBlock(c, block), { alone: true }));
      else recross('mirror the crossing', mirrorCrossing);
    },
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
    hasSelection: () => now().hasSelection,
    /** Keeps the selection on the motif shelf, under a name. */
    keepMotif: (name: string) => {
      const { chart, block } = now();
      try {
        const motif = motifFrom(chart, block, name);
        if (Object.keys(studioIn(store.getState()).motifs).length >= MOTIF_LIMITS.motifs)
          throw new EditError(
            `The shelf holds ${MOTIF_LIMITS.motifs} motifs of your own. Take one off it first.`,
          );
        void dispatch(
          changeStudio(`motif ${motif.name}`, (studio) => ({
            ...studio,
            motifs: withOne(studio.motifs, newId(), motif),
          })),
        );
        dispatch(bench.said({ text: `“${motif.name}” stands on the motif shelf.`, tone: 'said' }));
      } catch (error) {
        if (!(error instanceof EditError)) throw error;
        dispatch(bench.said({ text: error.message, tone: 'refused' }));
      }
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
