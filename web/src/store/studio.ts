import { StudioPatchSchema, StudioSchema, withPatch, type Studio, type StudioPatch } from '@cordelina/core';
import { createSlice, original, type PayloadAction } from '@reduxjs/toolkit';
import { z } from 'zod';
import { fetchStudio, Refused, sendStudio, ServerAway } from './api.js';
import type { AppDispatch, RootState } from './index.js';

/**
 * What belongs to the studio, as this browser knows it: it is the server's, and what the server has not had yet is
 * kept here and sent again.
 */
const KeptSchema = z.object({
  studio: StudioSchema.prefault({}),
  unsent: StudioPatchSchema.prefault({}),
});
type Kept = z.infer<typeof KeptSchema>;

const KEY = 'cordelina-studio';

function remembered(): Kept {
  try {
    return KeptSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    return KeptSchema.parse({});
  }
}

const joined = (a: StudioPatch, b: StudioPatch): StudioPatch => ({
  ...a,
  ...b,
  ...(a.answers || b.answers ? { answers: { ...a.answers, ...b.answers } } : {}),
  ...(a.motifs || b.motifs ? { motifs: { ...a.motifs, ...b.motifs } } : {}),
});

const slice = createSlice({
  name: 'studio',
  initialState: remembered,
  reducers: {
    changed: (state, { payload }: PayloadAction<StudioPatch>): Kept => {
      const { studio, unsent } = original(state);
      return { studio: withPatch(studio, payload), unsent: joined(unsent, payload) };
    },
    /** What the server says, with what it has not had yet; `sent` is what it has now. */
    heard: (state, { payload }: PayloadAction<{ studio: Studio; sent: StudioPatch | null }>): Kept => {
      const { unsent } = original(state);
      const left = payload.sent === unsent ? {} : unsent;
      return { studio: withPatch(payload.studio, left), unsent: left };
    },
  },
});

const { changed, heard } = slice.actions;
export const studioReducer = slice.reducer;

/** Keeps the studio as it changes; a browser that keeps nothing asks the server anew next time. */
export function keepStudio(now: Kept): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(now));
  } catch {
    // It holds until the page is left.
  }
}

type Thunk = (dispatch: AppDispatch, getState: () => RootState) => Promise<void>;

/** Asks the server for the studio, and sends what it has not had; while it is away what is known here holds. */
export const meetStudio = (): Thunk => async (dispatch, getState) => {
  const { unsent } = getState().studio;
  const hasNews = Object.keys(unsent).length > 0;
  try {
    const studio = await (hasNews ? sendStudio(unsent) : fetchStudio());
    dispatch(heard({ studio, sent: hasNews ? unsent : null }));
  } catch (error) {
    // What is refused would be refused again: the server's own word holds.
    if (error instanceof Refused) dispatch(heard({ studio: await fetchStudio(), sent: unsent }));
    else if (!(error instanceof ServerAway)) throw error;
  }
};

/** Changes the studio: here at once, and on the server when it can be reached. */
export const changeStudio =
  (patch: StudioPatch): Thunk =>
  async (dispatch) => {
    dispatch(changed(patch));
    await dispatch(meetStudio());
  };
