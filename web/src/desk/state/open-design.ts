import { boxOf } from '../../sync/outbox.js';
import { openOutbox } from '../../sync/post.js';
import { bench } from './bench.js';
import type { AppDispatch, RootState } from './index.js';

/** Lays a design on the bench. */
export function openDesign(id: string) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    dispatch(bench.cleared({ id, design: boxOf(getState().outbox, 'design', id)?.document }));
    try {
      await dispatch(openOutbox('design', id));
    } catch (error) {
      const message = error instanceof Error ? error.message : 'The design could not be opened.';
      dispatch(bench.failed({ id, message }));
    }
  };
}
