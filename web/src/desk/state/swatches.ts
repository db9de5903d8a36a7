import { SWATCH, type KeptSwatch, type Swatch } from '@cordelina/core';
import { createSelector, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { boxesOf, isRefusal, make, nextIn, redoIn, undoIn, type Said } from '../../sync/history.js';
import { forget, keepList, keptSwatches } from '../../sync/keeping.js';
import { newId } from '../../sync/newId.js';
import { boxOf, emptyBox, hasNews, outbox, type Outbox } from '../../sync/outbox.js';
import { layDown, pull, type Page } from '../../sync/post.js';
import { listSwatches, ServerAway } from '../../sync/server.js';
import type { AppDispatch, RootState } from './index.js';

/** The swatch book: the list the server tells, with what was done here, which goes the way of every document. */

interface SwatchState {
  /** As the server last told it, the newest first. */
  listed: readonly KeptSwatch[];
  state: 'loading' | 'ready' | 'away';
  /** Photos put in or taken out here since. */
  photos: Readonly<Record<string, string | null>>;
  /** A sentence about the last thing that was done or could not be. */
  message: string | null;
}

const initialState: SwatchState = { listed: [], state: 'loading', photos: {}, message: null };

const slice = createSlice({
  name: 'swatches',
  initialState,
  reducers: {
    heard: (state, { payload }: PayloadAction<readonly KeptSwatch[]>) => ({
      ...state,
      listed: payload,
      photos: {},
      state: 'ready' as const,
    }),
    away: (state, { payload }: PayloadAction<readonly KeptSwatch[] | null>) => ({
      ...state,
      listed: payload ?? state.listed,
      state: 'away' as const,
    }),
    photographed: (
      state,
      { payload: { id, photoAt } }: PayloadAction<{ id: string; photoAt: string | null }>,
    ) => ({ ...state, photos: { ...state.photos, [id]: photoAt } }),
    told: (state, { payload }: PayloadAction<string | null>) => ({ ...state, message: payload }),
  },
});

export const swatches = slice.actions;
export const swatchesReducer = slice.reducer;

type Slices = Pick<RootState, 'swatches' | 'outbox'>;
/** The outboxes of swatches that are open. */
export const swatchBoxes = createSelector(
  ({ outbox: boxes }: Slices) => boxes,
  (boxes) => boxesOf(boxes, 'swatch') as Outbox<'swatch'>[],
);

/** All swatches as they are here: what was measured last stands first. */
export const bookOfSwatches = createSelector(
  ({ swatches: { listed } }: Slices) => listed,
  ({ swatches: { photos } }: Slices) => photos,
  swatchBoxes,
  (listed, photos, boxes): readonly KeptSwatch[] => {
    const open = new Map(boxes.map((box) => [box.id, box]));
    const known = new Set(listed.map(({ swatch }) => swatch.id));
    const shown = (kept: KeptSwatch): KeptSwatch => {
      const { id } = kept.swatch;
      const box = open.get(id);
      const photoAt = photos[id] === undefined ? kept.photoAt : photos[id];
      return box
        ? { ...kept, swatch: box.document, version: Math.max(box.base, 1), photoAt }
        : { ...kept, photoAt };
    };
    const own = boxes.filter((box) => !known.has(box.id)).reverse();
    const asKept = (box: Outbox<'swatch'>): KeptSwatch => ({
      swatch: box.document,
      version: 1,
      savedAt: '',
      photoAt: null,
    });
    return [...own.map(asKept), ...listed].map(shown).filter(({ swatch }) => {
      const box = open.get(swatch.id);
      return !box?.out;
    });
  },
);

/** How many swatches the server has not been told all of. */
export const swatchesWaiting = createSelector(swatchBoxes, (boxes) => boxes.filter(hasNews).length);

/** Whether the server is away, as far as the book has noticed. */
export const isBookAway = (state: Slices): boolean =>
  state.swatches.state === 'away' || swatchBoxes(state).some(({ save }) => save.kind === 'away');

/** What undo takes back in the book, and redo does again. */
export const bookHistory = createSelector(swatchBoxes, nextIn);

type Thunk<T = Promise<void>> = (dispatch: AppDispatch, getState: () => RootState, page: Page) => T;

/** Asks the server for the book; while it is away the one it told last holds. */
export const meetSwatches = (): Thunk => async (dispatch, getState) => {
  try {
    const listed = await listSwatches();
    dispatch(swatches.heard(listed));
    void keepList('swatches', listed);
    // What was saved elsewhere unheard is joined.
    for (const { swatch, version } of listed) {
      const box = boxOf(getState().outbox, 'swatch', swatch.id);
      if (box && version > box.base) void dispatch(pull(box.id));
    }
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error;
    const { listed } = getState().swatches;
    dispatch(swatches.away(listed.length ? null : await keptSwatches()));
  }
};

/** The outbox of a swatch that is listed, open from now on. */
const opened =
  (id: string): Thunk<Outbox<'swatch'> | null> =>
  (dispatch, getState) => {
    const there = boxOf(getState().outbox, 'swatch', id);
    if (there) return there;
    const kept = getState().swatches.listed.find(({ swatch }) => swatch.id === id);
    if (!kept) return null;
    const box = emptyBox('swatch', id, kept.swatch, kept.version, kept.savedAt);
    dispatch(outbox.opened(box));
    return box;
  };

const tell =
  (said: Said): Thunk<void> =>
  (dispatch) => {
    if (said) dispatch(swatches.told(said.text));
  };

/** Does something to the book; what cannot be done is said and changes nothing. */
const trying =
  (work: (dispatch: AppDispatch) => void): Thunk<void> =>
  (dispatch) => {
    try {
      dispatch(swatches.told(null));
      work(dispatch);
    } catch (error) {
      if (!isRefusal(error)) throw error;
      dispatch(tell({ text: error.message, tone: 'refused' }));
    }
  };

/** Puts a new swatch into the book. */
export const addSwatch =
  (swatch: Swatch): Thunk =>
  async (dispatch) => {
    await dispatch(layDown('swatch', swatch.id, swatch, `swatch ${swatch.name}`));
  };

/** Changes a swatch: what differs is set, field by field. */
export const changeSwatch = (id: string, label: string, patch: Partial<Omit<Swatch, 'id'>>): Thunk<void> =>
  trying((dispatch) => {
    const box = dispatch(opened(id));
    const steps = box && SWATCH.between(box.document, SWATCH.read({ ...box.document, ...patch }));
    if (steps?.length) dispatch(make(box!, { id: newId(), label, steps }));
  });

/** Takes a swatch out of the book; undo brings it back. */
export const takeSwatchOut = (id: string): Thunk<void> =>
  trying((dispatch) => {
    const box = dispatch(opened(id));
    if (!box) return;
    const { name } = box.document;
    dispatch(
      make(box, { id: newId(), label: `${name} taken out`, steps: [], out: { was: false, now: true } }),
    );
    dispatch(swatches.told(`${name} was taken out of the book. Undo brings it back.`));
  });

/** Lets go of what was measured here of a swatch that is out elsewhere, or that the server does not take. */
export const letSwatchGo =
  (id: string): Thunk =>
  async (dispatch, _getState, { tab }) => {
    dispatch(outbox.closed({ id }));
    await forget(id, await tab());
  };

/** Puts a swatch that was taken out elsewhere back, with what was measured here. */
export const putSwatchBack = (id: string): Thunk<void> =>
  trying((dispatch) => {
    dispatch(outbox.outThere({ id, out: true, at: '' }));
    void dispatch(pull(id));
  });

export const undoInBook = (): Thunk<void> => (dispatch, getState) =>
  dispatch(tell(dispatch(undoIn(swatchBoxes(getState())))));
export const redoInBook = (): Thunk<void> => (dispatch, getState) =>
  dispatch(tell(dispatch(redoIn(swatchBoxes(getState())))));
