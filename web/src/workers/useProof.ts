import { chartSteps, type Chart, type Proof, type WordSettings, type Written } from '@cordelina/core';
import { useEffect, useState } from 'react';
import { Stopped, StoppableWorker } from './words.js';
import type { Sent } from './words.worker.js';

export type Proved = Written & Proof;

const worker = new StoppableWorker();
/** The chart that the worker holds. */
let held: Chart | null = null;

/** What the worker must be sent to hold a chart: the steps from the one it holds, where that is the same chart. */
function sending(chart: Chart, isNew: boolean): Sent {
  const was = isNew ? null : held;
  held = chart;
  const steps = was && chartSteps(was, chart);
  return steps ? { steps } : { chart };
}

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
        .run((words, isNew) => words.prove(sending(chart, isNew), settings))
        .then((result) => {
          if (!stale) setProved({ design, of: chart, by: settings, result });
        })
        .catch((error: unknown) => {
          if (error instanceof Stopped) return;
          held = null;
          console.error('The words could not be proved.', error);
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
