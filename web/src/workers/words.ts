import { wrap, type Remote } from 'comlink';
import type { WordsWorker } from './words.worker.js';

/** A worker for words that can be stopped: what is under way is given up, and the next job begins in a new one. */
export class StoppableWorker {
  private worker: Worker | null = null;
  private remote: Remote<WordsWorker> | null = null;
  private giveUp: ((why: Error) => void) | null = null;

  /**
   * Does one job, which is told whether the worker is a new one that holds nothing yet; a job that was still under
   * way is stopped.
   *
   * @throws Stopped when it is stopped in turn
   */
  async run<T>(job: (worker: Remote<WordsWorker>, isNew: boolean) => Promise<T>): Promise<T> {
    this.stop();
    const isNew = !this.remote;
    if (!this.remote) {
      this.worker = new Worker(new URL('./words.worker.ts', import.meta.url), { type: 'module' });
      this.remote = wrap<WordsWorker>(this.worker);
    }
    const { worker, remote } = this;
    const ended = new Promise<never>((_, reject) => {
      this.giveUp = reject;
      // A worker whose script does not come, or that runs out of memory, answers nothing.
      worker!.onerror = () => {
        // It answers nothing from now on: the next job begins in a new one.
        worker!.terminate();
        if (this.worker === worker) this.worker = this.remote = null;
        reject(new Error('the worker failed'));
      };
    });
    try {
      return await Promise.race([job(remote, isNew), ended]);
    } finally {
      if (this.worker === worker) this.giveUp = null;
    }
  }

  /** Stops the job under way, if there is one. */
  stop(): void {
    if (!this.giveUp) return;
    this.worker?.terminate();
    this.worker = this.remote = null;
    this.giveUp(new Stopped());
    this.giveUp = null;
  }
}

/** The job was stopped before its end. */
export class Stopped extends Error {}
