import type { Swatch } from '@cordelina/core';
import { useEffect, useMemo } from 'react';
import { useAppDispatch, useAppSelector } from './state/index.js';
import { bookOfSwatches, meetSwatches } from './state/swatches.js';

/** The swatches of the book, asked for when a room first wants them. */
export function useSwatches(): readonly Swatch[] {
  const dispatch = useAppDispatch();
  const book = useAppSelector(bookOfSwatches);
  const state = useAppSelector((s) => s.listed.swatch.state);
  useEffect(() => {
    if (state === 'loading') void dispatch(meetSwatches());
  }, [dispatch, state]);
  return useMemo(() => book.map(({ swatch }) => swatch), [book]);
}
