import { applySteps, MOST_CHANGES, stepsOf, type Change, type Design } from '@cordelina/core';
import { createListenerMiddleware, isAnyOf, type ThunkDispatch, type UnknownAction } from '@reduxjs/toolkit';
import {
  createDesign,
  fetchDesign,
  fetchSince,
  Refused,
  sendChanges,
  ServerAway,
  sinceIn,
  type Since,
} from './api.js';
import { bench, type BenchState } from './bench.js';
import { absorb, join, type Newer } from './joining.js';
import { forget, keep, kept, keptDesigns, seen, type Kept } from './keeping.js';
import { newId } from './newId.js';
import { emptyBox, isWaiting, outbox, type Outbox, type SaveState } from './outbox.js';
import { leftBefore, takeOver } from './shelf-before.js';
import { openTabs, thisTab } from './tab.js';

/** The post between a page's outboxes and the server: one sending at a time for each design. */

/** Milliseconds the hands rest before a change is sent. */
const QUIET = 400;
const FIRST_PAUSE = 1000;
const LONGEST_PAUSE = 60_000;
/** Requests at most of so many characters, as a rule; one change may be larger. */
const FULL_ENVELOPE = 8_000_000;

interface State {
  outbox: Record<string, Outbox>;
  bench: BenchState;
}
type Dispatch = (action: unknown) => unknown;
type Thunk<T> = (dispatch: Dispatch, getState: () => State, page: Page) => T;

/** The open page: one of a browser's tabs. */
export interface Page {
  tab: () => Promise<string>;
  /** Designs being opened: each once at a time, however many ask. */
  opening: Map<string, Promise<void>>;
}

export const makePage = (tab: Page['tab'] = thisTab): Page => ({ tab, opening: new Map() });

const touched = isAnyOf(outbox.changed, outbox.joined, outbox.letGo, outbox.acknowledged);

/** Keeps and sends what becomes of the outboxes. */
export function makePost({ tab }: Page) {
  const post = createListenerMiddleware<State, ThunkDispatch<State, Page, UnknownAction>>();

  // Every change is kept in the browser at once, and sent when the hands rest a moment.
  post.startListening({
    predicate: touched,
    effect: async (action, api) => {
      if (!touched(action)) return;
      const { id } = action.payload;
      const box = api.getState().outbox[id];
      if (!box) return;
      void tab().then((own) => keep(box, own));
      await api.delay(QUIET);
      const now = api.getState().outbox[id];
      if (now?.save.kind === 'waiting' && now.unsaved.at(-1) === box.unsaved.at(-1))
        void api.dispatch(flush(id));
    },
  });

  // A server that is away or in trouble is asked again after growing pauses.
  post.startListening({
    actionCreator: outbox.notSaved,
    effect: async ({ payload: { id, save } }, api) => {
      if (save.kind !== 'away') return;
      const pause = Math.min(FIRST_PAUSE * 2 ** (save.tries - 1), LONGEST_PAUSE);
      await api.delay(pause * (0.75 + Math.random() / 2));
      if (api.getState().outbox[id]?.save === save) void api.dispatch(pull(id));
    },
  });
  return post;
}

/** As many changes as go into one request. */
function envelope(unsaved: readonly Change[]): Change[] {
  let size = 0;
  const fits = unsaved.findIndex((c, i) => (size += JSON.stringify(c).length) > FULL_ENVELOPE && i > 0);
  return unsaved.slice(0, Math.min(fits < 0 ? unsaved.length : fits, MOST_CHANGES));
}

/** Sends what is unsaved of a design, joining what was saved elsewhere, until nothing is left. */
export function flush(id: string): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const boxNow = () => getState().outbox[id];
    const before = boxNow();
    if (!before || before.save.kind === 'saving') return;
    if (before.base > 0 && !before.unsaved.length) return;
    const tries = before.save.kind === 'away' ? before.save.tries : 0;
    dispatch(outbox.sending({ id }));
    try {
      for (let box = boxNow(); box && (box.base === 0 || box.unsaved.length); box = boxNow()) {
        if (box.base === 0) await sendNew(box, dispatch);
        else await sendSome(box, dispatch);
        if (boxNow()?.unsaved.length) dispatch(outbox.sending({ id }));
      }
    } catch (error) {
      dispatch(outbox.notSaved({ id, save: afterFailure(error, tries) }));
    }
    const after = boxNow();
    if (after && after.heard > after.base && after.save.kind === 'saved') await dispatch(pull(id));
  };
}

