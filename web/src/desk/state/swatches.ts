import { SWATCH, type KeptSwatch, type Swatch } from '@cordelina/core';
import { createSelector, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { isRefusal, make, nextIn, redoIn, undoIn, type Said } from '../../sync/history.js';
import { forget } from '../../sync/keeping.js';
import { newId } from '../../sync/newId.js';
import { outbox } from '../../sync/outbox.js';
import { layDown, pull, type Page } from '../../sync/post.js';
import type { AppDispatch, RootState } from './index.js';
import { LISTED, meet, openListed, waitingIn } from './listed.js';

/** The swatch book: the list the server tells, with what was done here, which goes the way of every document. */

const initialState: { message: string | null } = { message: null };

const slice = createSlice({
  name: 'swatches',
  initialState,
  reducers: {
    /** A sentence about the last thing that was done or could not be. */
    told: (_state, { payload }: PayloadAction<string | null>) => ({ message: payload }),
  },
});

export const swatches = slice.actions;
export const swatchesReducer = slice.reducer;

type Slices = Pick<RootState, 'listed' | 'outbox'>;
/** The outboxes of swatches that are open. */
export const swatchBoxes = LISTED.swatch.boxes;

/** All swatches as they are here: what was measured last stands first. */
export const bookOfSwatches = createSelector(LISTED.swatch.all, (all): readonly KeptSwatch[] =>
  all.map(({ document, ...rest }) => ({ ...rest, swatch: document })),
);

/** How many swatches the server has not been told all of. */
export const swatchesWaiting = createSelector(swatchBoxes, waitingIn);

/** Whether the server is away, as far as the book has noticed. */
export const isBookAway = (state: Slices): boolean =>
  state.listed.swatch.state === 'away' || swatchBoxes(state).some(({ save }) => save.kind === 'away');

/** What undo takes back in the book, and redo does again. */
export const bookHistory = createSelector(swatchBoxes, nextIn);

type Thunk<T = Promise<void>> = (dispatch: AppDispatch, getState: () => RootState, page: Page) => T;

/** Asks the server for the book; while it is away the one it told last holds. */
export const meetSwatches = () => meet('swatch');
const opened = (id: string) => openListed('swatch', id);

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
