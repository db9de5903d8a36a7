import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { ApiError, type Outcome } from './faults.js';

/** Jobs are asked for by the name of a worker's function. */
export type Jobs = Record<string, (asked: never) => Outcome<unknown> | Promise<Outcome<unknown>>>;

/** What a thread is given to do. */
export interface Task {
  name: string;
  asked: unknown;
  /** By which the thread says that it has begun. */
  id: number;
}

export type Asked<J extends Jobs, N extends keyof J> = Parameters<J[N]>[0];
export type Value<J extends Jobs, N extends keyof J> =
  Awaited<ReturnType<J[N]>> extends infer R ? (R extends { value: infer T } ? T : never) : never;

export interface Limits {
  threads: number;
  /** Milliseconds a job may take, from when a thread begins it. */
  deadline: number;
  /** Milliseconds it may wait for a thread before that: threads may still be starting. */
  patience: number;
  /** Of each thread's heap, in MB. */
  memory: number;
  /** Jobs that may wait for a thread. */
  queue: number;
}

const MEGABYTE = 1024 * 1024;

/** Threads begin from what was compiled, whether this file was or not. */
const COMPILED = new URL('../../dist/work/', import.meta.url);

/** Worker threads for what would hold the server up. A job over its deadline, or out of memory, is ended. */
export class WorkPool<J extends Jobs> {
  private threads: Piscina | null = null;
  /** What is done when a thread says that it has begun a job. */
  private readonly begins = new Map<number, () => void>();
  private asked = 0;

  /** @param file of the jobs, compiled; from the folder of this file */
  constructor(
    private readonly file: string,
    private readonly limits: Limits,
  ) {}

  private pool(): Piscina {
    if (this.threads) return this.threads;
    this.threads = new Piscina({
      filename: fileURLToPath(new URL('thread.js', COMPILED)),
      workerData: { jobs: new URL(this.file, COMPILED).href },
      // The first takes jobs while it still starts; a further one only when it has, and it stays.
      minThreads: 1,
      maxThreads: this.limits.threads,
      idleTimeout: Infinity,
      maxQueue: this.limits.queue,
      // A thread at rest that waits for the next job by blocking could not give back what the last one left.
      atomics: 'disabled',
      resourceLimits: { maxOldGenerationSizeMb: this.limits.memory },
    });
    // A thread that ends badly fails its job, which says so; the pool itself has nothing to add.
    this.threads.on('error', () => undefined);
    this.threads.on('message', ({ begun }: { begun: number }) => this.begins.get(begun)?.());
    return this.threads;
  }

  /** Has all threads start. The answer comes when the first of them is ready. */
  async start(): Promise<void> {
    const ready = { name: 'ready', asked: null, id: 0 } satisfies Task;
    await Promise.all(Array.from({ length: this.limits.threads }, () => this.pool().run(ready)));
  }

  /** @throws ApiError the worker's own, 503 over the deadline or when too much waits, 413 out of memory */
  async run<N extends keyof J & string>(name: N, asked: Asked<J, N>): Promise<Value<J, N>> {
    const { deadline, patience } = this.limits;
    const id = ++this.asked;
    const stop = new AbortController();
    let isBegun = false;
    let timer = setTimeout(() => stop.abort(), patience);
    this.begins.set(id, () => {
      isBegun = true;
      clearTimeout(timer);
      timer = setTimeout(() => stop.abort(), deadline);
    });
    let result: Outcome<Value<J, N>>;
    try {
      result = (await this.pool().run({ name, asked, id } satisfies Task, {
        signal: stop.signal,
      })) as Outcome<Value<J, N>>;
    } catch (error) {
      throw asApiError(error, stop.signal.aborted && (isBegun ? 'begun' : 'waiting'), this.limits);
    } finally {
      clearTimeout(timer);
      this.begins.delete(id);
    }
    if ('fault' in result) throw new ApiError(result.fault.status, result.fault.message, result.fault.path);
    return result.value;
  }

  async close(): Promise<void> {
    await this.threads?.destroy();
  }
}

function asApiError(
  error: unknown,
  late: false | 'begun' | 'waiting',
  { deadline, memory }: Limits,
): unknown {
  const { code, message } = error as { code?: string; message?: string };
  if (late === 'begun')
    return new ApiError(
      503,
      `This takes longer than ${deadline / 1000} seconds and was stopped. Try a smaller chart or text.`,
    );
  if (code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new ApiError(
      413,
      `This takes more than ${memory} MB of memory and was stopped. Try a smaller one.`,
    );
  if (late === 'waiting' || message?.includes('queue'))
    return new ApiError(503, 'Too much is being worked out. Try again shortly.');
  return error;
}

/** The bytes a number of megabytes hold. */
export const megabytes = (n: number): number => n * MEGABYTE;
