import { applyChange, StepMisfit, type Change, type Design } from '@cordelina/core';
import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { createDesign, fetchDesign, Refused, saveDesign, ServerAway, staleOf, type Stored } from './api.js';
import { bench, type BenchState } from './bench.js';
import { forget, keep, kept } from './shelf.js';

const QUIET = 400;
const RETRY = 3000;

type State = { bench: BenchState };

export const sync = createListenerMiddleware<State>();

/** Replays changes on a newer document; null when one no longer fits. */
function rebase(document: Design, changes: readonly Change[]): Design | null {
  try {
    return changes.reduce(applyChange, document);
  } catch (error) {
    if (error instanceof StepMisfit) return null;
    throw error;
  }
}

// Every edit is kept in the browser at once and sent to the server when the hands rest a moment.
sync.startListening({
  matcher: isAnyOf(bench.edited, bench.undone, bench.redone, bench.rebased),
  effect: async (_action, api) => {
    api.cancelActiveListeners();
    const { design, base, unsaved, save } = api.getState().bench;
    if (!design || !unsaved.length) return;
    await keep({ document: design, base, unsaved: [...unsaved] });
    if (save.kind === 'conflict') return;
    await api.delay(QUIET);
    api.dispatch(flush());
  },
});

// While the server is away the edits wait; it is asked again until it answers.
sync.startListening({
  actionCreator: bench.saveFailed,
  effect: async ({ payload }, api) => {
    api.cancelActiveListeners();
    if (payload.kind !== 'away') return;
    await api.delay(RETRY);
    api.dispatch(flush());
  },
});

let sending: Promise<void> | null = null;

/** Sends the unsaved changes of the design on the bench; one request at a time. */
export function flush() {
  return async (dispatch: (action: unknown) => unknown, getState: () => State): Promise<void> => {
    // Whoever waits looks again: another may have begun to send meanwhile.
    while (sending) await sending;
    const { design, base, unsaved, save } = getState().bench;
    if (!design || !unsaved.length || save.kind === 'conflict') return;
    const count = unsaved.length;
    dispatch(bench.saving());
    const request = saveDesign(design, base);
    sending = request.then(
      () => undefined,
      () => undefined,
    );
    try {
      const { version, savedAt } = await request;
      dispatch(bench.saved({ id: design.id, version, at: savedAt, count }));
      const after = getState().bench;
      if (after.design?.id === design.id)
        await keep({ document: after.design, base: after.base, unsaved: [...after.unsaved] });
      else await keep({ document: design, base: version, unsaved: [] });
      if (after.unsaved.length && after.design?.id === design.id) dispatch(flush());
    } catch (error) {
      await sendFailed(error, dispatch, getState);
    } finally {
      sending = null;
    }
  };
}

async function sendFailed(
  error: unknown,
  dispatch: (action: unknown) => unknown,
  getState: () => State,
): Promise<void> {
  const { unsaved } = getState().bench;
  const newer = staleOf(error);
  if (newer) {
    const joined = rebase(newer.document, unsaved);
    if (joined) dispatch(bench.rebased({ design: joined, base: newer.version }));
    else dispatch(bench.saveFailed({ kind: 'conflict' }));
  } else if (error instanceof ServerAway) dispatch(bench.saveFailed({ kind: 'away' }));
  else if (error instanceof Refused) dispatch(bench.saveFailed({ kind: 'refused', message: error.message }));
  else throw error;
}

const laid = (stored: Stored, unsaved: Change[] = []) =>
  bench.laid({
    design: stored.document,
    base: stored.version,
    unsaved,
    save: unsaved.length ? { kind: 'waiting' } : { kind: 'saved', at: stored.savedAt },
  });

/** Lays a design on the bench: the server's, with what the browser still keeps of unsaved edits. */
export function openDesign(id: string) {
  return async (dispatch: (action: unknown) => unknown): Promise<void> => {
    const local = await kept(id).catch(() => null);
    try {
      const stored = await fetchDesign(id);
      if (!local?.unsaved.length) {
        dispatch(laid(stored));
        await keep({ document: stored.document, base: stored.version, unsaved: [] });
        return;
      }
      const joined = local.base === stored.version ? local.document : rebase(stored.document, local.unsaved);
      if (joined) dispatch(laid({ ...stored, document: joined }, local.unsaved));
      else
        dispatch(
          bench.laid({
            design: local.document,
            base: local.base,
            unsaved: local.unsaved,
            save: { kind: 'conflict' },
          }),
        );
      if (joined) dispatch(flush());
    } catch (error) {
      if (error instanceof ServerAway && local) {
        dispatch(
          bench.laid({
            design: local.document,
            base: local.base,
            unsaved: local.unsaved,
            save: { kind: 'away' },
          }),
        );
        dispatch(bench.saveFailed({ kind: 'away' }));
      } else
        dispatch(bench.failed(error instanceof Error ? error.message : 'The design could not be opened.'));
    }
  };
}

/** Ends a conflict by keeping both: this browser's document becomes a design of its own. */
export function keepBoth() {
  return async (dispatch: (action: unknown) => unknown, getState: () => State): Promise<string | null> => {
    const { design } = getState().bench;
    if (!design) return null;
    const copy: Design = {
      ...design,
      id: crypto.randomUUID(),
      title: `${design.title} (kept here)`.slice(0, 120),
    };
    await createDesign(copy);
    await forget(design.id);
    await dispatch(openDesign(design.id));
    return copy.id;
  };
}

/** Ends a conflict by taking the server's document. */
export function takeTheirs() {
  return async (dispatch: (action: unknown) => unknown, getState: () => State): Promise<void> => {
    const { design } = getState().bench;
    if (!design) return;
    await forget(design.id);
    await dispatch(openDesign(design.id));
  };
}
