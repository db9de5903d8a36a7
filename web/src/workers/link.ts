import type { Chart } from '@cordelina/core';
import { wrap, type Remote } from 'comlink';
import { sending, type Sent } from './held-charts.js';

/** What was asked for was given up before its end. */
export class Stopped extends Error {}

/**
 * The one link between the page and a worker. The worker begins when something is first asked of it, and anew after it was stopped
 * or has failed: whatever was under way then ends, and what it held is sent again. Charts are sent whole once, then as the steps
 * from those it holds.
 */
export class WorkerLink<W> {
  #worker: Worker | null = null;
  #remote: Remote<W> | null = null;
  #held: readonly Chart[] = [];
  /** How each thing that is under way is given up. */
  readonly #underWay = new Set<(why: Error) => void>();

  /** The last that was asked in its turn, and what those that wait for theirs wait for. */
  #last: object | null = null;
  #before: Promise<unknown> = Promise.resolve();

  /**
   * @param start makes the worker
   * @param begun is told of each new one, before anything is asked of it
   */
  constructor(
    private readonly start: () => Worker,
    private readonly begun: (remote: Remote<W>) => unknown = () => undefined,
  ) {}

  /** Asks for something beside whatever is under way. @throws Stopped when it is given up, or what the worker throws */
  async ask<T>(job: (worker: Remote<W>) => Promise<T>): Promise<T> {
    const remote = this.#open();
    let giveUp: (why: Error) => void = () => undefined;
    const ended = new Promise<never>((_, reject) => {
      giveUp = reject;
      this.#underWay.add(reject);
    });
    try {
      return await Promise.race([job(remote), ended]);
    } catch (error) {
      // What it holds by now nobody knows.
      this.#held = [];
      throw error;
    } finally {
      this.#underWay.delete(giveUp);
    }
  }

  /** Asks for something in the place of whatever is under way, which is stopped. */
  run<T>(job: (worker: Remote<W>) => Promise<T>): Promise<T> {
    this.stop();
    return this.ask(job);
  }

  /**
   * Asks for something once what was asked so before is answered. Where several wait, only the last is asked: the others are given
   * up. So that a hand faster than the worker never waits for answers to what is no more.
   */
  async next<T>(job: (worker: Remote<W>) => Promise<T>): Promise<T> {
    const turn = (this.#last = {});
    await this.#before;
    if (this.#last !== turn) throw new Stopped();
    const answer = this.ask(job);
    this.#before = answer.catch(() => undefined);
    return answer;
  }

  /** What to send of charts, so that the worker holds them. To be called within a job, which sends it. */
  holding(charts: readonly Chart[]): Sent[] {
    const sent = sending(this.#held, charts);
    this.#held = charts;
    return sent;
  }

  /** Gives up what is under way, and the worker with it, since nothing else ends it. */
  stop(): void {
    if (this.#underWay.size) this.#end(new Stopped());
  }

  /** Gives up the worker, whatever it does. */
  close(): void {
    this.#end(new Stopped());
  }

  #open(): Remote<W> {
    if (this.#remote) return this.#remote;
    const worker = this.start();
    // A worker whose script does not come, or that runs out of memory, answers nothing.
    worker.onerror = () => {
      if (this.#worker === worker) this.#end(new Error('The worker failed.'));
    };
    this.#worker = worker;
    this.#remote = wrap<W>(worker);
    this.begun(this.#remote);
    return this.#remote;
  }

  #end(why: Error): void {
    this.#worker?.terminate();
    this.#worker = this.#remote = null;
    this.#held = [];
    const underWay = [...this.#underWay];
    this.#underWay.clear();
    for (const giveUp of underWay) giveUp(why);
  }
}