function afterFailure(error: unknown, tries: number): SaveState {
  if (error instanceof ServerAway) return { kind: 'away', tries: tries + 1 };
  if (error instanceof Refused)
    return error.status === 404 ? { kind: 'gone' } : { kind: 'refused', message: error.message };
  console.error('The changes could not be sent.', error);
  return { kind: 'refused', message: 'something went wrong on this page; the edits stay kept here.' };
}

async function sendNew({ id, saved }: Outbox, dispatch: Dispatch): Promise<void> {
  const made = await createDesign(saved).catch((error: unknown) => {
    // It was laid down before and the answer was lost: the id is this browser's own.
    if (error instanceof Refused && error.status === 409)
      return { version: 1, savedAt: new Date().toISOString() };
    throw error;
  });
  dispatch(outbox.acknowledged({ id, version: 1, at: made.savedAt, ids: [], saved }));
}

async function sendSome({ id, base, saved, unsaved }: Outbox, dispatch: Dispatch): Promise<void> {
  const sent = envelope(unsaved);
  try {
    const { version, savedAt } = await sendChanges(id, base, sent);
    const document = applySteps(saved, stepsOf(sent));
    dispatch(outbox.acknowledged({ id, version, at: savedAt, ids: sent.map((c) => c.id), saved: document }));
  } catch (error) {
    const since = sinceIn(error);
    if (!since) throw error;
    await dispatch(joinIn(id, since));
  }
}

/** What was saved since, as it can be joined: by its changes, or where those are no longer kept by the document. */
async function newerOf(
  id: string,
  { version, savedAt, changes }: Since,
): Promise<Newer & { savedAt: string }> {
  if (changes) return { version, savedAt, changes };
  const whole = await fetchDesign(id);
  return { version: whole.version, savedAt: whole.savedAt, changes: null, document: whole.document };
}

/** Joins what was saved elsewhere into the outbox as it is by now. */
function joinIn(id: string, since: Since): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const newer = await newerOf(id, since);
    const box = getState().outbox[id];
    if (!box || newer.version <= box.base) return;
    const joined = join(box, newer);
    dispatch(outbox.joined({ ...joined, id, at: newer.savedAt }));
    if (getState().bench.id !== id || joined.document === box.document) return;
    const clashed = joined.choices.length > box.choices.length;
    dispatch(
      bench.said({
        text: clashed
          ? 'Changed elsewhere too, in the same places: choose what is to stand.'
          : 'Joined with changes saved elsewhere.',
        tone: 'said',
      }),
    );
  };
}

/** Fetches what was saved elsewhere since, when nothing of this design is being sent. */
export function pull(id: string): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const box = getState().outbox[id];
    if (!box) return;
    if (box.base === 0 || box.unsaved.length || box.save.kind === 'saving')
      return void (await dispatch(flush(id)));
    try {
      const since = await fetchSince(id, box.base);
      if (since.version > box.base) await dispatch(joinIn(id, since));
      else if (box.save.kind !== 'saved') {
        const save = { kind: 'saved', at: since.savedAt } as const;
        dispatch(outbox.notSaved({ id, save }));
      }
    } catch (error) {
      // What the server could not tell now it tells when it is back.
      if (error instanceof Refused && error.status === 404)
        dispatch(outbox.notSaved({ id, save: { kind: 'gone' } }));
      else if (!(error instanceof ServerAway)) throw error;
      else if (box.save.kind === 'away')
        dispatch(outbox.notSaved({ id, save: afterFailure(error, box.save.tries) }));
    }
  };
}

const boxOf = (id: string, { saved, ...rest }: Kept): Outbox => ({
  ...emptyBox(saved, rest.base, ''),
  ...rest,
  id,
  document: applySteps(saved, stepsOf(rest.unsaved)),
  save: { kind: 'waiting' },
});

/** The server's newest version joined into an outbox; as it was when there is none. */
async function caughtUp(box: Outbox): Promise<Outbox> {
  if (box.base === 0) return box;
  const since = await fetchSince(box.id, box.base);
  const now = since.version === box.base ? box : { ...box, ...join(box, await newerOf(box.id, since)) };
  const save: SaveState = now.unsaved.length ? { kind: 'waiting' } : { kind: 'saved', at: since.savedAt };
  return { ...now, heard: now.base, save };
}

/**
 * Opens a design's outbox: what this tab keeps of it, what closed tabs left, and what the server has. Without the
 * server the browser's own is opened, and joined later.
 */
export function openOutbox(id: string): Thunk<Promise<void>> {
  return async (dispatch, getState, { opening }) => {
    if (getState().outbox[id]) return void (await dispatch(pull(id)));
    let running = opening.get(id);
    if (!running) {
      running = dispatch(openOnce(id)) as Promise<void>;
      opening.set(id, running);
      void running.catch(() => undefined).then(() => opening.delete(id));
    }
    await running;
  };
}

