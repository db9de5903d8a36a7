import { StudioSchema, withPatch, type Studio, type StudioPatch } from '@cordelina/core';
import type { Database } from './database.js';

/** The studio's own row: its house style and its answers. */
export class StudioStore {
  constructor(private readonly db: Pick<Database, 'query' | 'transaction'>) {}

  async open(): Promise<Studio> {
    const { rows } = await this.db.query<{ document: unknown }>('select document from studio');
    return StudioSchema.parse(rows[0]?.document ?? {});
  }

  /** Makes a change, each part of it over what is there; the answer is the studio after it. */
  change(patch: StudioPatch): Promise<Studio> {
    return this.db.transaction(async (tx) => {
      await tx.query(`insert into studio (document) values ('{}') on conflict do nothing`);
      const { rows } = await tx.query<{ document: unknown }>('select document from studio for update');
      const now = withPatch(StudioSchema.parse(rows[0]?.document ?? {}), patch);
      await tx.query('update studio set document = $1, saved_at = now()', [JSON.stringify(now)]);
      return now;
    });
  }
}
