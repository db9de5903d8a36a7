import { type Design, type WrittenDesign, type WordSettings } from '@cordelina/core';
import { useEffect, useMemo, useState } from 'react';
import { Stopped } from './link.js';
import { wordsLink } from './links.js';

const link = wordsLink();

const QUIET = 150;
/** A worker may fail for want of memory, or not come: it is tried again. */
const AGAIN = 1000;
const MOST_TRIES = 3;

/** The proof of the design as it is now, null while it is being made, and the last words there were. */
export interface ProofState {
  proved: WrittenDesign | null;
  last: WrittenDesign | null;
}

interface Asked {
  id: string;
  charts: Design['charts'];
  piece: Design['piece'];
  by: WordSettings;
}

/** Writes and proves the words of a design's charts and its piece whenever they or their wording change. */
export function useProof(design: Design | null): ProofState {
  const [done, setDone] = useState<(Asked & { result: WrittenDesign }) | null>(null);
  const settings = design?.settings;
  const by = useMemo<WordSettings | null>(() => {
    if (!settings) return null;
    const { school, names, hand, style, twist, twistNames, cableless, bobble } = settings;
    return { school, names, hand, style, twist, twistNames, cableless, bobble };
  }, [settings]);
  const [id, charts, piece = null] = [design?.id, design?.charts, design?.piece];
  useEffect(() => {
    if (!id || !charts || !by) return;
    let stale = false;
    let timer: ReturnType<typeof setTimeout>;
    const prove = (tries: number) => {
      // A proof under way is of an older design: it is stopped.
      link
        .run((words) => words.prove(link.holding(charts), piece, by))
        .then((result) => {
          if (!stale) setDone({ id, charts, piece, by, result });
        })
        .catch((error: unknown) => {
          if (error instanceof Stopped) return;
          console.error('The words could not be proved.', error);
          if (!stale && tries > 1) timer = setTimeout(() => prove(tries - 1), AGAIN);
        });
    };
    timer = setTimeout(() => prove(MOST_TRIES), QUIET);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [id, charts, piece, by]);
  const last = done && done.id === id ? done.result : null;
  const isOfThis = done?.charts === charts && done?.piece === piece && done?.by === by;
  return { proved: isOfThis ? last : null, last };
}
