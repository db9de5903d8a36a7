import * as jobs from './keeper-jobs.js';
import type { KeeperJobs } from './keeper-jobs.js';
import { ApiError, type Outcome } from './faults.js';
import type { Asked, Value, WorkPool } from './pool.js';

/** Bodies and stored documents up to this, in bytes, are small: the work on them takes well under a millisecond. */
const SMALL = 16 * 1024;

function isSmall({ body, source }: { body?: Uint8Array; source?: jobs.Wanted['source'] }): boolean {
  if (body && body.length > SMALL) return false;
  if (!source) return true;
  const changes = source.changes.reduce((sum, list) => sum + list.length, 0);
  return source.snapshot.document.length < SMALL / 4 && changes < 4 * SMALL;
}

/**
 * Keeps documents and does what is asked of them: small work here and now, since handing it over would take longer
 * than doing it, and the rest in a thread. A document is kept on one side; asked for on the other it is unknown
 * there, and made again from its source.
 */
export class Keeper {
  constructor(private readonly thread: WorkPool<KeeperJobs>) {}

  start(): Promise<void> {
    return this.thread.start();
  }

  /** @throws ApiError as the thread does */
  async run<N extends keyof KeeperJobs>(name: N, asked: Asked<KeeperJobs, N>): Promise<Value<KeeperJobs, N>> {
    // What is packed is zipped: that is never small.
    if (name !== 'pack' && isSmall(asked ?? {})) {
      const done = (jobs[name] as (asked: unknown) => Outcome<Value<KeeperJobs, N>>)(asked);
      if ('fault' in done) throw new ApiError(done.fault.status, done.fault.message, done.fault.path);
      if (!('unknown' in (done.value as object))) return done.value;
    }
    return this.thread.run(name, asked);
  }

  close(): Promise<void> {
    return this.thread.close();
  }
}
