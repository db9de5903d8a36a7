import { KINDS, type Change, type DocumentOf, type Kind, type KindName } from '@cordelina/core';
import { createSlice, type Draft, type PayloadAction } from '@reduxjs/toolkit';

/** A document of any kind. */
export type Document = DocumentOf[KindName];

/** What has become of a document's changes. */
export type SaveState =
  | { kind: 'saved'; at: string }
  | { kind: 'waiting' }
  | { kind: 'saving' }
  /** The server is away, or in trouble of its own: it is asked again, for the `tries`th time by now. */
  | { kind: 'away'; tries: number }
  /** The server will not have it; the message is for the person. */
  | { kind: 'refused'; message: string }
  /** The document was taken out elsewhere. */
  | { kind: 'gone' };

/** A change as it is undone; what one stroke of the mouse did is one. */
export interface Done extends Change {
  stroke?: number;
  /** It laid the document down, or took it out: whether it was out before, and after. */
  out?: { was: boolean; now: boolean };
  /** When it was done, undone or done again, so that what was done to several documents has an order. */
  turn?: number;
}

let turn = 0;
/** The turn of what is done now: it grows with everything that is done, also over a reload. */
export const nextTurn = (): number => (turn = Math.max(turn + 1, Date.now()));

/** One document as this browser has it: what the server knows, and what it does not know yet. */
export interface Outbox<N extends KindName = 'design'> {
  kind: N;
  id: string;
  /** The server's version that `saved` is; 0 while the server knows nothing of the document. */
  base: number;
  saved: DocumentOf[N];
  /** `saved` with `unsaved`: what is seen. */
  document: DocumentOf[N];
  /** Taken out, as it is seen here, and as far as the server has been told. */
  out: boolean;
  outThere: boolean;
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

/** An outbox of whatever kind. */
export type AnyOutbox = Outbox<KindName>;

/** What a document of an outbox is. Its kind and it go together. */
export const kindOf = ({ kind }: Pick<AnyOutbox, 'kind'>) => KINDS[kind] as unknown as Kind<Document>;

/** The outbox of a document of one kind; undefined while it is not open. */
export function boxOf<N extends KindName>(
  boxes: Readonly<Record<string, AnyOutbox>>,
  kind: N,
  id: string | null,
): Outbox<N> | undefined {
  const box = id === null ? undefined : boxes[id];
  return box?.kind === kind ? (box as Outbox<N>) : undefined;
}

/** A document with what was saved elsewhere joined in: everything made for the old one, mapped. */
export type Joined = Pick<
  AnyOutbox,
  'base' | 'saved' | 'document' | 'unsaved' | 'done' | 'undone' | 'choices'
>;

const MOST_UNDO = 500;

type State = Record<string, AnyOutbox>;
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
    opened(state, { payload }: PayloadAction<AnyOutbox>) {
      state[payload.id] = plain(payload);
    },
    closed: (state, { payload }: Of) =>
      Object.fromEntries(Object.entries(state).filter(([id]) => id !== payload.id)),
    /** A change is made; the document and the choices after it come with it. */
    changed(
      state,
      {
        payload,
      }: Of<
        { change: Change; document: Document; instead?: string } & Pick<
          AnyOutbox,
          'done' | 'undone' | 'choices' | 'out'
        >
      >,
    ) {
      const box = state[payload.id];
      if (!box) return;
      const { change, document, done, undone, choices, out, instead } = payload;
      box.document = plain(document);
      box.out = out;
      // It stands in the place of one that has not been sent.
      if (instead !== undefined && box.unsaved.at(-1)?.id === instead) box.unsaved.pop();
      // One that only lays the document down or takes it out has no steps.
      if (change.steps.length) box.unsaved.push(plain(change));
      Object.assign(box, { done: plain(done.slice(-MOST_UNDO)), undone: plain(undone), choices });
      // What was refused may fit with this change beside it.
      if (box.save.kind === 'saved' || box.save.kind === 'refused') box.save = { kind: 'waiting' };
    },
    sending(state, { payload }: Of) {
      const box = state[payload.id];
      if (box) box.save = { kind: 'saving' };
    },
    /** The server has acknowledged the changes of these ids; `saved` is the document they made. */
    acknowledged(state, { payload }: Of<{ version: number; at: string; ids: string[]; saved: Document }>) {
      const box = state[payload.id];
      if (!box) return;
      const known = new Set(payload.ids);
      box.base = payload.version;
      box.heard = Math.max(box.heard, payload.version);
      box.saved = plain(payload.saved);
      box.unsaved = box.unsaved.filter((c) => !known.has(c.id));
      box.save = hasNews(box) ? { kind: 'waiting' } : { kind: 'saved', at: payload.at };
    },
    /** What was saved elsewhere is joined in. */
    joined(state, { payload: { id, at, ...joined } }: Of<Joined & { at: string }>) {
      const box = state[id];
      if (!box) return;
      Object.assign(box, joined);
      box.heard = Math.max(box.heard, joined.base);
      box.save = joined.unsaved.length ? { kind: 'waiting' } : { kind: 'saved', at };
    },
    /** Someone else has taken the document out, or put it back. */
    outElsewhere(state, { payload }: Of<{ out: boolean }>) {
      const box = state[payload.id];
      if (box) box.out = box.outThere = payload.out;
    },
    /** The server has taken the document out, or put it back, as it was asked to. */
    outThere(state, { payload }: Of<{ out: boolean; at: string }>) {
      const box = state[payload.id];
      if (!box) return;
      box.outThere = payload.out;
      box.save = hasNews(box) ? { kind: 'waiting' } : { kind: 'saved', at: payload.at };
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

/** A document as the server has it, with nothing of this browser's own. */
export function emptyBox<N extends KindName>(
  kind: N,
  id: string,
  document: DocumentOf[N],
  base: number,
  savedAt: string,
): Outbox<N> {
  return {
    kind,
    id,
    out: false,
    outThere: false,
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

/** Whether there is anything to tell the server: a document it does not know, changes, or that it is out or back. */
export const hasNews = ({
  base,
  unsaved,
  out,
  outThere,
}: Pick<AnyOutbox, 'base' | 'unsaved' | 'out' | 'outThere'>): boolean =>
  base === 0 ? !out : unsaved.length > 0 || out !== outThere;

/** Whether a document has anything only this browser knows. */
export const isWaiting = (
  box: Pick<AnyOutbox, 'base' | 'unsaved' | 'choices' | 'out' | 'outThere'>,
): boolean => hasNews(box) || box.choices.length > 0;
