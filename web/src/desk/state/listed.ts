import type { KindName } from '@cordelina/core';
import { createSelector, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { boxesOf } from '../../sync/history.js';
import { keepListed, keptListed } from '../../sync/keeping.js';
import { boxOf, emptyBox, hasNews, outbox, type Outbox } from '../../sync/outbox.js';
import { pull } from '../../sync/post.js';
import { listDocuments, ServerAway, type Listed, type ListedKind } from '../../sync/server.js';
import type { AppDispatch, RootState } from './index.js';

/**
 * Kinds of documents that are listed whole: the list the server tells, with what was done here, which goes the way of every
 * document.
 */

interface List {
  /** As the server last told it, the newest first. */
  all: readonly Listed[];
  state: 'loading' | 'ready' | 'away';
  /** Photos put in or taken out here since. */
  photos: Readonly<Record<string, string | null>>;
}

const none: List = { all: [], state: 'loading', photos: {} };
const initialState: Record<ListedKind, List> = { swatch: none, knitting: none, note: none };

type Of<T> = PayloadAction<{ kind: ListedKind } & T>;

const slice = createSlice({
  name: 'listed',
  initialState,
  reducers: {
    heard: (state, { payload: { kind, all } }: Of<{ all: readonly Listed[] }>) => ({
      ...state,
      [kind]: { all, photos: {}, state: 'ready' },
    }),
    away: (state, { payload: { kind, all } }: Of<{ all: readonly Listed[] | null }>) => ({
      ...state,
      [kind]: { ...state[kind], all: all ?? state[kind].all, state: 'away' },
    }),
    photographed: (
      state,
      { payload: { kind, id, photoAt } }: Of<{ id: string; photoAt: string | null }>,
    ) => ({
      ...state,
      [kind]: { ...state[kind], photos: { ...state[kind].photos, [id]: photoAt } },
    }),
  },
});

export const listed = slice.actions;
export const listedReducer = slice.reducer;

type Slices = Pick<RootState, 'listed' | 'outbox'>;

const sameList = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((one, i) => one === b[i]);

/** What is asked of a kind that is listed: its open outboxes, and all of it as it is here. */
function selectorsOf<N extends ListedKind>(kind: N) {
  const boxes = createSelector(
    ({ outbox: all }: Slices) => all,
    (all) => boxesOf(all, kind) as Outbox<N>[],
    // Whatever else is saved, the same outboxes are the same list.
    { memoizeOptions: { resultEqualityCheck: sameList } },
  );
  /** All as they are here: the newest first. */
  const all = createSelector(
    ({ listed: lists }: Slices) => lists[kind].all as readonly Listed<N>[],
    ({ listed: lists }: Slices) => lists[kind].photos,
    boxes,
    (told, photos, open): readonly Listed<N>[] => {
      const byId = new Map(open.map((box) => [box.id, box]));
      const known = new Set(told.map(({ document }) => document.id));
      const shown = (one: Listed<N>): Listed<N> => {
        const { id } = one.document;
        const box = byId.get(id);
        const photoAt = photos[id] === undefined ? one.photoAt : photos[id];
        return box
          ? { ...one, document: box.document, version: Math.max(box.base, 1), photoAt }
          : { ...one, photoAt };
      };
      const own = open.filter((box) => !known.has(box.id)).reverse();
      const asListed = (box: Outbox<N>): Listed<N> => ({
        document: box.document,
        version: 1,
        savedAt: '',
        photoAt: null,
      });
      return [...own.map(asListed), ...told].map(shown).filter(({ document }) => !byId.get(document.id)?.out);
    },
  );
  return { boxes, all };
}

export const LISTED = {
  swatch: selectorsOf('swatch'),
  knitting: selectorsOf('knitting'),
  note: selectorsOf('note'),
} as const;

export const LISTED_KINDS = Object.keys(LISTED) as ListedKind[];
export const isListed = (kind: KindName): kind is ListedKind => kind in LISTED;

type Thunk<T = Promise<void>> = (dispatch: AppDispatch, getState: () => RootState) => T;

/** Asks the server for all of a kind; while it is away what it told last holds. */
export const meet =
  (kind: ListedKind): Thunk =>
  async (dispatch, getState) => {
    try {
      const all = await listDocuments(kind);
      dispatch(listed.heard({ kind, all }));
      void keepListed(kind, all);
      // What was saved elsewhere unheard is joined.
      for (const { document, version } of all) {
        const box = boxOf(getState().outbox, kind, document.id);
        if (box && version > box.base) void dispatch(pull(box.id));
      }
    } catch (error) {
      if (!(error instanceof ServerAway)) throw error;
      const { all } = getState().listed[kind];
      dispatch(listed.away({ kind, all: all.length ? null : await keptListed(kind) }));
    }
  };

/** The outbox of one that is listed, open from now on; null where it is not listed. */
export const openListed =
  <N extends ListedKind>(kind: N, id: string): Thunk<Outbox<N> | null> =>
  (dispatch, getState) => {
    const there = boxOf(getState().outbox, kind, id);
    if (there) return there;
    const told = getState().listed[kind].all.find(({ document }) => document.id === id) as
      Listed<N> | undefined;
    if (!told) return null;
    const box = emptyBox(kind, id, told.document, told.version, told.savedAt);
    dispatch(outbox.opened(box));
    return box;
  };

/** What the page does when something happened to one of a kind that is listed: whoever has looked at the list hears of it. */
export const heardOfListed =
  (kind: ListedKind, isOpen: boolean, what: string): Thunk<void> =>
  (dispatch, getState) => {
    if ((what !== 'saved' || !isOpen) && getState().listed[kind].state !== 'loading')
      void dispatch(meet(kind));
  };

/** How many of a kind the server has not been told all of. */
export const waitingIn = (boxes: readonly Pick<Outbox, 'base' | 'unsaved' | 'out' | 'outThere'>[]): number =>
  boxes.filter(hasNews).length;
