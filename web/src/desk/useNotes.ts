import type { Note } from '@cordelina/core';
import { useEffect, useMemo } from 'react';
import { useAppDispatch, useAppSelector } from './state/index.js';
import { LISTED, meet } from './state/listed.js';

/** What knitters noticed of a design, asked for when a room first wants it. */
export function useNotes(design: string): readonly Note[] {
  const dispatch = useAppDispatch();
  const all = useAppSelector(LISTED.note.all);
  const state = useAppSelector((s) => s.listed.note.state);
  useEffect(() => {
    if (state === 'loading') void dispatch(meet('note'));
  }, [dispatch, state]);
  return useMemo(
    () => all.flatMap(({ document }) => (document.design === design ? [document] : [])),
    [all, design],
  );
}
