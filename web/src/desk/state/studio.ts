import { EMPTY_STUDIO, STUDIO, THE_STUDIO, type Studio } from '@cordelina/core';
import { isRefusal, make } from '../../sync/history.js';
import { newId } from '../../sync/newId.js';
import { boxOf } from '../../sync/outbox.js';
import { flush, openOutbox } from '../../sync/post.js';
import { ServerAway } from '../../sync/server.js';
import { bench } from './bench.js';
import type { AppDispatch, RootState } from './index.js';
import { workroom } from './workroom.js';

/** The studio's answers, or its motifs, without one of them. */
export function without<T>(all: Readonly<Record<string, T>>, key: string): Record<string, T> {
  const { [key]: _, ...rest } = all;
  return rest;
}

/** The same with one of them set. */
export const withOne = <T>(all: Readonly<Record<string, T>>, key: string, one: T): Record<string, T> => ({
  ...without(all, key),
  [key]: one,
});

/** What belongs to the studio: one document, kept and saved like any other. */

type Thunk = (dispatch: AppDispatch, getState: () => RootState) => Promise<void>;

/** The studio as this browser knows it; one that has said nothing while nothing is known of it. */
export const studioIn = ({ outbox }: Pick<RootState, 'outbox'>): Studio =>
  boxOf(outbox, 'studio', THE_STUDIO)?.document ?? EMPTY_STUDIO;

/** Opens the studio; while the server is away what is known here holds. */
export const meetStudio = (): Thunk => async (dispatch) => {
  try {
    await dispatch(openOutbox('studio', THE_STUDIO));
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error;
  }
};

/** Changes the studio: here at once, and on the server when it can be reached. What cannot be done is said. */
export const changeStudio =
  (label: string, change: (studio: Studio) => Studio): Thunk =>
  async (dispatch, getState) => {
    const now = () => boxOf(getState().outbox, 'studio', THE_STUDIO);
    try {
      // Where it was never seen it must be, before anything is said of it.
      if (!now()) await dispatch(openOutbox('studio', THE_STUDIO));
      const box = now()!;
      const steps = STUDIO.between(box.document, change(box.document));
      if (!steps.length) return;
      dispatch(make(box, { id: newId(), label, steps }));
    } catch (error) {
      if (!isRefusal(error) && !(error instanceof ServerAway)) throw error;
      const text = `The studio was not changed: ${error.message}`;
      dispatch(workroom.told(text));
      return void dispatch(bench.said({ text, tone: 'refused' }));
    }
    await dispatch(flush(THE_STUDIO));
  };
