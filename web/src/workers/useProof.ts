import type { Chart, Proof, WordSettings, Written } from '@cordelina/core';
import { useEffect, useState } from 'react';
import { Stopped, StoppableWorker } from './words.js';

export type Proved = Written & Proof;

const worker = new StoppableWorker();

const QUIET = 150;

/** The proof of the chart as it is now, null while it is being made, and the last words there were. */
export interface ProofState {
  proved: Proved | null;
  last: Proved | null;
}

/** Writes and proves the words of a design's chart whenever it or its wording changes. */
export function useProof(design: string, chart: Chart | null, settings: WordSettings | null): ProofState {
  const [proved, setProved] = useState<{
    design: string;
    of: Chart;
    by: WordSettings;
    result: Proved;
  } | null>(null);
  useEffect(() => {
    if (!chart || !settings) return;
    let stale = false;
    const timer = setTimeout(() => {
      // A proof under way is of an older chart: it is stopped.
      worker
        .run((words) => words.prove(chart, settings))
        .then((result) => {
          if (!stale) setProved({ design, of: chart, by: settings, result });
        })
        .catch((error: unknown) => {
          if (!(error instanceof Stopped)) console.error('The words could not be proved.', error);
        });
    }, QUIET);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [design, chart, settings]);
  const last = proved?.design === design ? proved.result : null;
  return { proved: proved?.of === chart && proved?.by === settings ? last : null, last };
}
