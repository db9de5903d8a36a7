import { counted, cutText, DocumentError, headChange, LIMITS, type Design, type Card } from '@cordelina/core';
import {
  deleteDocument,
  fetchCard,
  fetchDesign,
  forgetDesign,
  listDesigns,
  Refused,
  restoreDocument,
  ServerAway,
} from '../sync/server.js';
import { makeIn } from './state/editing.js';
import type { AppDispatch, RootState } from './state/index.js';
import { keepCards, kept, keptCards, keptWork, seen } from '../sync/keeping.js';
import { newId } from '../sync/newId.js';
import { boxOf, outbox } from '../sync/outbox.js';
import { closeIdle, layDown, openOutbox } from '../sync/post.js';
import { workroom } from './state/workroom.js';

type Action<T = void> = (dispatch: AppDispatch, getState: () => RootState) => Promise<T>;

/** Does something and lists the workroom anew; what goes wrong is said. */
function said<T>(work: (dispatch: AppDispatch, getState: () => RootState) => Promise<T>): Action<T | null> {
  return async (dispatch, getState) => {
    try {
      const result = await work(dispatch, getState);
      await dispatch(loadCards());
      return result;
    } catch (error) {
      if (error instanceof ServerAway) dispatch(workroom.told('The server is away; nothing was changed.'));
      else if (error instanceof Refused || error instanceof DocumentError)
        dispatch(workroom.told(error.message));
      else throw error;
      return null;
    }
  };
}

/** Tells what this browser keeps of designs. */
async function tellHeld(dispatch: AppDispatch) {
  const held = (await keptWork()).filter(({ kind }) => kind === 'design');
  dispatch(
    workroom.heldHere({
      waiting: held.filter((h) => h.waits).map((h) => h.id),
      kept: held.map((h) => h.id),
    }),
  );
  return held;
}

/** Lists the workroom: the server's designs, and those only this browser has yet. */
export function loadCards(): Action {
  return async (dispatch, getState) => {
    const [listed, held] = await Promise.all([
      listDesigns().catch((error: unknown) => {
        if (error instanceof ServerAway) return null;
        throw error;
      }),
      tellHeld(dispatch),
    ]);
    if (listed) void keepCards(listed);
    const cards = listed ?? (await keptCards()) ?? [];
    const known = new Set(cards.map((c) => c.id));
    const own: Card[] = [];
    for (const { id, isNew } of held)
      if (isNew && !known.has(id)) own.push(...(await cardOfOwn(id, getState())));
    dispatch(workroom.listed({ cards: [...own, ...cards], state: listed ? 'ready' : 'away' }));
    for (const card of listed?.filter(isWorkedOn).slice(0, FEW) ?? []) askLater(card.id, dispatch);
  };
}

/** The server gives a card as it was while it is being worked out anew: it is asked for again so long after, and so often. */
const LATER = 2500;
const MOST_ASKED = 10;
const isWorkedOn = ({ version, summaryVersion }: Card): boolean => summaryVersion !== version;
const askLater = (id: string, dispatch: AppDispatch, asked = 1): void => {
  if (asked <= MOST_ASKED) setTimeout(() => void dispatch(loadCard(id, asked)), LATER);
};

/** Asks for one design's card, as it is after something happened to it elsewhere. */
function loadCard(id: string, asked = 0): Action {
  return async (dispatch) => {
    try {
      const card = await fetchCard(id);
      dispatch(workroom.carded(card));
      if (isWorkedOn(card)) askLater(id, dispatch, asked + 1);
    } catch (error) {
      if (error instanceof Refused) dispatch(workroom.gone(id));
      else if (!(error instanceof ServerAway)) throw error;
    }
  };
}

/** Cards that are others than the server told last are asked for one by one; where they are many, the list. */
const FEW = 12;
export function freshCards(): Action {
  return async (dispatch, getState) => {
    const { stale } = getState().workroom;
    if (stale.length > FEW) return dispatch(loadCards());
    await Promise.all([...stale.map((id) => dispatch(loadCard(id))), tellHeld(dispatch)]);
  };
}

