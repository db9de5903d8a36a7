import { MOST_CHANGES, stepsOf, type Change, type DocumentOf, type KindName } from '@cordelina/core';
import { createListenerMiddleware, isAnyOf, type ThunkDispatch, type UnknownAction } from '@reduxjs/toolkit';
import { absorb, join, type Newer } from './joining.js';
import { forget, keep, kept, keptWork, seen, type Kept } from './keeping.js';
import { newId } from './newId.js';
import {
  boxOf,
  emptyBox,
  hasNews,
  isWaiting,
  kindOf,
  nextTurn,
  outbox,
  type AnyOutbox,
  type SaveState,
} from './outbox.js';
import {
  carryChanges,
  createDocument,
  deleteDocument,
  fetchDocument,
  fetchSince,
  Refused,
  restoreDocument,
  sendChanges,
  ServerAway,
  sinceIn,
  type Since,
} from './server.js';
import { openTabs, thisTab } from './tab.js';

/** The post between a page's outboxes and the server: one sending at a time for each document, of whatever kind. */

/** Milliseconds the hands rest before a change is sent. */
const QUIET = 400;
const FIRST_PAUSE = 1000;
const LONGEST_PAUSE = 60_000;
/** Requests at most of so many characters, as a rule; one change may be larger. */
const FULL_ENVELOPE = 8_000_000;

/** As much of the page's state as the post knows. */
export interface State {
  outbox: Record<string, AnyOutbox>;
}
type Dispatch = (action: unknown) => unknown;
type Thunk<T> = (dispatch: Dispatch, getState: () => State, page: Page) => T;

/** The open page: one of a browser's tabs. */
export interface Page {
  tab: () => Promise<string>;
  /** Documents being opened: each once at a time, however many ask. */
  opening: Map<string, Promise<void>>;
  /** Whether a document is in someone's hand, so that its outbox stays open. */
  isInHand: (box: AnyOutbox, state: State) => boolean;
}

export const makePage = (tab: Page['tab'] = thisTab): Page => ({
  tab,
  opening: new Map(),
  isInHand: () => false,
});

const touched = isAnyOf(outbox.changed, outbox.joined, outbox.letGo, outbox.acknowledged, outbox.outThere);

