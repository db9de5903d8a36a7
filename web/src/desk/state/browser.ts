import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Keeping } from '../../sync/keeping.js';

/** What this browser can do: keep things, and hear the server. */
const slice = createSlice({
  name: 'browser',
  initialState: { keeping: 'kept' as Keeping, newerPage: false },
  reducers: {
    keeps(state, { payload }: PayloadAction<Keeping>) {
      state.keeping = payload;
    },
    /** A newer page lies ready; it is shown after a reload. */
    newerPage(state) {
      state.newerPage = true;
    },
  },
});

export const browser = slice.actions;
export const browserReducer = slice.reducer;
