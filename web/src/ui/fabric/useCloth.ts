import type { Chart, Design, Extent, Piece } from '@cordelina/core';
import { proxy } from 'comlink';
import { useEffect, useMemo, useState } from 'react';
import type { Asked, ClothAs, ClothOf, Frame, Knitted, Progress } from '../../workers/fabric/asked.js';
import type { ClothWorker } from '../../workers/fabric/cloth.worker.js';
import { Stopped, type WorkerLink } from '../../workers/link.js';
import { clothLink } from '../../workers/links.js';
import { paintsCloth } from '../abilities.js';

/** What is to be knitted, as the page has it. */
export type Source =
  | { kind: 'chart'; chart: Chart; times: number; passes: number; isTurned: boolean }
  | { kind: 'piece'; charts: Design['charts']; piece: Piece; size: string; isTurned: boolean };

const chartsOf = (source: Source): readonly Chart[] =>
  source.kind === 'chart' ? [source.chart] : source.charts;

/** A worker that knits, settles and paints a cloth, as the page holds it. */
export class ClothLink {
  #asked: Asked | null = null;
  readonly #link: WorkerLink<ClothWorker>;
  readonly ask: WorkerLink<ClothWorker>['ask'];

  constructor(frame: (frame: Frame) => void, progress: (progress: Progress) => void) {
    this.#link = clothLink((worker) => {
      void worker.listen(proxy(frame), proxy(progress));
      // One that begins anew does not know yet what is looked at.
      if (this.#asked) void worker.look(this.#asked);
    });
    this.ask = (job) => this.#link.ask(job);
  }

  /** Knits; a worker that failed for want of memory, or did not come, is begun anew once. */
  async knit(source: Source, how: ClothAs): Promise<Knitted> {
    const once = () =>
      this.ask((worker) => {
        const sent = this.#link.holding(chartsOf(source));
        const of: ClothOf =
          source.kind === 'chart'
            ? {
                kind: 'chart',
                sent: sent[0]!,
                times: source.times,
                passes: source.passes,
                isTurned: source.isTurned,
              }
            : { kind: 'piece', sent, piece: source.piece, size: source.size, isTurned: source.isTurned };
        return worker.knit(of, how);
      });
    try {
      return await once();
    } catch (error) {
      if (error instanceof Stopped) throw error;
      return once();
    }
  }

  look(asked: Asked): void {
    this.#asked = asked;
    void this.ask((worker) => worker.look(asked)).catch(ignoreStopped);
  }

  close(): void {
    this.#link.close();
  }
}

export interface ClothState {
  link: ClothLink;
  frame: Frame | null;
  progress: Progress | null;
  /** What was knitted last; null until something was. */
  knitted: Knitted | null;
  /** Whether that is of what is asked for now. */
  isCurrent: boolean;
  /** The extent of the cloth as far as it has settled. */
  extent: Extent | null;
}

const FAILED: Knitted = {
  loops: 0,
  row: new Int32Array(),
  column: new Int32Array(),
  leftOut: 0,
  fault: 'The cloth could not be knitted. Reload the page to try again.',
};

const UNPAINTED: Knitted = {
  ...FAILED,
  fault: 'This browser cannot paint cloth. Charts, words and all else are whole; a newer browser shows it.',
};

/** What was asked of a worker that is no more needs no answer. */
export const ignoreStopped = (error: unknown): void => {
  if (!(error instanceof Stopped)) console.error('The cloth did not answer.', error);
};

/** A cloth that follows what it is made of: knitted again at each change, painted as it is asked to be. */
export function useCloth(source: Source | null, how: ClothAs, asked: Asked | null): ClothState {
  const [frame, setFrame] = useState<Frame | null>(null);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [made, setMade] = useState<{ of: Source; how: ClothAs; knitted: Knitted } | null>(null);
  const [link] = useState(() => new ClothLink(setFrame, setProgress));
  useEffect(() => () => link.close(), [link]);
  useEffect(() => {
    if (!source) return;
    let stale = false;
    (paintsCloth() ? link.knit(source, how) : Promise.resolve(UNPAINTED))
      .then((done) => {
        if (!stale) setMade({ of: source, how, knitted: done });
      })
      .catch((error: unknown) => {
        if (error instanceof Stopped) return;
        console.error('The cloth could not be knitted.', error);
        if (!stale) setMade({ of: source, how, knitted: FAILED });
      });
    return () => {
      stale = true;
    };
  }, [link, source, how]);
  useEffect(() => {
    if (asked) link.look(asked);
  }, [link, asked]);
  return useMemo(
    () => ({
      link,
      frame,
      progress,
      knitted: made?.knitted ?? null,
      isCurrent: made?.of === source && made?.how === how,
      extent: progress?.extent ?? null,
    }),
    [link, frame, progress, made, source, how],
  );
}
