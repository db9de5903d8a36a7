import {
  changePart,
  changePiece,
  changeSize,
  startPiece,
  type Piece,
  type PieceFields,
  type Size,
} from '@cordelina/core';
import { useMemo } from 'react';
import { editPiece } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';

/** Short ids: parts and sizes are told apart within one piece only. */
export const shortId = (): string => newId().slice(0, 8);

/** Ways to change the piece of the design that is open; each is one edit and can be undone. */
export function usePieceActs() {
  const dispatch = useAppDispatch();
  return useMemo(() => {
    const edit = (label: string, change: (piece: Piece) => Piece) =>
      dispatch(editPiece(label, (piece) => (piece ? change(piece) : null)));
    return {
      edit,
      set: (label: string, fields: PieceFields) => edit(label, (piece) => changePiece(piece, fields)),
      part: (label: string, id: string, fields: object) =>
        edit(label, (piece) => changePart(piece, id, fields)),
      size: (label: string, id: string, fields: Partial<Size>) =>
        edit(label, (piece) => changeSize(piece, id, fields)),
    };
  }, [dispatch]);
}
export type PieceActs = ReturnType<typeof usePieceActs>;

/** Begins a piece of all charts of the design. */
export function useBegin() {
  const dispatch = useAppDispatch();
  return () => dispatch(editPiece('set out', (_, design) => startPiece(design, shortId)));
}
