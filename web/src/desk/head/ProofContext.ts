import { createContext, useContext } from 'react';
import type { ProofState } from '../../workers/useProof.js';

/** The words of the design that is open, and whether they are proved as it stands. */
export const ProofContext = createContext<ProofState>({ proved: null, last: null });

export const useProofState = () => useContext(ProofContext);