function openOnce(id: string): Thunk<Promise<void>> {
  return async (dispatch, _getState, page) => {
    const tab = await page.tab();
    await takeOver(id, async (before) => keep(boxOf(id, before), before.tab)).catch(() => undefined);
    const [records, alive] = [await kept(id), await openTabs()];
    const own = records.find((r) => r.tab === tab);
    const left = records.filter((r) => r.tab !== tab && !alive.has(r.tab));
    let box = own ? boxOf(id, own) : null;
    let away: unknown = null;
    try {
      box = box ? await caughtUp(box) : null;
    } catch (error) {
      away = error;
    }
    const taken: string[] = [];
    for (const record of left.sort((a, b) => b.base - a.base)) {
      try {
        let other = boxOf(id, record);
        if (!away) other = await caughtUp(other);
        if (!box) box = { ...other, done: [], undone: [] };
        else if (other.base !== box.base) continue;
        else box = absorb(box, other);
        taken.push(record.tab);
      } catch (error) {
        if (error instanceof ServerAway || error instanceof Refused) away ??= error;
        // What does not fit stays kept as it is.
        else console.error('What a closed tab kept could not be taken in.', error);
      }
    }
    if (!box) box = await fromServer(id);
    else if (away) box = { ...box, save: afterFailure(away, 0) };
    dispatch(outbox.opened(box));
    await keep(box, tab, taken);
    if (box.save.kind === 'away') dispatch(outbox.notSaved({ id, save: box.save }));
    if (isWaiting(box) && box.save.kind === 'waiting') void dispatch(flush(id));
  };
}

async function fromServer(id: string): Promise<Outbox> {
  try {
    const { document, version, savedAt } = await fetchDesign(id);
    return emptyBox(document, version, savedAt);
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error;
    const last = await seen(id);
    if (!last) throw error;
    return { ...emptyBox(last.document, last.version, ''), save: { kind: 'away', tries: 1 } };
  }
}

/** Lays a design on the bench. */
export function openDesign(id: string): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    dispatch(bench.cleared({ id, design: getState().outbox[id]?.document }));
    try {
      await dispatch(openOutbox(id));
    } catch (error) {
      const message = error instanceof Error ? error.message : 'The design could not be opened.';
      dispatch(bench.failed({ id, message }));
    }
  };
}

/** A new design, kept in this browser at once and sent as soon as the server is there. */
export function layDown(document: Design): Thunk<Promise<void>> {
  return async (dispatch, _getState, { tab }) => {
    const box = emptyBox(document, 0, '');
    dispatch(outbox.opened(box));
    await keep(box, await tab());
    await dispatch(flush(document.id));
  };
}

/** A design that was taken out elsewhere, laid down as a new one with everything done here. */
export function layDownAnew(id: string): Thunk<Promise<string | null>> {
  return async (dispatch, getState, { tab }) => {
    const box = getState().outbox[id];
    if (!box) return null;
    const copy = { ...box.document, id: newId() };
    // Closed before anything is waited for: asked twice, it is laid down once.
    dispatch(outbox.closed({ id }));
    await dispatch(layDown(copy));
    // What other tabs keep of it is theirs.
    await forget(id, await tab());
    return copy.id;
  };
}

/** Lets go of what the server does not take, and opens the design as it is saved. */
export function startOver(id: string): Thunk<Promise<void>> {
  return async (dispatch, _getState, { tab }) => {
    const { document, version, savedAt } = await fetchDesign(id);
    const box = emptyBox(document, version, savedAt);
    dispatch(outbox.opened(box));
    await keep(box, await tab());
  };
}

/** Sends what waits in this browser, of every design: on start, and when the server is back. */
export function sendAll(): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const open = Object.values(getState().outbox);
    await Promise.all(open.map(({ id }) => dispatch(pull(id))));
    const waiting = (await keptDesigns()).filter((d) => d.waits).map((d) => d.id);
    for (const id of new Set([...waiting, ...(await leftBefore().catch(() => []))])) {
      if (getState().outbox[id]) continue;
      await (dispatch(openOutbox(id)) as Promise<void>).catch(() => undefined);
    }
    dispatch(closeIdle());
  };
}

/** Outboxes that are off the bench and have nothing left to send are put away. */
export function closeIdle(): Thunk<void> {
  return (dispatch, getState) => {
    const { outbox: boxes, bench: on } = getState();
    for (const box of Object.values(boxes))
      if (box.id !== on.id && box.save.kind === 'saved' && !isWaiting(box))
        dispatch(outbox.closed({ id: box.id }));
  };
}
