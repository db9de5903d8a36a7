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
  type Chart,
  type Crossing,
  type Row,
  type Stitch,
} from '@cordelina/core';
import { useCallback, useRef, useState, type KeyboardEvent } from 'react';
import { bench, selectionOf, type Cell } from '../store/bench.js';
import { edit, onBench, redo, undo } from '../store/editing.js';
import { store, useAppDispatch } from '../store/index.js';
import { readEntry } from './entry.js';

/** What was last copied; shared by all charts of this page. */
let clipboard: readonly Row[] | null = null;

const PAGE = 10;
const MOVES: Record<string, (c: Cell, chart: Chart) => Cell> = {
  ArrowUp: (c) => ({ ...c, row: c.row + 1 }),
  ArrowDown: (c) => ({ ...c, row: c.row - 1 }),
  ArrowLeft: (c) => ({ ...c, column: c.column + 1 }),
  ArrowRight: (c) => ({ ...c, column: c.column - 1 }),
  PageUp: (c) => ({ ...c, row: c.row + PAGE }),
  PageDown: (c) => ({ ...c, row: c.row - PAGE }),
  Home: (c) => ({ ...c, column: 0 }),
  End: (c, chart) => ({ ...c, column: chart.width - 1 }),
};

/** The commands of the chart: the same for keys, buttons and menus. */
export function useChartCommands() {
  const dispatch = useAppDispatch();
  const now = useCallback(() => {
    const state = store.getState().bench;
    return {
      chart: onBench(store.getState())!.document.charts[0]!,
      cursor: state.cursor,
      block: selectionOf(state),
      hasSelection: !!state.anchor,
    };
  }, []);

  /** Puts stitches at the cursor and moves on past them; at the end of the row, to the row above. */
  const place = useCallback(
    (stitches: readonly Stitch[], label: string) => {
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
    },
    [dispatch, now],
  );

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

export type ChartCommands = ReturnType<typeof useChartCommands>;

const CONTROL: Record<string, keyof ChartCommands> = {
  z: 'undo',
  y: 'redo',
  c: 'copy',
  x: 'cut',
  v: 'paste',
  a: 'selectAll',
};
/** Single keys; only while nothing is being typed. */
const LETTERS: Record<string, 'mirror' | 'repeatSelection' | 'flip' | 'turn' | 'slip' | 'grab'> = {
  m: 'mirror',
  r: 'repeatSelection',
  o: 'flip',
  l: 'turn',
  s: 'slip',
  g: 'grab',
};
const ALT: Record<string, keyof ChartCommands> = {
  ArrowUp: 'insertRow',
  ArrowDown: 'deleteRow',
  ArrowLeft: 'insertColumn',
  ArrowRight: 'deleteColumn',
};

/** Keys of the chart. `inReach` are the stitches the digits set; `onZoom`, `onHelp` and `onSearch` belong to the page. */
export function useChartKeys(
  commands: ChartCommands,
  inReach: readonly Stitch[],
  onZoom: (by: number) => void,
  onHelp: () => void,
  onSearch: () => void,
) {
  const dispatch = useAppDispatch();
  const [typed, setTyped] = useState('');
  const typedNow = useRef('');
  const type = (text: string) => {
    typedNow.current = text;
    setTyped(text);
  };

  const take = (text: string, ended: boolean): void => {
    const design = onBench(store.getState())?.document;
    if (!design) return;
    if (ended && /^\d{1,2}$/.test(text)) {
      type('');
      const stitch = inReach[Number(text) - 1];
      if (stitch) commands.fill(stitch);
      else dispatch(bench.said({ text: `Nothing lies in reach under ${text}.`, tone: 'refused' }));
      return;
    }
    const entry = readEntry(text, design.settings.school, ended);
    if (entry.kind === 'more') return type(text);
    type('');
    if (entry.kind === 'refused') dispatch(bench.said({ text: entry.message, tone: 'refused' }));
    else if (entry.stitches.length === 1 && store.getState().bench.anchor) commands.fill(entry.stitches[0]!);
    else commands.place(entry.stitches, 'work a run');
  };

  const onKeyDown = (e: KeyboardEvent) => {
    const { cursor, hand } = store.getState().bench;
    const design = onBench(store.getState())?.document;
    if (!design) return;
    const chart = design.charts[0]!;
    const control = e.ctrlKey || e.metaKey;
    const named = control
      ? e.shiftKey && e.key.toLowerCase() === 'z'
        ? 'redo'
        : CONTROL[e.key.toLowerCase()]
      : e.altKey
        ? ALT[e.key]
        : undefined;
    const move = MOVES[e.key];
    let handled = true;
    if (named) (commands[named] as () => unknown)();
    else if (control || e.altKey) handled = false;
    else if (move) {
      type('');
      dispatch(bench.moved({ cell: move(cursor, chart), extend: e.shiftKey }));
    } else if (e.key === 'Enter') {
      if (typedNow.current) take(typedNow.current, true);
      else if (hand) commands.fill(hand);
    } else if (e.key === 'Escape') {
      if (typedNow.current) type('');
      else if (store.getState().bench.anchor) dispatch(bench.moved({ cell: cursor }));
      else dispatch(bench.tookUp(null));
    } else if (e.key === 'Backspace' && typedNow.current) type(typedNow.current.slice(0, -1));
    else if (e.key === 'Delete' || e.key === 'Backspace') commands.clear();
    else if (e.key === '?') onHelp();
    else if (!typedNow.current && (e.key === '+' || e.key === '=')) onZoom(2);
    else if (!typedNow.current && e.key === '-') onZoom(-2);
    else if (!typedNow.current && LETTERS[e.key.toLowerCase()]) commands[LETTERS[e.key.toLowerCase()]!]();
    else if (!typedNow.current && e.key === '/') onSearch();
    else if (/^[\da-z/]$/i.test(e.key)) take(typedNow.current + e.key, false);
    else handled = false;
    if (handled) e.preventDefault();
  };

  return { typed, onKeyDown };
}
