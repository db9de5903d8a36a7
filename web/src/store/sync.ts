import {
  applyChange,
  applySteps,
  invertSteps,
  rebase,
  stepsBetween,
  type Change,
  type Design,
} from '@cordelina/core';
import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { createDesign, fetchDesign, Refused, saveDesign, ServerAway, staleOf, type Stored } from './api.js';
import { bench, type BenchState, type Done, type Joined, type SaveState } from './bench.js';
import { forget, keep, kept } from './shelf.js';
import { newId } from './newId.js';

const QUIET = 400;
const RETRY = 3000;

type State = { bench: BenchState };

export const sync = createListenerMiddleware<State>();

/**
 * The bench joined with a newer document: what is unsaved is mapped over what was done elsewhere, and so is what
 * undo and redo would do. Null when an unsaved change and theirs cannot both be had.
 */
function joined(
  state: Pick<BenchState, 'design' | 'unsaved' | 'done' | 'undone'>,
  newer: Stored,
): Joined | null {
  const { design, unsaved, done, undone } = state;
  if (!design) return null;
  const base = applySteps(design, invertSteps(unsaved.flatMap((c) => [...c.steps])));
  const theirs = stepsBetween(base, newer.document);
  const { kept, aside, over } = rebase(base, unsaved, theirs);
  if (aside.length) return null;
  const inverted = (changes: readonly Done[]) => changes.map((c) => ({ ...c, steps: invertSteps(c.steps) }));
  // Undo goes back from the newest change: those are mapped in that order. Redo likewise.
  const back = rebase(design, inverted(done).reverse(), over).kept as Done[];
  const again = rebase(design, [...undone].reverse(), over).kept as Done[];
  return {
    design: kept.reduce(applyChange, newer.document),
    base: newer.version,
    unsaved: kept,
    done: inverted(back).reverse(),
    undone: again.reverse(),
  };
}

// Every edit is kept in the browser at once and sent to the server when the hands rest a moment.
sync.startListening({
  matcher: isAnyOf(bench.edited, bench.undone, bench.redone, bench.rebased),
  effect: async (_action, api) => {
    api.cancelActiveListeners();
    const { design, base, unsaved, save } = api.getState().bench;
    if (!design) return;
    await keep({ document: design, base, unsaved: [...unsaved] });
    if (save.kind === 'conflict' || !unsaved.length) return;
    await api.delay(QUIET);
    api.dispatch(flush());
  },
});

// While the server is away the edits wait; it is asked again until it answers.
sync.startListening({
  actionCreator: bench.saveFailed,
  effect: async ({ payload }, api) => {
    api.cancelActiveListeners();
    if (payload.save.kind !== 'away') return;
    await api.delay(RETRY);
    api.dispatch(flush());
  },
});

/** Designs being sent: one request at a time for each, and whoever asks meanwhile is served after it. */
const sending = new Set<string>();

/** Sends the unsaved changes of the design on the bench. */
export function flush() {
  return async (dispatch: (action: unknown) => unknown, getState: () => State): Promise<void> => {
    const { design, base, unsaved, save } = getState().bench;
    if (!design || !unsaved.length || save.kind === 'conflict' || sending.has(design.id)) return;
    const { id } = design;
    const onBench = () => getState().bench.design?.id === id;
    sending.add(id);
    dispatch(bench.saving());
    try {
      const { version, savedAt } = await saveDesign(design, base);
      dispatch(bench.saved({ id, version, at: savedAt, count: unsaved.length }));
      const after = getState().bench;
      if (after.design?.id === id)
        await keep({ document: after.design, base: after.base, unsaved: [...after.unsaved] });
      else await keepRest(id, version, design, unsaved);
    } catch (error) {
      // What was not saved stays kept in this browser, whichever design is on the bench by now.
      if (onBench()) sendFailed(id, error, dispatch, getState);
    } finally {
      sending.delete(id);
    }
    // Edits made while the answer was under way go next.
    const { unsaved: left, save: now } = getState().bench;
    if (onBench() && left.length && now.kind === 'waiting') await dispatch(flush());
  };
}

/** A design that left the bench while its save was under way: what was edited after the sending stays unsaved. */
async function keepRest(id: string, version: number, sent: Design, saved: readonly Change[]): Promise<void> {
  const local = await kept(id);
  const ids = new Set(saved.map((c) => c.id));
  const rest = local?.unsaved.filter((c) => !ids.has(c.id)) ?? [];
  await keep({ document: rest.length ? local!.document : sent, base: version, unsaved: rest });
}

function sendFailed(
  id: string,
  error: unknown,
  dispatch: (action: unknown) => unknown,
  getState: () => State,
): void {
  const failed = (save: SaveState) => dispatch(bench.saveFailed({ id, save }));
  const newer = staleOf(error);
  if (newer) {
    const both = joined(getState().bench, newer);
    if (both) dispatch(bench.rebased({ ...both, at: newer.savedAt }));
    else failed({ kind: 'conflict' });
  } else if (error instanceof ServerAway) failed({ kind: 'away' });
  else if (error instanceof Refused) failed({ kind: 'refused', message: error.message });
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
      const was = { design: local.document, unsaved: local.unsaved, done: [], undone: [] };
      const both =
        local.base === stored.version
          ? { design: local.document, unsaved: local.unsaved }
          : joined(was, stored);
      if (both) dispatch(laid({ ...stored, document: both.design }, both.unsaved));
      else
        dispatch(
          bench.laid({
            design: local.document,
            base: local.base,
            unsaved: local.unsaved,
            save: { kind: 'conflict' },
          }),
        );
      if (both) dispatch(flush());
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
        dispatch(bench.saveFailed({ id, save: { kind: 'away' } }));
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
      id: newId(),
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
