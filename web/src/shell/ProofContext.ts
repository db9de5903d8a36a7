import { createContext, useContext } from 'react';
import type { Proved } from '../workers/useProof.js';

/** The proved words of the design that is open; null while they are being proved. */
export const ProofContext = createContext<Proved | null>(null);

export const useProved = () => useContext(ProofContext);
