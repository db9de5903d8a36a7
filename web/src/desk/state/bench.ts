import type { Block, Chart, Design, Stitch } from '@cordelina/core';
import { createSlice, isAnyOf, original, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import { outbox } from '../../sync/outbox.js';

/** A cell by row and column, from 0, bottom and right. */
export interface Cell {
  row: number;
  column: number;
}

/** Cells of a row, both columns included. */
export interface Run {
  row: number;
  from: number;
  to: number;
}

/** Which design lies on the bench, and where the hands are. What becomes of the design is the outbox's. */
export interface BenchState {
  id: string | null;
  /** Which of its charts; null for the first. */
  chart: string | null;
  /** Whether it is looked at from its other side, where both count: places are those of the side that is seen. */
  isBehind: boolean;
  cursor: Cell;
  /** The other corner of the selection; null when nothing is selected. */
  anchor: Cell | null;
  /** The stitch in hand: what a click or Enter sets. Null to point and select. */
  hand: Stitch | null;
  /** Whether the hand draws a rope: it is carried where the pointer goes. */
  roping: boolean;
  /** A sentence about the last thing asked for, when it could not be done or wants saying. */
  message: { text: string; tone: 'said' | 'refused' } | null;
  /** Cells that have just followed an edit below them: they are shown for a moment. */
  followed: readonly Run[];
  /** How far the words of the row that is being written come on its needle. */
  writing: { row: number; waiting: number; taken: number } | null;
  /** The row whose band is being set; null where none is. */
  band: number | null;
  /** How many findings of the chart are to be seen to. */
  toSee: number;
  /** Why the design could not be opened. */
  failure: string | null;
  /** The size of its chart, which the cursor stays on. */
  size: { width: number; height: number };
}

const initial: BenchState = {
  id: null,
  chart: null,
  isBehind: false,
  cursor: { row: 0, column: 0 },
  anchor: null,
  hand: null,
  roping: false,
  message: null,
  followed: [],
  writing: null,
  band: null,
  toSee: 0,
  failure: null,
  size: { width: 1, height: 1 },
};

/** The chart of a design that is on the bench: the one of this id, or else the first. */
export const chartIn = ({ charts }: Design, id: string | null): Chart =>
  charts.find((c) => c.id === id) ?? charts[0]!;

const sizeOf = ({ width, rows }: Chart): BenchState['size'] => ({ width, height: rows.length });

/** A cell of a chart so wide, as it is counted from the other side. */
export const cellBehind = ({ row, column }: Cell, width: number): Cell => ({
  row,
  column: width - 1 - column,
});

const clamp = (n: number, most: number) => Math.max(0, Math.min(n, most));

function within(cell: Cell, { width, height }: BenchState['size']): Cell {
  return { row: clamp(cell.row, height - 1), column: clamp(cell.column, width - 1) };
}

const slice = createSlice({
  name: 'bench',
  initialState: initial,
  reducers: {
    /** The bench is cleared for a design that is being opened. */
    cleared: (_state, { payload: { id, design } }: PayloadAction<{ id: string | null; design?: Design }>) =>
      ({ ...initial, id, size: design ? sizeOf(chartIn(design, null)) : initial.size }) as Draft<BenchState>,
    failed(state, { payload }: PayloadAction<{ id: string; message: string }>) {
      if (state.id === payload.id) state.failure = payload.message;
    },
    moved(state, { payload }: PayloadAction<{ cell: Cell; extend?: boolean }>) {
      const { size, cursor, anchor } = original(state);
      state.anchor = payload.extend ? (anchor ?? cursor) : null;
      state.cursor = within(payload.cell, size);
    },
    /** To another row, in the same column. */
    wentTo(state, { payload: row }: PayloadAction<number>) {
      const { size, cursor } = original(state);
      state.anchor = null;
      state.cursor = within({ ...cursor, row }, size);
    },
    selected(state, { payload }: PayloadAction<{ anchor: Cell; cursor: Cell }>) {
      const { size } = original(state);
      state.anchor = within(payload.anchor, size);
      state.cursor = within(payload.cursor, size);
    },
    tookUp(state, { payload }: PayloadAction<Stitch | null>) {
      state.hand = payload as Draft<Stitch> | null;
      state.roping = false;
    },
    ropes(state, { payload }: PayloadAction<boolean>) {
      state.roping = payload;
      if (payload) state.hand = null;
    },
    said(state, { payload }: PayloadAction<BenchState['message']>) {
      state.message = payload;
    },
    followed(state, { payload }: PayloadAction<readonly Run[]>) {
      state.followed = payload as Run[];
    },
    counted(state, { payload }: PayloadAction<number>) {
      state.toSee = payload;
    },
    wrote(state, { payload }: PayloadAction<BenchState['writing']>) {
      state.writing = payload;
    },
    /** The band before a row is set, or (null) no longer. */
    banded(state, { payload }: PayloadAction<number | null>) {
      state.band = payload;
    },
    /** The cloth is turned over, or laid with its first side up: the cursor stays on its stitch. */
    turnedOver(state, { payload: isBehind }: PayloadAction<boolean>) {
      if (isBehind === state.isBehind) return;
      const { size, cursor, anchor } = original(state);
      state.isBehind = isBehind;
      state.cursor = cellBehind(cursor, size.width);
      state.anchor = anchor && cellBehind(anchor, size.width);
      state.followed = [];
    },
    /** Another chart of the design is laid on the bench. */
    turnedTo(state, { payload }: PayloadAction<{ chart: Chart }>) {
      state.chart = payload.chart.id;
      state.size = sizeOf(payload.chart);
      state.isBehind = false;
      state.cursor = { row: 0, column: 0 };
      state.anchor = null;
      state.message = null;
      state.followed = [];
      state.writing = null;
      state.band = null;
    },
  },
  extraReducers: (builder) =>
    builder.addMatcher(isAnyOf(outbox.opened, outbox.changed, outbox.joined), (state, { payload }) => {
      const now = original(state);
      if (now.id !== payload.id || !('charts' in payload.document)) return;
      state.size = sizeOf(chartIn(payload.document, now.chart));
      if (now.band !== null && !chartIn(payload.document, now.chart).bands[now.band]) state.band = null;
      state.cursor = within(now.cursor, state.size);
      state.anchor = now.anchor && within(now.anchor, state.size);
    }),
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
