import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { ApiError, type Outcome } from './faults.js';

/** Jobs are asked for by the name of a worker's function. */
type Jobs = Record<string, (asked: never) => Outcome<unknown> | Promise<Outcome<unknown>>>;
export type Asked<J extends Jobs, N extends keyof J> = Parameters<J[N]>[0];
export type Value<J extends Jobs, N extends keyof J> =
  Awaited<ReturnType<J[N]>> extends infer R ? (R extends { value: infer T } ? T : never) : never;

export interface Limits {
  threads: number;
  /** Milliseconds from the asking to the answer. */
  deadline: number;
  /** Of each thread's heap, in MB. */
  memory: number;
  /** Jobs that may wait for a thread. */
  queue: number;
}

const MEGABYTE = 1024 * 1024;

/** Worker threads for what would hold the server up. A job over its deadline, or out of memory, is ended. */
export class WorkPool<J extends Jobs> {
  private threads: Piscina | null = null;

  constructor(
    private readonly file: string,
    private readonly limits: Limits,
  ) {}

  private pool(): Piscina {
    if (this.threads) return this.threads;
    this.threads = new Piscina({
      filename: fileURLToPath(new URL('./thread.js', import.meta.url)),
      workerData: { jobs: new URL(this.file, import.meta.url).href },
      // The first takes jobs while it still starts; a further one only when it has, and it stays.
      minThreads: 1,
      maxThreads: this.limits.threads,
      idleTimeout: Infinity,
      maxQueue: this.limits.queue,
      resourceLimits: { maxOldGenerationSizeMb: this.limits.memory },
    });
    // A thread that ends badly fails its job, which says so; the pool itself has nothing to add.
    this.threads.on('error', () => undefined);
    return this.threads;
  }

  /** Has all threads start. The answer comes when the first of them is ready. */
  async start(): Promise<void> {
    await Promise.all(Array.from({ length: this.limits.threads }, () => this.pool().run({ name: 'ready' })));
  }

  /** @throws ApiError the worker's own, 503 over the deadline or when too much waits, 413 out of memory */
  async run<N extends keyof J & string>(name: N, asked: Asked<J, N>): Promise<Value<J, N>> {
    const signal = AbortSignal.timeout(this.limits.deadline);
    let result: Outcome<Value<J, N>>;
    try {
      result = (await this.pool().run({ name, asked }, { signal })) as Outcome<Value<J, N>>;
    } catch (error) {
      throw asApiError(error, signal.aborted, this.limits);
    }
    if ('fault' in result) throw new ApiError(result.fault.status, result.fault.message, result.fault.path);
    return result.value;
  }

  async close(): Promise<void> {
    await this.threads?.destroy();
  }
}

function asApiError(error: unknown, late: boolean, { deadline, memory }: Limits): unknown {
  const { code, message } = error as { code?: string; message?: string };
  if (late)
    return new ApiError(
      503,
      `This takes longer than ${deadline / 1000} seconds and was stopped. Try a smaller chart or text.`,
    );
  if (code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new ApiError(
      413,
      `This takes more than ${memory} MB of memory and was stopped. Try a smaller one.`,
    );
  if (message?.includes('queue'))
    return new ApiError(503, 'Too much is being worked out. Try again shortly.');
  return error;
}

/** The bytes a number of megabytes hold. */
export const megabytes = (n: number): number => n * MEGABYTE;
