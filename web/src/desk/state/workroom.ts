import type { Card } from '@cordelina/core';
import { createSelector, createSlice, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import { isWaiting, outbox, type AnyOutbox } from '../../sync/outbox.js';

/** The cards of the workroom, and the one last taken out, which can be put back. */
interface WorkroomState {
  cards: Card[];
  /** Away: the cards are those last listed, and what this browser has made since. */
  state: 'loading' | 'ready' | 'away';
  removed: { id: string; title: string } | null;
  message: string | null;
  /** Designs that were brought in last, all at once, and can be taken out so. */
  brought: string[];
  /** Designs that are not open here with edits that only this browser holds. */
  waiting: string[];
  /** Designs this browser keeps, which open without the server. */
  kept: string[];
  /** Designs whose cards are others than the server told last. */
  stale: string[];
  /** Counts when something may have happened unheard: the list is fetched again when it grows. */
  happened: number;
}

const initialState: WorkroomState = {
  cards: [],
  state: 'loading',
  removed: null,
  message: null,
  brought: [],
  waiting: [],
  kept: [],
  stale: [],
  happened: 0,
};

const slice = createSlice({
  name: 'workroom',
  initialState,
  reducers: {
    listed(state, { payload }: PayloadAction<{ cards: Card[]; state: 'ready' | 'away' }>) {
      state.cards = payload.cards as Draft<Card[]>;
      state.state = payload.state;
      state.stale = [];
    },
    /** One card as it is now, the newest first. */
    carded(state, { payload }: PayloadAction<Card>) {
      const others = state.cards.filter((c) => c.id !== payload.id);
      const at = others.findIndex((c) => c.savedAt < payload.savedAt);
      state.stale = state.stale.filter((id) => id !== payload.id);
      others.splice(at < 0 ? others.length : at, 0, payload as Draft<Card>);
      state.cards = others;
    },
    stale(state, { payload }: PayloadAction<string>) {
      if (!state.stale.includes(payload)) state.stale.push(payload);
    },
    gone(state, { payload }: PayloadAction<string>) {
      state.stale = state.stale.filter((id) => id !== payload);
      state.cards = state.cards.filter((c) => c.id !== payload);
    },
    heldHere(state, { payload }: PayloadAction<{ waiting: string[]; kept: string[] }>) {
      Object.assign(state, payload);
    },
    outdated(state) {
      state.happened++;
    },
    tookOut(state, { payload }: PayloadAction<{ id: string; title: string }>) {
      state.cards = state.cards.filter((c) => c.id !== payload.id);
      state.removed = payload;
    },
    putBack(state) {
      state.removed = null;
    },
    broughtIn(state, { payload }: PayloadAction<string[]>) {
      state.brought = payload;
      state.message = null;
    },
    told(state, { payload }: PayloadAction<string | null>) {
      state.message = payload;
    },
  },
  // An outbox is closed when nothing of it waits; what was read of the disk before may not know that yet.
  extraReducers: (built) =>
    built.addCase(outbox.closed, (state, { payload }) => {
      state.waiting = state.waiting.filter((id) => id !== payload.id);
    }),
});

/** Designs with edits that only this browser holds: of those open here as they are, of others as they were kept. */
export const waitingDesigns = createSelector(
  (s: { workroom: WorkroomState }) => s.workroom.waiting,
  (s: { outbox: Readonly<Record<string, AnyOutbox>> }) => s.outbox,
  (waiting, boxes) =>
    new Set([
      ...waiting.filter((id) => !boxes[id]),
      ...Object.values(boxes)
        .filter(isWaiting)
        .map(({ id }) => id),
    ]),
);

export const workroom = slice.actions;
export const workroomReducer = slice.reducer;
