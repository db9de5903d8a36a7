import { availableParallelism } from 'node:os';
import type { ComputeJobs } from './compute-jobs.js';
import type { KeeperJobs } from './keeper-jobs.js';
import { Keeper } from './keeper.js';
import { WorkPool, type Limits } from './pool.js';

/** The server's threads: one that keeps open documents, and some for computation that keeps nothing. */
export interface Workers {
  keeper: Keeper;
  compute: WorkPool<ComputeJobs>;
  close(): Promise<void>;
}

export function makeWorkers(limits: Partial<Limits> = {}): Workers {
  const usual = { deadline: 10_000, patience: 60_000, memory: 1024, queue: 64 };
  const keeper = new Keeper(
    new WorkPool<KeeperJobs>('./keeper-jobs.js', { ...usual, threads: 1, ...limits }),
  );
  const compute = new WorkPool<ComputeJobs>('./compute-jobs.js', {
    ...usual,
    threads: Math.max(2, availableParallelism() - 1),
    ...limits,
  });
  return { keeper, compute, close: async () => void (await Promise.all([keeper.close(), compute.close()])) };
}
