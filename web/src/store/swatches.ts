import { SwatchSchema, type Swatch, type KeptSwatch } from '@cordelina/core';
import { createSlice, original, type PayloadAction } from '@reduxjs/toolkit';
import { z } from 'zod';
import { deleteSwatch, listSwatches, Refused, saveSwatch, ServerAway } from './api.js';
import type { AppDispatch, RootState } from './index.js';

/**
 * The swatch book as this browser knows it: the server's, with what the server has not had yet. That is kept here and
 * sent again; a swatch that is null was taken out.
 */
const UnsentSchema = z.record(z.uuid(), SwatchSchema.nullable()).catch({});
type Unsent = Readonly<Record<string, Swatch | null>>;

/** One thing that was done to the book. */
interface Done {
  label: string;
  was: Swatch | null;
  now: Swatch | null;
}

interface SwatchState {
  /** The newest first, with what was done here. */
  all: readonly KeptSwatch[];
  state: 'loading' | 'ready' | 'away';
  unsent: Unsent;
  done: readonly Done[];
  undone: readonly Done[];
  /** A sentence about the last thing that was done or could not be. */
  message: string | null;
}

const KEY = 'cordelina-swatches';
const MOST_DONE = 200;

function unsentBefore(): Unsent {
  try {
    return UnsentSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    return {};
  }
}

/** A list of swatches with one of them put in the place of what it was, put in as the newest, or taken out. */
function withSwatch(all: readonly KeptSwatch[], id: string, now: Swatch | null): readonly KeptSwatch[] {
  if (!now) return all.filter(({ swatch }) => swatch.id !== id);
  const i = all.findIndex(({ swatch }) => swatch.id === id);
  return i < 0
    ? [{ swatch: now, photoAt: null }, ...all]
    : all.with(i, { swatch: now, photoAt: all[i]!.photoAt });
}

const idOf = ({ was, now }: Done): string => (now ?? was)!.id;

const withUnsent = (all: readonly KeptSwatch[], unsent: Unsent): readonly KeptSwatch[] =>
  Object.entries(unsent).reduce((list, [id, swatch]) => withSwatch(list, id, swatch), all);

function changed(state: SwatchState, id: string, now: Swatch | null): SwatchState {
  return { ...state, all: withSwatch(state.all, id, now), unsent: { ...state.unsent, [id]: now } };
}

const slice = createSlice({
  name: 'swatches',
  initialState: (): SwatchState => {
    const unsent = unsentBefore();
    return { all: withUnsent([], unsent), state: 'loading', unsent, done: [], undone: [], message: null };
  },
  reducers: {
    did: (state, { payload }: PayloadAction<Done>): SwatchState => {
      const now = original(state) as SwatchState;
      return {
        ...changed(now, idOf(payload), payload.now),
        done: [...now.done, payload].slice(-MOST_DONE),
        undone: [],
        message: null,
      };
    },
    undid: (state): SwatchState => {
      const now = original(state) as SwatchState;
      const last = now.done.at(-1);
      if (!last) return now;
      return {
        ...changed(now, idOf(last), last.was),
        done: now.done.slice(0, -1),
        undone: [...now.undone, last],
        message: `Undone: ${last.label}`,
      };
    },
    redid: (state): SwatchState => {
      const now = original(state) as SwatchState;
      const next = now.undone.at(-1);
      if (!next) return now;
      return {
        ...changed(now, idOf(next), next.now),
        done: [...now.done, next],
        undone: now.undone.slice(0, -1),
        message: `Done again: ${next.label}`,
      };
    },
    /** What the server has now of what was sent; a later change of the same swatch is still to be sent. */
    sent: (
      state,
      { payload: { id, swatch } }: PayloadAction<{ id: string; swatch: Swatch | null }>,
    ): SwatchState => {
      const now = original(state) as SwatchState;
      if (now.unsent[id] !== swatch) return now;
      const { [id]: _, ...unsent } = now.unsent;
      return { ...now, unsent };
    },
    heard: (state, { payload }: PayloadAction<readonly KeptSwatch[]>): SwatchState => {
      const now = original(state) as SwatchState;
      return { ...now, all: withUnsent(payload, now.unsent), state: 'ready' };
    },
    away: (state) => {
      state.state = 'away';
    },
    photographed: (
      state,
      { payload: { id, photoAt } }: PayloadAction<{ id: string; photoAt: string | null }>,
    ): SwatchState => {
      const now = original(state) as SwatchState;
      return { ...now, all: now.all.map((k) => (k.swatch.id === id ? { ...k, photoAt } : k)) };
    },
    told: (state, { payload }: PayloadAction<string | null>) => {
      state.message = payload;
    },
  },
});

export const swatches = slice.actions;
export const swatchesReducer = slice.reducer;

/** Keeps what the server has not had; a browser that keeps nothing holds it until the page is left. */
export function keepUnsentSwatches({ unsent }: SwatchState): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(unsent));
  } catch {
    // It holds until the page is left.
  }
}

type Thunk = (dispatch: AppDispatch, getState: () => RootState) => Promise<void>;

/** Sends what the server has not had, and asks it for the book; while it is away what is known here holds. */
export const meetSwatches = (): Thunk => async (dispatch, getState) => {
  try {
    for (const [id, swatch] of Object.entries(getState().swatches.unsent)) {
      try {
        await (swatch ? saveSwatch(swatch) : deleteSwatch(id));
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        // What is taken out already is out; anything else refused would be refused again, and is said.
        if (swatch || error.status !== 404)
          dispatch(swatches.told(`The server does not take this swatch: ${error.message}`));
      }
      dispatch(swatches.sent({ id, swatch }));
    }
    dispatch(swatches.heard(await listSwatches()));
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error;
    dispatch(swatches.away());
  }
};

/** Does something to the book: here at once, and on the server when it can be reached. */
const and =
  (act: ReturnType<(typeof swatches)['did' | 'undid' | 'redid']>): Thunk =>
  async (dispatch) => {
    dispatch(act);
    await dispatch(meetSwatches());
  };

export const doToSwatch = (label: string, was: Swatch | null, now: Swatch | null): Thunk =>
  and(swatches.did({ label, was, now }));
export const undoSwatch = (): Thunk => and(swatches.undid());
export const redoSwatch = (): Thunk => and(swatches.redid());
