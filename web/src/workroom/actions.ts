import { DocumentError, readDesign, type Design } from '@cordelina/core';
import {
  createDesign,
  deleteDesign,
  fetchDesign,
  listDesigns,
  Refused,
  restoreDesign,
  saveDesign,
  ServerAway,
  type Card,
} from '../store/api.js';
import type { AppDispatch, RootState } from '../store/index.js';
import { waiting } from '../store/shelf.js';
import { workroom } from '../store/workroom.js';
import { newId } from '../store/newId.js';

type Action<T = void> = (dispatch: AppDispatch, getState: () => RootState) => Promise<T>;

/** Does something with the server and lists the workroom anew; what goes wrong is said. */
function withServer<T>(
  work: (dispatch: AppDispatch, getState: () => RootState) => Promise<T>,
): Action<T | null> {
  return async (dispatch, getState) => {
    try {
      const result = await work(dispatch, getState);
      dispatch(workroom.listed(await listDesigns()));
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

export function loadCards(): Action {
  return async (dispatch) => {
    try {
      dispatch(workroom.listed(await listDesigns()));
      dispatch(workroom.heldHere(await waiting()));
    } catch (error) {
      if (!(error instanceof ServerAway)) throw error;
      dispatch(workroom.away());
    }
  };
}

export const makeDesign = (design: Design) =>
  withServer(async () => {
    await createDesign(design);
    return design.id;
  });

export const rename = (id: string, title: string) =>
  withServer(async () => {
    const { document, version } = await fetchDesign(id);
    await saveDesign({ ...document, title }, version);
  });

export const duplicate = (id: string) =>
  withServer(async () => {
    const { document } = await fetchDesign(id);
    await createDesign({
      ...document,
      id: newId(),
      title: `${document.title} (copy)`.slice(0, 120),
    });
  });

export const takeOut = ({ id, title }: Card) =>
  withServer(async (dispatch) => {
    await deleteDesign(id);
    dispatch(workroom.told(null));
    dispatch(workroom.tookOut({ id, title }));
  });

export const putBack = () =>
  withServer(async (dispatch, getState) => {
    const { removed } = getState().workroom;
    if (removed) await restoreDesign(removed.id);
    dispatch(workroom.putBack());
  });

const LARGEST_FILE = 4_000_000;

/** Brings a design in from a file as a new one; the id is made anew, so nothing stored is overwritten. */
export const importFile = (file: File) =>
  withServer(async () => {
    if (file.size > LARGEST_FILE) throw new DocumentError(`"${file.name}" is too large to be a design.`);
    let value: unknown;
    try {
      value = JSON.parse(await file.text());
    } catch {
      throw new DocumentError(`"${file.name}" is not JSON, so it is not a design exported from here.`);
    }
    const design = readDesign(value);
    const id = newId();
    await createDesign({ ...design, id });
    return id;
  });

/** Saves a design as a file on the person's own disk. */
export const download = (id: string) =>
  withServer(async () => {
    const { document: design } = await fetchDesign(id);
    const link = document.createElement('a');
    link.href = URL.createObjectURL(
      new Blob([JSON.stringify(design, null, 1)], { type: 'application/json' }),
    );
    link.download = `${design.title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'design'}.json`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 1000);
  });
