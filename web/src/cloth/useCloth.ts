import type { Chart, Design, Extent, Piece } from '@cordelina/core';
import { proxy, wrap, type Remote } from 'comlink';
import { useEffect, useMemo, useState } from 'react';
import type {
  Asked,
  ClothAs,
  ClothOf,
  ClothWorker,
  Frame,
  Knitted,
  Progress,
} from '../workers/cloth.worker.js';
import { sending } from '../workers/held-charts.js';

/** What is to be knitted, as the page has it. */
export type Source =
  | { kind: 'chart'; chart: Chart; times: number; passes: number }
  | { kind: 'piece'; charts: Design['charts']; piece: Piece; size: string };

const chartsOf = (source: Source): readonly Chart[] =>
  source.kind === 'chart' ? [source.chart] : source.charts;

/** One worker that knits, settles and paints a cloth, as the page holds it. */
export class ClothLink {
  readonly #worker = new Worker(new URL('../workers/cloth.worker.ts', import.meta.url), { type: 'module' });
  readonly remote: Remote<ClothWorker> = wrap<ClothWorker>(this.#worker);
  /** The charts it holds. */
  #held: readonly Chart[] = [];

  async listen(frame: (frame: Frame) => void, progress: (progress: Progress) => void): Promise<void> {
    await this.remote.listen(proxy(frame), proxy(progress));
  }

  knit(source: Source, how: ClothAs): Promise<Knitted> {
    const charts = chartsOf(source);
    const sent = sending(this.#held, charts);
    this.#held = charts;
    const of: ClothOf =
      source.kind === 'chart'
        ? { kind: 'chart', sent: sent[0]!, times: source.times, passes: source.passes }
        : { kind: 'piece', sent, piece: source.piece, size: source.size };
    return this.remote.knit(of, how);
  }

  look(asked: Asked): void {
    void this.remote.look(asked);
  }

  close(): void {
    this.#worker.terminate();
  }
}

export interface ClothState {
  link: ClothLink | null;
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

/** A cloth that follows what it is made of: knitted again at each change, painted as it is asked to be. */
export function useCloth(source: Source | null, how: ClothAs, asked: Asked | null): ClothState {
  const [link, setLink] = useState<ClothLink | null>(null);
  const [frame, setFrame] = useState<Frame | null>(null);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [made, setMade] = useState<{ of: Source; how: ClothAs; knitted: Knitted } | null>(null);
  useEffect(() => {
    const made = new ClothLink();
    void made.listen(setFrame, setProgress).then(() => setLink(made));
    return () => {
      made.close();
      setLink(null);
    };
  }, []);
  useEffect(() => {
    if (!link || !source) return;
    let stale = false;
    link
      .knit(source, how)
      .then((done) => {
        if (!stale) setMade({ of: source, how, knitted: done });
      })
      .catch((error: unknown) => {
        console.error('The cloth could not be knitted.', error);
        if (!stale) setMade({ of: source, how, knitted: FAILED });
      });
    return () => {
      stale = true;
    };
  }, [link, source, how]);
  useEffect(() => {
    if (link && asked) link.look(asked);
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
