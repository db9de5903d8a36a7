import type { Design } from '@cordelina/core';
import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { PieceWorker, Survey } from '../workers/piece.worker.js';

let remote: Remote<PieceWorker> | null = null;
/** How many were asked for: only the last one is shown. */
let asked = 0;

function worker(): Remote<PieceWorker> {
  remote ??= wrap<PieceWorker>(
    new Worker(new URL('../workers/piece.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}

const QUIET = 60;

/** The piece put together in the size in hand, and what is wrong with it; the last there was until it is made anew. */
export function useSurvey(
  { charts, piece, settings }: Design,
  size: string,
): { survey: Survey | null; isCurrent: boolean } {
  const [done, setDone] = useState<{ of: readonly unknown[]; survey: Survey } | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => {
      const mine = ++asked;
      worker()
        .survey({ charts, piece, settings }, size)
        .then((survey) => {
          if (mine === asked) setDone({ of: [charts, piece, size], survey });
        })
        .catch((error: unknown) => {
          remote = null;
          console.error('The piece could not be put together.', error);
        });
    }, QUIET);
    return () => clearTimeout(timer);
  }, [charts, piece, settings, size]);
  const isCurrent = done?.of[0] === charts && done?.of[1] === piece && done?.of[2] === size;
  return { survey: done?.survey ?? null, isCurrent };
}
