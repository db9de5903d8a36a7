// What a worker thread begins with.
import { parentPort } from 'node:worker_threads';
import { workerData } from 'piscina';
import type { Jobs, Task } from './pool.js';

const jobs = (await import((workerData as { jobs: string }).jobs)) as Jobs;

/** Does the job of a name, and says first that it has begun: a job's time is counted from there. */
export default ({ name, asked, id }: Task): unknown => {
  parentPort?.postMessage({ begun: id });
  return jobs[name]!(asked as never);
};
