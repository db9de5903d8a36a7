import {
  chartName,
  chartSteps,
  type Chart,
  type Design,
  type ProvedDesign,
  type WordSettings,
} from '@cordelina/core';
import { useEffect, useMemo, useState } from 'react';
import { Stopped, StoppableWorker } from './words.js';
import type { Sent } from './words.worker.js';

const worker = new StoppableWorker();
/** The charts that the worker holds. */
let held: readonly Chart[] = [];

/** What the worker must be sent to hold charts: the steps from those it holds, where these are the same charts. */
function sending(charts: readonly Chart[], isNew: boolean): Sent[] {
  const before = isNew ? [] : held;
  held = charts;
  return charts.map((chart): Sent => {
    const was = before.find((c) => c.id === chart.id);
    const steps = was === chart ? [] : was && chartSteps(was, chart);
    return steps ? { id: chart.id, steps } : { chart };
  });
}

const QUIET = 150;

/** The proof of the design as it is now, null while it is being made, and the last words there were. */
export interface ProofState {
  proved: ProvedDesign | null;
  last: ProvedDesign | null;
}

interface Asked {
  id: string;
  charts: Design['charts'];
  by: WordSettings;
}

/** Writes and proves the words of a design's charts whenever they or their wording change. */
export function useProof(design: Design | null): ProofState {
  const [done, setDone] = useState<(Asked & { result: ProvedDesign }) | null>(null);
  const settings = design?.settings;
  const by = useMemo<WordSettings | null>(() => {
    if (!settings) return null;
    const { school, names, hand, style, twist, cableless, bobble } = settings;
    return { school, names, hand, style, twist, cableless, bobble };
  }, [settings]);
  const [id, charts] = [design?.id, design?.charts];
  useEffect(() => {
    if (!id || !charts || !by) return;
    let stale = false;
    const names = charts.map((chart) => chartName({ charts }, chart));
    const timer = setTimeout(() => {
      // A proof under way is of an older design: it is stopped.
      worker
        .run((words, isNew) => words.prove(sending(charts, isNew), names, by))
        .then((result) => {
          if (!stale) setDone({ id, charts, by, result });
        })
        .catch((error: unknown) => {
          if (error instanceof Stopped) return;
          held = [];
          console.error('The words could not be proved.', error);
        });
    }, QUIET);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [id, charts, by]);
  const last = done && done.id === id ? done.result : null;
  return { proved: done?.charts === charts && done?.by === by ? last : null, last };
}
