// What a worker thread begins with.
import { parentPort } from 'node:worker_threads';
import { workerData } from 'piscina';
import { giveBackSoon } from './memory.js';
import type { Jobs, Task } from './pool.js';

const jobs = (await import((workerData as { jobs: string }).jobs)) as Jobs;

/** What a job of so many bytes has built is given back at once: a thread at rest would keep it for good. */
const LARGE = 2_000_000;

const sizeOf = (asked: unknown): number => {
  if (asked instanceof Uint8Array) return asked.length;
  if (typeof asked === 'string') return asked.length;
  const body: unknown = (asked as { body?: unknown } | null)?.body;
  return body instanceof Uint8Array ? body.length : 0;
};

/** Does the job of a name, and says first that it has begun: a job's time is counted from there. */
export default ({ name, asked, id }: Task): unknown => {
  parentPort?.postMessage({ begun: id });
  if (sizeOf(asked) > LARGE) giveBackSoon(200);
  return jobs[name]!(asked as never);
};
