import type { Chart, Proof, WordSettings, Written } from '@cordelina/core';
import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { ProofWorker } from './proof.worker.js';

export type Proved = Written & Proof;

let worker: Worker | null = null;
let remote: Remote<ProofWorker> | null = null;
let busy = false;

function proofWorker(): Remote<ProofWorker> {
  if (!remote) {
    worker = new Worker(new URL('./proof.worker.ts', import.meta.url), { type: 'module' });
    remote = wrap<ProofWorker>(worker);
  }
  return remote;
}

/** A proof under way is of an older chart: it is stopped, and the next begins in a new worker. */
function stopIfBusy(): void {
  if (!busy) return;
  worker?.terminate();
  worker = remote = null;
  busy = false;
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
      stopIfBusy();
      busy = true;
      proofWorker()
        .prove(chart, settings)
        .then((result) => {
          busy = false;
          if (!stale) setProved({ design, of: chart, by: settings, result });
        })
        .catch((error: unknown) => {
          busy = false;
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
