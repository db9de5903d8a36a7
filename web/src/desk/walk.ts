import type { AppDispatch, RootState } from './state/index.js';
import { makeDesign } from './designs.js';
import { habits } from './state/habits.js';
import { newId } from '../sync/newId.js';
import { fetchCard, ServerAway } from '../sync/server.js';

/** Whether the design of the walk has not been taken out; while the server is away it is taken to be there. */
const isThere = (id: string): Promise<boolean> =>
  fetchCard(id).then(
    () => true,
    (error: unknown) => error instanceof ServerAway,
  );

/**
 * Begins the walk through the bench, or goes on with it where it was left: on a small design of its own, so that nothing of anyone's is
 * touched.
 *
 * @returns the address it goes on at; null where the design could not be laid down
 */
export function beginWalk() {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<string | null> => {
    const { walk } = getState().habits;
    if (walk && (await isThere(walk.design))) {
      dispatch(habits.changed({ walk: { ...walk, isOpen: true } }));
      return `/designs/${walk.design}`;
    }
    const { FLAT, startChart, startDesign } = await import('@cordelina/core');
    const cloth = startChart({ columns: 12, rows: 8, construction: FLAT.id, ground: 'p' });
    const id = await dispatch(makeDesign(startDesign(newId(), 'A first rope', cloth)));
    if (!id) return null;
    dispatch(habits.changed({ walk: { design: id, step: 0, isOpen: true }, isNew: false }));
    return `/designs/${id}`;
  };
}
