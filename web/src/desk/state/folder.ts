import { FLAT } from '@cordelina/core';
import type { FileRead, Question, ReadOptions, School } from '@cordelina/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A text of a folder, by its path in it. */
export interface TextFile {
  name: string;
  text: string;
}

/** A file that is not read, and why. */
export interface FileLeft {
  name: string;
  why: string;
}

/** How a text is read, where its words do not say. */
export interface ReadManner {
  construction: ReadOptions['construction'];
  school: School | '';
  size: number;
  /** Sentences that she said say nothing of the rows. */
  asides: readonly string[];
}

export const PLAIN_MANNER: ReadManner = { construction: FLAT.id, school: '', size: 0, asides: [] };

/** One text of the folder: how it is read, what was answered for it alone, and what became of it. */
export interface FolderFile extends TextFile {
  manner: ReadManner;
  answers: Record<string, string>;
  /** Null until it has been read as it now stands. */
  read: FileRead | null;
  questions: readonly Question[];
  /** The design that was made of it. */
  design: string | null;
}

/** A folder of patterns that are read together; it stays as it is while other rooms are looked at. */
interface Folder {
  files: FolderFile[];
  left: FileLeft[];
  /** What was answered for all of its texts. */
  answers: Record<string, string>;
}

const EMPTY: Folder = { files: [], left: [], answers: {} };

const unread = { read: null, questions: [] } as const;

/** Changes one file, and says that it is to be read again. */
const changed = (state: Folder, name: string, change: (file: FolderFile) => Partial<FolderFile>): Folder => ({
  ...state,
  files: state.files.map((f) => (f.name === name ? { ...f, ...unread, ...change(f) } : f)),
});

const slice = createSlice({
  name: 'folder',
  initialState: EMPTY,
  reducers: {
    opened: (_state, { payload }: PayloadAction<{ files: TextFile[]; left: FileLeft[] }>): Folder => ({
      files: payload.files.map((file) => ({
        ...file,
        manner: PLAIN_MANNER,
        answers: {},
        ...unread,
        design: null,
      })),
      left: payload.left,
      answers: {},
    }),
    wasRead: (
      state,
      {
        payload: { name, text, read, questions },
      }: PayloadAction<Pick<FolderFile, 'name' | 'text' | 'read' | 'questions'>>,
    ): Folder => ({
      ...state,
      files: state.files.map((f) =>
        f.name === name && f.text === text ? { ...f, read, questions: [...questions] } : f,
      ),
    }),
    textChanged: (state, { payload }: PayloadAction<{ name: string; text: string }>): Folder =>
      changed(state, payload.name, () => ({ text: payload.text })),
    mannerChanged: (state, { payload }: PayloadAction<{ name: string; manner: ReadManner }>): Folder =>
      changed(state, payload.name, () => ({ manner: payload.manner })),
    /** Answered for one text. */
    answered: (
      state,
      { payload: { name, word, id } }: PayloadAction<{ name: string; word: string; id: string | null }>,
    ): Folder =>
      changed(state, name, ({ answers }) => {
        const { [word]: _, ...others } = answers;
        return { answers: id === null ? others : { ...others, [word]: id } };
      }),
    /** Answered for the whole folder: the texts that ask it are read again. */
    answeredForAll: (
      state,
      { payload: { word, id } }: PayloadAction<{ word: string; id: string }>,
    ): Folder => ({
      ...state,
      answers: { ...state.answers, [word]: id },
      files: state.files.map((f) => (f.questions.some((q) => q.word === word) ? { ...f, ...unread } : f)),
    }),
    /** Worked flat or round, and named by a school, wherever a text does not say. */
    mannerForAll: (
      state,
      { payload }: PayloadAction<Pick<ReadManner, 'construction' | 'school'>>,
    ): Folder => ({
      ...state,
      files: state.files.map((f) => ({ ...f, ...unread, manner: { ...f.manner, ...payload } })),
    }),
    taken: (state, { payload }: PayloadAction<{ name: string; design: string }>): Folder => ({
      ...state,
      files: state.files.map((f) => (f.name === payload.name ? { ...f, design: payload.design } : f)),
    }),
    closed: (): Folder => EMPTY,
  },
});

export const folder = slice.actions;
export const folderReducer = slice.reducer;

/** What a text is read with: what the house always answered, what was answered for the folder, and for it alone. */
export const answersFor = (
  file: Pick<FolderFile, 'answers'>,
  ofFolder: Readonly<Record<string, string>>,
  ofHouse: Readonly<Record<string, string>>,
): Record<string, string> => ({ ...ofHouse, ...ofFolder, ...file.answers });
