import {
  applyChange,
  invertSteps,
  mergeSteps,
  type Block,
  type Change,
  type Chart,
  type Design,
  type Stitch,
  StepMisfit,
} from '@cordelina/core';
import { createSlice, original, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import { newId } from './newId.js';

/** A cell by row and column, from 0, bottom and right. */
export interface Cell {
  row: number;
  column: number;
}

export type SaveState =
  | { kind: 'saved'; at: string }
  | { kind: 'waiting' }
  | { kind: 'saving' }
  | { kind: 'away' }
  | { kind: 'refused'; message: string }
  | { kind: 'conflict' };

/** A change as it is undone; what one stroke of the mouse did is one. */
export interface Done extends Change {
  stroke?: number;
}

/** The design that lies on the bench, what was done to it, and where the hands are. */
export interface BenchState {
  design: Design | null;
  /** The server's version the document grew from. */
  base: number;
  done: Done[];
  undone: Done[];
  /** Changes the server has not acknowledged, oldest first. */
  unsaved: Change[];
  save: SaveState;
  cursor: Cell;
  /** The other corner of the selection; null when nothing is selected. */
  anchor: Cell | null;
  /** The stitch in hand: what a click or Enter sets. Null to point and select. */
  hand: Stitch | null;
  /** A sentence about the last thing asked for, when it could not be done or wants saying. */
  message: { text: string; tone: 'said' | 'refused' } | null;
  /** Why the design could not be opened. */
  failure: string | null;
}

/** A design joined with what was saved from elsewhere: everything that was made for the old document, mapped. */
export type Joined = Pick<BenchState, 'base' | 'unsaved' | 'done' | 'undone'> & { design: Design };

const MOST_UNDO = 500;

const initial: BenchState = {
  design: null,
  base: 0,
  done: [],
  undone: [],
  unsaved: [],
  save: { kind: 'waiting' },
  cursor: { row: 0, column: 0 },
  anchor: null,
  hand: null,
  message: null,
  failure: null,
};

const clamp = (n: number, most: number) => Math.max(0, Math.min(n, most));

function within(cell: Cell, chart: Chart): Cell {
  return { row: clamp(cell.row, chart.rows.length - 1), column: clamp(cell.column, chart.width - 1) };
}

/** Applies a change and keeps the cursor on the chart. Core documents are replaced, never drafted. */
function take(state: Draft<BenchState>, change: Change): boolean {
  const now = original(state)!;
  if (!now.design) return false;
  let design: Design;
  try {
    design = applyChange(now.design, change);
  } catch (error) {
    if (!(error instanceof StepMisfit)) throw error;
    state.message = { text: `That could not be done: ${error.message}`, tone: 'refused' };
    return false;
  }
  state.design = design as Draft<Design>;
  state.unsaved = [...now.unsaved, change] as Draft<Change[]>;
  if (now.save.kind !== 'conflict') state.save = { kind: 'waiting' };
  const chart = design.charts[0]!;
  state.cursor = within(now.cursor, chart);
  state.anchor = now.anchor && within(now.anchor, chart);
  return true;
}

const slice = createSlice({
  name: 'bench',
  initialState: initial,
  reducers: {
    laid: (
      _state,
      { payload }: PayloadAction<{ design: Design; base: number; unsaved: Change[]; save: SaveState }>,
    ) => ({ ...initial, ...payload }) as Draft<BenchState>,
    cleared: () => initial as Draft<BenchState>,
    failed: (_state, { payload }: PayloadAction<string>) =>
      ({ ...initial, failure: payload }) as Draft<BenchState>,
    edited(state, { payload: change }: PayloadAction<Done>) {
      const { done } = original(state)!;
      if (!take(state, { id: change.id, label: change.label, steps: change.steps })) return;
      const last = done.at(-1);
      const goesOn = last !== undefined && change.stroke !== undefined && last.stroke === change.stroke;
      const joined = goesOn ? { ...last, steps: mergeSteps([...last.steps, ...change.steps]) } : change;
      state.done = [...done.slice(goesOn ? 0 : -MOST_UNDO + 1, goesOn ? -1 : undefined), joined] as Draft<
        Done[]
      >;
      state.undone = [];
      state.message = null;
    },
    /** The last change taken back, as a change of its own: it brings an id. */
    undone: {
      prepare: () => ({ payload: newId() }),
      reducer(state, { payload: id }: PayloadAction<string>) {
        const { done, undone } = original(state)!;
        const last = done.at(-1);
        if (!last || !take(state, { id, label: last.label, steps: invertSteps(last.steps) })) return;
        state.done = done.slice(0, -1) as Draft<Done[]>;
        state.undone = [...undone, last] as Draft<Done[]>;
        state.message = { text: `Undone: ${last.label}`, tone: 'said' };
      },
    },
    redone: {
      prepare: () => ({ payload: newId() }),
      reducer(state, { payload: id }: PayloadAction<string>) {
        const { done, undone } = original(state)!;
        const next = undone.at(-1);
        if (!next || !take(state, { ...next, id })) return;
        state.done = [...done, next] as Draft<Done[]>;
        state.undone = undone.slice(0, -1) as Draft<Done[]>;
        state.message = { text: `Done again: ${next.label}`, tone: 'said' };
      },
    },
    saving(state) {
      state.save = { kind: 'saving' };
    },
    /** The server has acknowledged the oldest `count` changes. */
    saved(state, { payload }: PayloadAction<{ id: string; version: number; at: string; count: number }>) {
      if (original(state)!.design?.id !== payload.id) return;
      state.base = payload.version;
      state.unsaved.splice(0, payload.count);
      state.save = state.unsaved.length ? { kind: 'waiting' } : { kind: 'saved', at: payload.at };
    },
    saveFailed(state, { payload }: PayloadAction<{ id: string; save: SaveState }>) {
      if (original(state)!.design?.id === payload.id) state.save = payload.save;
    },
    /** Work saved from elsewhere joined in: the document, what is unsaved, and what undo and redo would do. */
    rebased(state, { payload: { at, ...payload } }: PayloadAction<Joined & { at: string }>) {
      if (original(state)!.design?.id !== payload.design.id) return;
      Object.assign(state, payload);
      // What both did alike is saved already.
      state.save = payload.unsaved.length ? { kind: 'waiting' } : { kind: 'saved', at };
      state.cursor = within(original(state)!.cursor, payload.design.charts[0]!);
      state.anchor = null;
      state.message = { text: 'Joined with changes saved from elsewhere.', tone: 'said' };
    },
    moved(state, { payload }: PayloadAction<{ cell: Cell; extend?: boolean }>) {
      const { design, cursor, anchor } = original(state)!;
      if (!design) return;
      state.anchor = payload.extend ? (anchor ?? cursor) : null;
      state.cursor = within(payload.cell, design.charts[0]!);
    },
    selected(state, { payload }: PayloadAction<{ anchor: Cell; cursor: Cell }>) {
      const { design } = original(state)!;
      if (!design) return;
      state.anchor = within(payload.anchor, design.charts[0]!);
      state.cursor = within(payload.cursor, design.charts[0]!);
    },
    tookUp(state, { payload }: PayloadAction<Stitch | null>) {
      state.hand = payload as Draft<Stitch> | null;
    },
    said(state, { payload }: PayloadAction<BenchState['message']>) {
      state.message = payload;
    },
  },
});

export const bench = slice.actions;
export const benchReducer = slice.reducer;

/** The selected block, or the cursor's cell when nothing is selected. */
export function selectionOf({ cursor, anchor }: Pick<BenchState, 'cursor' | 'anchor'>): Block {
  const other = anchor ?? cursor;
  return {
    columns: { from: Math.min(cursor.column, other.column), to: Math.max(cursor.column, other.column) },
    rows: { from: Math.min(cursor.row, other.row), to: Math.max(cursor.row, other.row) },
  };
}
