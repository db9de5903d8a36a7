import {
  KNITTING,
  NOTE,
  type At,
  type Design,
  type Knitting,
  type KnittingSchema,
  type NeedlePlace,
  type Note,
  PlaceSchema,
  type Skein,
} from '@cordelina/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { z } from 'zod';
import { isRefusal, make, restate, undoIn } from '../../sync/history.js';
import { writeAtOnce, writtenAtOnce } from '../../sync/keeping.js';
import { newId } from '../../sync/newId.js';
import { boxOf, type Outbox } from '../../sync/outbox.js';
import { layDown, openOutbox } from '../../sync/post.js';
import { listed, openListed } from './listed.js';
import { savePhoto } from '../../sync/server.js';
import type { AppDispatch, RootState } from './index.js';

/** What is at the needles: the pattern someone cast on, where she is, and what she notices. It has no part in the design's undo. */

export interface NeedlesState {
  /** Documents that are in hand there, by id. */
  open: readonly string[];
  /** A sentence about the last thing that was done or could not be. */
  message: string | null;
}

const initialState: NeedlesState = { open: [], message: null };

const slice = createSlice({
  name: 'needles',
  initialState,
  reducers: {
    taken: (state, { payload }: PayloadAction<readonly string[]>) => ({ ...state, open: [...payload] }),
    told: (state, { payload }: PayloadAction<string | null>) => ({ ...state, message: payload }),
  },
});

export const needles = slice.actions;
export const needlesReducer = slice.reducer;

type Thunk<T = void> = (dispatch: AppDispatch, getState: () => RootState) => T;

/** Does something with a knitting; what cannot be done is said and changes nothing. */
const trying =
  (id: string, work: (box: Outbox<'knitting'>, dispatch: AppDispatch) => void): Thunk =>
  (dispatch, getState) => {
    const box = boxOf(getState().outbox, 'knitting', id) ?? dispatch(openListed('knitting', id));
    if (!box) return;
    try {
      work(box, dispatch);
    } catch (error) {
      if (!isRefusal(error)) throw error;
      dispatch(needles.told(error.message));
    }
  };

/** Says anew what is kept of a knitting. */
const restated = (id: string, label: string, patch: (now: Knitting) => Partial<Knitting>): Thunk =>
  trying(id, (box, dispatch) => {
    const steps = KNITTING.between(box.document, { ...box.document, ...patch(box.document) });
    if (steps.length) dispatch(restate(box, label, steps));
  });

/** A moment after every one that is known of a knitting, whatever this device's clock says. */
export const laterThan = (place: NeedlePlace): number => Math.max(Date.now(), place.at + 1);

/** The place that was written at once, where that is later than what is kept of the document. */
const caughtUp = (id: string): Thunk =>
  restated(id, 'at the needles', ({ place }) => {
    const last = PlaceSchema.safeParse(writtenAtOnce(id));
    return last.success && last.data.at > place.at ? { place: last.data } : {};
  });

/** Goes to a place; rows that are finished by that are written down. */
export const goTo = (id: string, device: string, at: At): Thunk =>
  restated(id, 'at the needles', ({ place, log }) => {
    const now = laterThan(place);
    const finished =
      at.row > place.row ? Object.fromEntries(rowsOf(place.row, at.row).map((row) => [row, now])) : {};
    const there = { ...at, at: now, device };
    writeAtOnce(id, there);
    return { place: there, log: { ...log, ...finished } };
  });

/** Rows that are gone past at once were not timed: only a step to the next is. */
const rowsOf = (from: number, to: number): number[] => (to === from + 1 ? [from] : []);

export const changeKnitting = (
  id: string,
  patch: Partial<Pick<Knitting, 'name' | 'knitter' | 'rest' | 'stays' | 'hand'>>,
): Thunk => restated(id, 'what is knitted', () => patch);

export const putSkein = (id: string, skein: Omit<Skein, 'at'>, key = newId()): Thunk =>
  restated(id, 'a skein', ({ skeins, place }) => ({
    skeins: { ...skeins, [key]: { ...skein, at: laterThan(place) } },
  }));

export const takeSkein = (id: string, key: string): Thunk =>
  restated(id, 'a skein', ({ skeins: { [key]: _, ...skeins } }) => ({ skeins }));

