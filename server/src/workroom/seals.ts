import { LRUCache } from 'lru-cache';
import type { Workers } from '../work/workers.js';
import type { Documents } from './documents.js';

const MOST_SEALS = 2000;

/** Whether the words of designs are proved. A version stays as it is, so it is proved once. */
export class Seals {
  /** By version; several who ask at once wait for the same. */
  private readonly seals: LRUCache<string, string, { id: string; version: number }>;

  constructor(designs: Documents<'design'>, workers: Workers) {
    this.seals = new LRUCache({
      max: MOST_SEALS,
      fetchMethod: async (_key, _stale, { context: { id, version } }) =>
        workers.compute.run('seal', await designs.json(id, version)),
    });
  }

  /** The seal of a version as JSON. @throws ApiError 404 where that version is not kept, 413 where it is too large to be proved here */
  of(id: string, version: number): Promise<string> {
    return this.seals.forceFetch(`${id}/${version}`, { context: { id, version } });
  }
}
