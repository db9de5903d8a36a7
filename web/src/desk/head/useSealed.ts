import { sealOf, type Design, type Seal } from '@cordelina/core';
import { useCallback, useMemo, useState } from 'react';
import { fetchSeal } from '../../sync/server.js';
import { useAnswer } from '../../workers/useAnswer.js';
import { useProof, type ProofState } from '../../workers/useProof.js';

/** The words of a design as far as they are written here, and whether they are proved, here or by the server. */
export interface Sealed extends ProofState {
  /** Null while it is not known. */
  seal: Seal | null;
  /** Has the words written here, from now on. */
  write: () => void;
}

/** The seal of a saved version from the server; null where it cannot be had. */
const askServer = ({ id, version }: { id: string; version: number }): Promise<Seal | null> =>
  fetchSeal(id, version).catch(() => null);

/**
 * Whether a design's words are proved. As long as it stands as it was saved and no room shows its words, the server says so, and
 * writer and reader need not be fetched; from its first change on, or where the server does not say, they are written and proved here.
 *
 * @param version the saved version that `design` is; null where it is none
 */
export function useSealed(design: Design | null, version: number | null): Sealed {
  const id = design?.id ?? null;
  // The design whose words are written here.
  const [here, setHere] = useState<string | null>(null);
  const isHere = id !== null && here === id;
  const write = useCallback(() => setHere(id), [id]);

  const asked = useMemo(
    () => (id !== null && version !== null && !isHere ? { id, version } : null),
    [id, version, isHere],
  );
  const { answer: told, last: heard } = useAnswer(asked, askServer, 0);
  const isUntold = id !== null && (version === null || (asked !== null && heard?.of === asked && !told));
  if (isUntold && !isHere) setHere(id);

  const { proved, last } = useProof(isHere ? design : null);
  return { proved, last, seal: proved ? sealOf(proved) : told, write };
}
