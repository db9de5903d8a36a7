import type { Design } from '@cordelina/core';
import { useEffect, useState } from 'react';
import { Stopped } from '../workers/link.js';
import { pieceLink } from '../workers/links.js';
import type { Survey } from '../workers/piece.worker.js';

const link = pieceLink();

const QUIET = 60;

/** The piece put together in the size in hand, and what is wrong with it; the last there was until it is made anew. */
export function useSurvey(
  { charts, piece, settings }: Design,
  size: string,
): { survey: Survey | null; isCurrent: boolean } {
  const [done, setDone] = useState<{ of: readonly unknown[]; survey: Survey } | null>(null);
  useEffect(() => {
    let isStale = false;
    const timer = setTimeout(() => {
      link
        .ask((worker) => worker.survey(link.holding(charts), piece, settings.units, size))
        .then((survey) => {
          if (!isStale) setDone({ of: [charts, piece, size], survey });
        })
        .catch((error: unknown) => {
          if (!(error instanceof Stopped)) console.error('The piece could not be put together.', error);
        });
    }, QUIET);
    return () => {
      isStale = true;
      clearTimeout(timer);
    };
  }, [charts, piece, settings, size]);
  const isCurrent = done?.of[0] === charts && done?.of[1] === piece && done?.of[2] === size;
  return { survey: done?.survey ?? null, isCurrent };
}
