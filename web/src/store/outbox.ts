import type { Change, Design } from '@cordelina/core';
import { createSlice, type Draft, type PayloadAction } from '@reduxjs/toolkit';

/** What has become of a design's changes. */
export type SaveState =
  | { kind: 'saved'; at: string }
  | { kind: 'waiting' }
  | { kind: 'saving' }
  /** The server is away, or in trouble of its own: it is asked again, for the `tries`th time by now. */
  | { kind: 'away'; tries: number }
  /** The server will not have it; the message is for the person. */
  | { kind: 'refused'; message: string }
  /** The design was taken out of the workroom elsewhere. */
  | { kind: 'gone' };

/** A change as it is undone; what one stroke of the mouse did is one. */
export interface Done extends Change {
  stroke?: number;
}

/** One design as this browser has it: what the server knows, and what it does not know yet. */
export interface Outbox {
  id: string;
  /** The server's version that `saved` is; 0 while the server knows nothing of the design. */
  base: number;
  saved: Design;
  /** `saved` with `unsaved`: what is seen. */
  document: Design;
  /** Changes the server has not acknowledged, oldest first. */
  unsaved: Change[];
  done: Done[];
  undone: Done[];
  /** What was done here and could not be had beside what was done elsewhere: each may still be chosen. */
  choices: Change[];
  save: SaveState;
  /** The newest version the server has told of. */
  heard: number;
}

/** A design with what was saved elsewhere joined in: everything made for the old document, mapped. */
export type Joined = Pick<Outbox, 'base' | 'saved' | 'document' | 'unsaved' | 'done' | 'undone' | 'choices'>;

const MOST_UNDO = 500;

type State = Record<string, Outbox>;
type Of<T = object> = PayloadAction<{ id: string } & T>;

/**
 * What a reducer takes in is a document, or a step: replaced, never drafted. Frozen, it is not searched for drafts,
 * which would cost every edit a look at every row.
 */
const plain = <T>(value: T): Draft<T> => Object.freeze(value) as Draft<T>;

const none: State = {};

const slice = createSlice({
  name: 'outbox',
  initialState: none,
  reducers: {
    opened(state, { payload }: PayloadAction<Outbox>) {
      state[payload.id] = plain(payload);
    },
    closed: (state, { payload }: Of) =>
      Object.fromEntries(Object.entries(state).filter(([id]) => id !== payload.id)),
    /** A change is made; the document and the choices after it come with it. */
    changed(
      state,
      { payload }: Of<{ change: Change; document: Design } & Pick<Outbox, 'done' | 'undone' | 'choices'>>,
    ) {
      const box = state[payload.id];
      if (!box) return;
      const { change, document, done, undone, choices } = payload;
      box.document = plain(document);
      box.unsaved.push(plain(change));
      Object.assign(box, { done: plain(done.slice(-MOST_UNDO)), undone: plain(undone), choices });
      // What was refused may fit with this change beside it.
      if (box.save.kind === 'saved' || box.save.kind === 'refused') box.save = { kind: 'waiting' };
    },
    sending(state, { payload }: Of) {
      const box = state[payload.id];
      if (box) box.save = { kind: 'saving' };
    },
    /** The server has acknowledged the changes of these ids; `saved` is the document they made. */
    acknowledged(state, { payload }: Of<{ version: number; at: string; ids: string[]; saved: Design }>) {
      const box = state[payload.id];
      if (!box) return;
      const known = new Set(payload.ids);
      box.base = payload.version;
      box.heard = Math.max(box.heard, payload.version);
      box.saved = plain(payload.saved);
      box.unsaved = box.unsaved.filter((c) => !known.has(c.id));
      box.save = box.unsaved.length ? { kind: 'waiting' } : { kind: 'saved', at: payload.at };
    },
    /** What was saved elsewhere is joined in. */
    joined(state, { payload: { id, at, ...joined } }: Of<Joined & { at: string }>) {
      const box = state[id];
      if (!box) return;
      Object.assign(box, joined);
      box.heard = Math.max(box.heard, joined.base);
      box.save = joined.unsaved.length ? { kind: 'waiting' } : { kind: 'saved', at };
    },
    notSaved(state, { payload }: Of<{ save: SaveState }>) {
      const box = state[payload.id];
      if (box) box.save = payload.save;
    },
    heard(state, { payload }: Of<{ version: number }>) {
      const box = state[payload.id];
      if (box) box.heard = Math.max(box.heard, payload.version);
    },
    /** Of a choice the other side is taken: this browser's is let go. */
    letGo(state, { payload }: Of<{ choices: string[] }>) {
      const box = state[payload.id];
      if (box) box.choices = box.choices.filter((c) => !payload.choices.includes(c.id));
    },
  },
});

export const outbox = slice.actions;
export const outboxReducer = slice.reducer;

/** A design as the server has it, with nothing of this browser's own. */
export function emptyBox(document: Design, base: number, savedAt: string): Outbox {
  return {
    id: document.id,
    base,
    saved: document,
    document,
    unsaved: [],
    done: [],
    undone: [],
    choices: [],
    save: base ? { kind: 'saved', at: savedAt } : { kind: 'waiting' },
    heard: base,
  };
}

/** Whether a design has anything only this browser knows. */
export const isWaiting = ({
  base,
  unsaved,
  choices,
}: Pick<Outbox, 'base' | 'unsaved' | 'choices'>): boolean =>
  base === 0 || unsaved.length > 0 || choices.length > 0;