/** The card of a design the server does not know yet. */
async function cardOfOwn(id: string, { outbox: boxes }: RootState): Promise<Card[]> {
  const [record] = await kept(id);
  const document = boxes[id]?.document ?? record?.saved ?? (await seen(id))?.document;
  if (!document || !('charts' in document)) return [];
  const { title } = document;
  // What works it out is the heart of the program: fetched when there is one to show.
  const { summarise } = await import('./summarise.js');
  return [
    {
      id,
      title,
      version: 0,
      savedAt: new Date().toISOString(),
      summary: summarise(document),
      summaryVersion: null,
    },
  ];
}

/** A new design: it is there at once, whether the server is or not. */
export const makeDesign = (design: Design) =>
  said(async (dispatch) => {
    await dispatch(layDown('design', design.id, design));
    return design.id;
  });

/** The document of a design as this browser knows it best. */
export async function documentOf(id: string, { outbox: boxes }: RootState): Promise<Design> {
  const box = boxOf(boxes, 'design', id);
  if (box) return box.document;
  try {
    return (await fetchDesign(id)).document;
  } catch (error) {
    const last = error instanceof ServerAway ? await seen(id) : null;
    if (last && 'charts' in last.document) return last.document;
    throw error;
  }
}

/** Sets something of a design that is not open. */
const setHead = (id: string, patch: Parameters<typeof headChange>[1], label: string) =>
  said(async (dispatch, getState) => {
    await dispatch(openOutbox('design', id));
    const box = boxOf(getState().outbox, 'design', id);
    const change = box && headChange(box.document, patch, label, newId());
    if (!box || !change) return;
    dispatch(makeIn(box, change));
    await settled(id, getState);
    dispatch(closeIdle());
  });

export const rename = (id: string, title: string) =>
  setHead(id, { title: cutText(title, LIMITS.title) }, 'rename');

export const setTags = (id: string, tags: string[]) => setHead(id, { tags }, 'set the tags');

/** Waits until a design's changes are sent, or the server turns out to be away. */
async function settled(id: string, getState: () => RootState): Promise<void> {
  for (let waited = 0; waited < 5000; waited += 50) {
    const kind = getState().outbox[id]?.save.kind;
    if (kind !== 'waiting' && kind !== 'saving') return;
    await new Promise((r) => setTimeout(r, 50));
  }
}

export const duplicate = (id: string) =>
  said(async (dispatch, getState) => {
    const document = await documentOf(id, getState());
    const copy = { ...document, id: newId(), title: cutText(`${document.title} (copy)`, 120) };
    await dispatch(layDown('design', copy.id, copy));
    dispatch(closeIdle());
  });

export const takeOut = ({ id, title }: Card) =>
  said(async (dispatch) => {
    await deleteDocument('design', id);
    // What this browser keeps of it stays: it may be put back.
    dispatch(outbox.closed({ id }));
    dispatch(workroom.told(null));
    dispatch(workroom.tookOut({ id, title }));
  });

export const putBack = (id: string) =>
  said(async (dispatch) => {
    await restoreDocument('design', id);
    dispatch(workroom.putBack());
  });

/** Lets a design that was taken out go for good. */
export const forgetFromBasket = (id: string) =>
  said(async (dispatch) => {
    await forgetDesign(id);
    dispatch(workroom.putBack());
  });

/** Lays down designs that came out of files; nothing stored is overwritten, for their ids are new. */
export const layDesigns = (designs: readonly Design[]) =>
  said(async (dispatch) => {
    for (const design of designs) await dispatch(layDown('design', design.id, design));
    dispatch(closeIdle());
    dispatch(workroom.broughtIn(designs.map(({ id }) => id)));
    return designs.map(({ id }) => id);
  });

/** Takes out again what was brought in last. */
export const takeOutAgain = (ids: readonly string[]) =>
  said(async (dispatch) => {
    for (const id of ids) {
      await deleteDocument('design', id);
      dispatch(outbox.closed({ id }));
    }
    dispatch(workroom.broughtIn([]));
    dispatch(workroom.told(`${counted(ids.length, 'design')} taken out again; they lie in the basket.`));
  });
