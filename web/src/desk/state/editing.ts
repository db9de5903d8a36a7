import {
  bookOf,
  bothCount,
  carryUp,
  changeOf,
  headChange,
  mirrorAlong,
  onOtherSide,
  pieceSteps,
  rowFacts,
  sameStitch,
  stepsBetween,
  seenBehind,
  type Change,
  type Chart,
  type Design,
  type Edit,
  type Piece,
  type Step,
} from '@cordelina/core';
import { isRefusal, make as makeIt, redoIn, undoIn } from '../../sync/history.js';
import { newId } from '../../sync/newId.js';
import { boxOf, type Outbox } from '../../sync/outbox.js';
import { bench, cellBehind, chartIn, type Cell, type Run } from './bench.js';
import { followsIn } from './habits.js';
import type { AppDispatch, RootState } from './index.js';

type Thunk<T> = (dispatch: AppDispatch, getState: () => RootState) => T;

/** The design on the bench, with its outbox; null while none is open. */
export const onBench = ({
  bench: { id },
  outbox: boxes,
}: Pick<RootState, 'bench' | 'outbox'>): Outbox | null => boxOf(boxes, 'design', id) ?? null;

type OnBench = Pick<RootState, 'bench' | 'outbox'>;

/** The chart on the bench as the design has it; null while no design is open. */
export function ownChart(state: OnBench): Chart | null {
  const box = onBench(state);
  return box && chartIn(box.document, state.bench.chart);
}

/** Whether the chart on the bench is looked at from its other side. */
export function isSeenBehind(state: OnBench): boolean {
  const chart = ownChart(state);
  return state.bench.isBehind && chart !== null && bothCount(chart);
}

/** The chart on the bench as it is looked at: its own side, or the other where both count; null while no design is open. */
export function chartOnBench(state: OnBench): Chart | null {
  const chart = ownChart(state);
  return chart && isSeenBehind(state) ? seenBehind(chart) : chart;
}

/** Puts the cursor on a cell of the chart as the design has it, whichever side is looked at. */
export const goTo =
  (cell: Cell): Thunk<void> =>
  (dispatch, getState) => {
    const { width } = getState().bench.size;
    dispatch(bench.moved({ cell: isSeenBehind(getState()) ? cellBehind(cell, width) : cell }));
  };

/** Makes a change of the design on the bench. Those of one stroke are undone as one. */
export function make(change: Change, stroke?: number): Thunk<boolean> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    const made = box !== null && dispatch(makeIn(box, change, stroke));
    if (made) dispatch(bench.said(null));
    return made;
  };
}

/** Makes a change of a design, wherever it lies; one that does not fit is said and changes nothing. */
export function makeIn(box: Outbox, change: Change, stroke?: number): Thunk<boolean> {
  return (dispatch) => {
    try {
      dispatch(makeIt(box, change, stroke));
      return true;
    } catch (error) {
      if (!isRefusal(error)) throw error;
      dispatch(bench.said({ text: `That could not be done: ${error.message}`, tone: 'refused' }));
      return false;
    }
  };
}

/** Makes an edit of the chart as it is looked at; what cannot be done is said and changes nothing. */
export const edit =
  (label: string, change: (chart: Chart) => Edit, stroke?: number): Thunk<boolean> =>
  (dispatch, getState) =>
    dispatch(editOwn(label, isSeenBehind(getState()) ? onOtherSide(change) : change, stroke));

/** The same of the chart as the design has it, whichever side is looked at. */
export function editOwn(label: string, change: (chart: Chart) => Edit, stroke?: number): Thunk<boolean> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    if (!box) return false;
    try {
      const made = changeOf(change(chartIn(box.document, getState().bench.chart)), label, newId());
      return made ? dispatch(make(made, stroke)) : true;
    } catch (error) {
      if (!isRefusal(error)) throw error;
      dispatch(bench.said({ text: error.message, tone: 'refused' }));
      return false;
    }
  };
}

/** The cells in which two states of a chart differ, row by row; none where they have not the same shape. */
export function changedCells(was: Chart, now: Chart): Run[] {
  if (was.rows.length !== now.rows.length || was.width !== now.width) return [];
  return now.rows.flatMap((row, r): Run[] => {
    if (row === was.rows[r]) return [];
    const { starts } = rowFacts(row, bookOf(now));
    const runs: Run[] = [];
    row.forEach((stitch, i) => {
      if (sameStitch(stitch, was.rows[r]![i] ?? '')) return;
      const [last, column] = [runs.at(-1), starts[i]!];
      if (last?.to === column - 1) last.to = column;
      else runs.push({ row: r, from: column, to: column });
    });
    return runs;
  });
}

/**
 * Works stitches: an edit of cells, with its image on the other side of the chart's line of symmetry, and faces
 * carried up, all as one change. `alone` leaves it at the edit itself.
 */
export function work(
  label: string,
  change: (chart: Chart) => Edit,
  { stroke, alone = false }: { stroke?: number; alone?: boolean } = {},
): Thunk<boolean> {
  return (dispatch, getState) => {
    const { habits, bench: at } = getState();
    const carries = followsIn(habits, at.id) && !alone;
    let followed: Run[] = [];
    const done = dispatch(
      edit(
        label,
        (chart) => {
          const set = alone ? change(chart) : mirrorAlong(change(chart), chart.mirror);
          if (!carries) return set;
          const carried = carryUp(chart, set);
          followed = changedCells(set.chart, carried.chart);
          return carried;
        },
        stroke,
      ),
    );
    if (done) dispatch(bench.followed(followed));
    return done;
  };
}

/** Changes the title, notes, settings, sheet or piece. */
export function editHead(
  label: string,
  patch: Partial<Pick<Design, 'title' | 'notes' | 'settings' | 'sheet' | 'piece'>>,
): Thunk<void> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    const change = box && headChange(box.document, patch, label, newId());
    if (change) dispatch(make(change));
  };
}

/** Makes steps of the design on the bench one change; what cannot be done is said and changes nothing. */
export function editDesign(label: string, change: (design: Design) => readonly Step[]): Thunk<boolean> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    if (!box) return false;
    try {
      const steps = change(box.document);
      return !steps.length || dispatch(make({ id: newId(), label, steps }));
    } catch (error) {
      if (!isRefusal(error)) throw error;
      dispatch(bench.said({ text: error.message, tone: 'refused' }));
      return false;
    }
  };
}

/** Edits the piece of the design on the bench; null is a design that has none. */
export const editPiece = (
  label: string,
  change: (piece: Piece | null, design: Design) => Piece | null,
): Thunk<boolean> => editDesign(label, (design) => pieceSteps(design.piece, change(design.piece, design)));

/** Takes back an earlier state of the design, as a change like any other. */
export function takeBack(earlier: Design, label: string): Thunk<boolean> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    const steps = box ? stepsBetween(box.document, earlier) : [];
    return steps.length > 0 && dispatch(make({ id: newId(), label, steps }));
  };
}

/** Takes the last change of the design on the bench back, as a change of its own. */
export function undo(): Thunk<void> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    const said = box && dispatch(undoIn([box]));
    if (said) dispatch(bench.said(said));
  };
}

export function redo(): Thunk<void> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    const said = box && dispatch(redoIn([box]));
    if (said) dispatch(bench.said(said));
  };
}