/** Keeps and sends what becomes of the outboxes. */
export function makePost({ tab }: Pick<Page, 'tab'>) {
  const post = createListenerMiddleware<State, ThunkDispatch<State, Page, UnknownAction>>();

  // While a document is being kept what becomes of it meanwhile is kept once, as it is then: hands that are quicker than
  // the disk leave nothing behind that is longer under way than one writing.
  const underWay = new Set<string>();
  const again = new Set<string>();
  async function keeping(id: string, own: string, boxNow: () => AnyOutbox | undefined): Promise<void> {
    if (underWay.has(id)) return void again.add(id);
    underWay.add(id);
    do {
      again.delete(id);
      const box = boxNow();
      if (box) await keep(box, own);
    } while (again.has(id));
    underWay.delete(id);
  }

  // Every change is kept in the browser at once, and sent when the hands rest a moment.
  post.startListening({
    predicate: touched,
    effect: async (action, api) => {
      if (!touched(action)) return;
      const { id } = action.payload;
      const box = api.getState().outbox[id];
      if (!box) return;
      void tab().then((own) => keeping(id, own, () => api.getState().outbox[id]));
      await api.delay(QUIET);
      const now = api.getState().outbox[id];
      const isAtRest = now?.unsaved.at(-1) === box.unsaved.at(-1) && now?.out === box.out;
      if (now?.save.kind === 'waiting' && isAtRest) void api.dispatch(flush(id));
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

/** Sends what the server has not been told of a document, joining what was saved elsewhere, until nothing is left. */
export function flush(id: string): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const boxNow = () => getState().outbox[id];
    const before = boxNow();
    if (!before || before.save.kind === 'saving' || !hasNews(before)) return;
    const tries = before.save.kind === 'away' ? before.save.tries : 0;
    dispatch(outbox.sending({ id }));
    try {
      for (let box = boxNow(); box && hasNews(box); box = boxNow()) {
        if (box.base === 0) await sendNew(box, dispatch);
        // What is there no more is put back before anything is done to it.
        else if (box.outThere && !box.out) await sendOut(box, dispatch);
        else if (box.unsaved.length) await sendSome(box, dispatch);
        else await sendOut(box, dispatch);
        const now = boxNow();
        if (now && hasNews(now)) dispatch(outbox.sending({ id }));
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

async function sendNew({ kind, id, saved }: AnyOutbox, dispatch: Dispatch): Promise<void> {
  const made = await createDocument(kind, saved).catch((error: unknown) => {
    // It was laid down before and the answer was lost: the id is this browser's own.
    if (error instanceof Refused && error.status === 409)
      return { version: 1, savedAt: new Date().toISOString() };
    throw error;
  });
  dispatch(outbox.acknowledged({ id, version: 1, at: made.savedAt, ids: [], saved }));
}

/** Has the document taken out, or put back, as it is here. */
async function sendOut({ kind, id, out }: AnyOutbox, dispatch: Dispatch): Promise<void> {
  await (out ? deleteDocument(kind, id) : restoreDocument(kind, id)).catch((error: unknown) => {
    // What is to be out and is out already needs no more.
    if (!(out && error instanceof Refused && error.status === 404)) throw error;
  });
  dispatch(outbox.outThere({ id, out, at: new Date().toISOString() }));
}

async function sendSome(box: AnyOutbox, dispatch: Dispatch): Promise<void> {
  const { kind, id, base, saved, unsaved } = box;
  const sent = envelope(unsaved);
  try {
    const { version, savedAt } = await sendChanges(kind, id, base, sent);
    const document = kindOf(box).apply(saved, stepsOf(sent));
    dispatch(outbox.acknowledged({ id, version, at: savedAt, ids: sent.map((c) => c.id), saved: document }));
  } catch (error) {
    const since = sinceIn(error);
    if (!since) throw error;
    await dispatch(joinIn(id, since));
  }
}

/** What was saved since, as it can be joined: by its changes, or where those are no longer kept by the document. */
async function newerOf(
  { kind, id }: Pick<AnyOutbox, 'kind' | 'id'>,
  { version, savedAt, changes }: Since,
): Promise<Newer & { savedAt: string }> {
  if (changes) return { version, savedAt, changes };
  const whole = await fetchDocument(kind, id);
  return { version: whole.version, savedAt: whole.savedAt, changes: null, document: whole.document };
}

/** Joins what was saved elsewhere into the outbox as it is by now. */
function joinIn(id: string, since: Since): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const known = getState().outbox[id];
    if (!known) return;
    const newer = await newerOf(known, since);
    const box = getState().outbox[id];
    if (!box || newer.version <= box.base) return;
    dispatch(outbox.joined({ ...join(box, newer), id, at: newer.savedAt }));
  };
}

/** Fetches what was saved elsewhere since, when nothing of this document is being sent. */
export function pull(id: string): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const box = getState().outbox[id];
    if (!box) return;
    if (hasNews(box) || box.save.kind === 'saving') return void (await dispatch(flush(id)));
    if (box.base === 0 || box.outThere) return;
    try {
      const since = await fetchSince(box.kind, id, box.base);
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

function boxFrom(id: string, { saved, tab: _tab, ...rest }: Kept): AnyOutbox {
  const empty = emptyBox(rest.kind, id, saved, rest.base, '');
  const document = rest.unsaved.length ? kindOf(rest).apply(saved, stepsOf(rest.unsaved)) : saved;
  return { ...empty, ...rest, document, save: { kind: 'waiting' } };
}

/** The server's newest version joined into an outbox; as it was when there is none. */
async function caughtUp(box: AnyOutbox): Promise<AnyOutbox> {
  if (box.base === 0 || box.outThere) return box;
  const since = await fetchSince(box.kind, box.id, box.base);
  const now = since.version === box.base ? box : { ...box, ...join(box, await newerOf(box, since)) };
  const save: SaveState = hasNews(now) ? { kind: 'waiting' } : { kind: 'saved', at: since.savedAt };
  return { ...now, heard: now.base, save };
}

/**
 * Opens a document's outbox: what this tab keeps of it, what closed tabs left, and what the server has. Without the
 * server the browser's own is opened, and joined later.
 */
export function openOutbox(kind: KindName, id: string): Thunk<Promise<void>> {
  return async (dispatch, getState, { opening }) => {
    if (getState().outbox[id]) return void (await dispatch(pull(id)));
    let running = opening.get(id);
    if (!running) {
      running = dispatch(openOnce(kind, id)) as Promise<void>;
      opening.set(id, running);
      void running.catch(() => undefined).then(() => opening.delete(id));
    }
    await running;
  };
}

function openOnce(kind: KindName, id: string): Thunk<Promise<void>> {
  return async (dispatch, getState, page) => {
    const tab = await page.tab();
    const [records, alive] = [await kept(id), await openTabs()];
    const own = records.find((r) => r.tab === tab);
    const left = records.filter((r) => r.tab !== tab && !alive.has(r.tab));
    let box = own ? boxFrom(id, own) : null;
    let away: unknown = null;
    try {
      box = box ? await caughtUp(box) : null;
    } catch (error) {
      away = error;
    }
    const taken: string[] = [];
    for (const record of left.sort((a, b) => b.base - a.base)) {
      try {
        let other = boxFrom(id, record);
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
    if (!box) box = await fromServer(kind, id);
    else if (away) box = { ...box, save: afterFailure(away, 0) };
    // Someone may have opened it meanwhile, from what a list told of it.
    if (getState().outbox[id]) return;
    dispatch(outbox.opened(box));
    await keep(box, tab, taken);
    if (box.save.kind === 'away') dispatch(outbox.notSaved({ id, save: box.save }));
    if (isWaiting(box) && box.save.kind === 'waiting') void dispatch(flush(id));
  };
}

async function fromServer(kind: KindName, id: string): Promise<AnyOutbox> {
  try {
    const { document, version, savedAt } = await fetchDocument(kind, id);
    return emptyBox(kind, id, document, version, savedAt);
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error;
    const last = await seen(id);
    if (!last) throw error;
    return { ...emptyBox(kind, id, last.document, last.version, ''), save: { kind: 'away', tries: 1 } };
  }
}

/** A new document, kept in this browser at once and sent as soon as the server is there. `label` is what undo calls it, where it is undone. */
export function layDown<N extends KindName>(
  kind: N,
  id: string,
  document: DocumentOf[N],
  label?: string,
): Thunk<Promise<void>> {
  return async (dispatch, _getState, { tab }) => {
    const empty = emptyBox(kind, id, document, 0, '');
    const made = {
      id: newId(),
      label: label ?? '',
      steps: [],
      out: { was: true, now: false },
      turn: nextTurn(),
    };
    const box = label === undefined ? empty : { ...empty, done: [made] };
    dispatch(outbox.opened(box));
    await keep(box, await tab());
    await dispatch(flush(id));
  };
}

/** A design that was taken out elsewhere, laid down as a new one with everything done here. */
export function layDownAnew(id: string): Thunk<Promise<string | null>> {
  return async (dispatch, getState, { tab }) => {
    const box = boxOf(getState().outbox, 'design', id);
    if (!box) return null;
    const copy = { ...box.document, id: newId() };
    // Closed before anything is waited for: asked twice, it is laid down once.
    dispatch(outbox.closed({ id }));
    await dispatch(layDown('design', copy.id, copy));
    // What other tabs keep of it is theirs.
    await forget(id, await tab());
    return copy.id;
  };
}

/** Lets go of what the server does not take, and opens the document as it is saved. */
export function startOver(id: string): Thunk<Promise<void>> {
  return async (dispatch, getState, { tab }) => {
    const was = getState().outbox[id];
    if (!was) return;
    const { document, version, savedAt } = await fetchDocument(was.kind, id);
    const box = emptyBox(was.kind, id, document, version, savedAt);
    dispatch(outbox.opened(box));
    await keep(box, await tab());
  };
}

/** Sends what waits in this browser, of every document: on start, and when the server is back. */
export function sendAll(): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const open = Object.values(getState().outbox);
    await Promise.all(open.map(({ id }) => dispatch(pull(id))));
    for (const { kind, id, waits } of await keptWork()) {
      if (!waits || getState().outbox[id]) continue;
      await (dispatch(openOutbox(kind, id)) as Promise<void>).catch(() => undefined);
    }
    dispatch(closeIdle());
  };
}

/**
 * The page is being left. What was done a moment ago may not be on the browser's disk yet, so the server is told of it at
 * once; what the disk keeps as well is known by its id when it comes again.
 */
export function carryUnsaved(): Thunk<void> {
  return (_dispatch, getState) => {
    for (const { kind, id, base, out, outThere, unsaved } of Object.values(getState().outbox))
      if (base > 0 && !out && !outThere && unsaved.length) carryChanges(kind, id, base, unsaved);
  };
}

/** Outboxes that nobody has in hand and that have nothing left to send are put away. */
export function closeIdle(): Thunk<void> {
  return (dispatch, getState, { isInHand }) => {
    for (const box of Object.values(getState().outbox))
      if (!isInHand(box, getState()) && box.save.kind === 'saved' && !isWaiting(box))
        dispatch(outbox.closed({ id: box.id }));
  };
}