/** What is cast on: of which design, and for whom. */
export interface CastOn {
  design: Design;
  version: number;
  of: Knitting['of'];
  name: string;
  knitter: string;
  hand: Knitting['hand'];
  device: string;
}

/** Keeps the pattern as it is now; the id of what is kept. */
export const layEdition =
  (design: Design, version: number): Thunk<Promise<string>> =>
  async (dispatch) => {
    const id = newId();
    await dispatch(
      layDown('edition', id, { id, design: design.id, version, at: Date.now(), document: design }),
    );
    return id;
  };

/** Casts on: the pattern is kept as it is now, and the place begins at the first row. The id of what is knitted. */
export const castOn =
  ({ design, version, of, name, knitter, hand, device }: CastOn): Thunk<Promise<string>> =>
  async (dispatch) => {
    const edition = await dispatch(layEdition(design, version));
    const id = newId();
    const begun = Date.now();
    const fields: z.input<typeof KnittingSchema> = {
      id,
      design: design.id,
      edition,
      of,
      name,
      knitter,
      hand,
      begun,
      place: { row: 0, group: 0, at: begun, device },
    };
    await dispatch(layDown('knitting', id, KNITTING.read(fields)));
    return id;
  };

/** Goes over to the design as it is now, at a place of it. */
export const goOver =
  (id: string, design: Design, version: number, device: string, at: At): Thunk<Promise<void>> =>
  async (dispatch) => {
    const edition = await dispatch(layEdition(design, version));
    dispatch(
      restated(id, 'the pattern', ({ place }) => ({
        edition,
        stays: 0,
        place: { ...at, at: laterThan(place), device },
      })),
    );
  };

/** Opens what is knitted and the pattern it is of; while the server is away what the device keeps. */
export const openKnitting =
  (id: string): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    dispatch(needles.taken([id]));
    await dispatch(openOutbox('knitting', id));
    const box = boxOf(getState().outbox, 'knitting', id);
    if (!box) return;
    dispatch(caughtUp(id));
    dispatch(needles.taken([id, box.document.edition, box.document.design]));
    await dispatch(openOutbox('edition', box.document.edition));
  };

/** Puts what is knitted away; undo brings it back. */
export const putAway = (id: string): Thunk =>
  trying(id, (box, dispatch) => {
    const label = `${box.document.name} put away`;
    dispatch(make(box, { id: newId(), label, steps: [], out: { was: false, now: true } }));
    dispatch(needles.told(`${box.document.name} was put away.`));
  });

/** Takes up again what was put away elsewhere. */
export const takeUp = (id: string): Thunk =>
  trying(id, (box, dispatch) => {
    const label = `${box.document.name} taken up again`;
    dispatch(make(box, { id: newId(), label, steps: [], out: { was: true, now: false } }));
  });

/** Brings back what was put away last. */
export const bringBack = (): Thunk => (dispatch, getState) => {
  const boxes = Object.values(getState().outbox).filter((box) => box.kind === 'knitting');
  const said = dispatch(undoIn(boxes));
  dispatch(needles.told(said?.text ?? null));
};

/** Writes down what was noticed, and sends its photo if there is one. False where the photo could not be kept. */
export const writeNote =
  (note: Note, photo: Blob | null): Thunk<Promise<boolean>> =>
  async (dispatch) => {
    await dispatch(layDown('note', note.id, NOTE.read(note)));
    if (!photo) return true;
    try {
      const photoAt = await savePhoto('note', note.id, photo);
      dispatch(listed.photographed({ kind: 'note', id: note.id, photoAt }));
      return true;
    } catch (error) {
      const why = error instanceof Error ? error.message : '';
      dispatch(needles.told(`The note is kept; its photo is not: ${why}`));
      return false;
    }
  };

/** Answers a note, closes it or opens it again, or says whether it stands on the sheet. */
export const changeNote =
  (id: string, patch: Partial<Pick<Note, 'text' | 'state' | 'answer' | 'errata'>>): Thunk =>
  (dispatch, getState) => {
    const box = boxOf(getState().outbox, 'note', id) ?? dispatch(openListed('note', id));
    if (!box) return;
    const steps = NOTE.between(box.document, { ...box.document, ...patch });
    if (steps.length) dispatch(restate(box, 'a note', steps));
  };
