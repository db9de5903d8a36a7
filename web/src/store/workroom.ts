import { createSlice, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import type { Card } from './api.js';

/** The cards of the workroom, and the one last taken out, which can be put back. */
interface WorkroomState {
  cards: Card[];
  state: 'loading' | 'ready' | 'away';
  removed: { id: string; title: string } | null;
  message: string | null;
  /** Designs with edits that only this browser holds. */
  waiting: string[];
}

const initialState: WorkroomState = {
  cards: [],
  state: 'loading',
  removed: null,
  message: null,
  waiting: [],
};

const slice = createSlice({
  name: 'workroom',
  initialState,
  reducers: {
    listed(state, { payload }: PayloadAction<Card[]>) {
      state.cards = payload as Draft<Card[]>;
      state.state = 'ready';
    },
    heldHere(state, { payload }: PayloadAction<string[]>) {
      state.waiting = payload;
    },
    away(state) {
      state.state = 'away';
    },
    tookOut(state, { payload }: PayloadAction<{ id: string; title: string }>) {
      state.cards = state.cards.filter((c) => c.id !== payload.id);
      state.removed = payload;
    },
    putBack(state) {
      state.removed = null;
    },
    told(state, { payload }: PayloadAction<string | null>) {
      state.message = payload;
    },
  },
});

export const workroom = slice.actions;
export const workroomReducer = slice.reducer;
