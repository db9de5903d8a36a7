import type { Swatch } from '@cordelina/core';
import { useEffect } from 'react';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { meetSwatches } from '../store/swatches.js';

/** The swatches of the book, asked for when a room first wants them. */
export function useSwatches(): readonly Swatch[] {
  const dispatch = useAppDispatch();
  const { all, state } = useAppSelector((s) => s.swatches);
  useEffect(() => {
    if (state === 'loading') void dispatch(meetSwatches());
  }, [dispatch, state]);
  return all.map(({ swatch }) => swatch);
}
