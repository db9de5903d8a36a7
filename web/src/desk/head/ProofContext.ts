import { createContext, useContext, useEffect } from 'react';
import type { Sealed } from './useSealed.js';

/** The words of the design that is open, and whether they are proved as it stands. */
export const ProofContext = createContext<Sealed>({
  proved: null,
  last: null,
  seal: null,
  write: () => undefined,
});

/** The design's words, for a room that shows them: they are written from then on. */
export function useProofState(): Sealed {
  const state = useContext(ProofContext);
  const { write } = state;
  useEffect(() => write(), [write]);
  return state;
}

/** Whether the design's words are proved; null while that is not known. */
export const useSeal = () => useContext(ProofContext).seal;
