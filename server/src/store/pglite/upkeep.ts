import type { PGlite } from '@electric-sql/pglite';
import { TABLES } from '../migrate.js';

/** The embedded database tidies nothing by itself: dead rows and the log are cleared every so many saves. */
const SAVES_A_TIDYING = 500;
/** Tables of less than this, in bytes, are not worth writing anew. */
const SMALL = 4 * 1024 * 1024;

/** The column of each table that holds nearly all of it. */
const WEIGHTY: Readonly<Record<(typeof TABLES)[number], string>> = {
  studios: 'made_at',
  documents: 'summary',
  snapshots: 'document',
  changes: 'changes',
  photos: 'bytes',
};

type Commands = Pick<PGlite, 'exec' | 'query'>;

export class Upkeep {
  private saves = 0;

  constructor(private readonly db: Commands) {}

  async saved(): Promise<void> {
    if (++this.saves % SAVES_A_TIDYING === 0) await tidy(this.db);
  }
}

const vacuum = `vacuum ${TABLES.join(', ')}`;

async function tidy(db: Commands): Promise<void> {
  await db.exec(vacuum);
  await db.exec('checkpoint');
}

/** Before a clean stop: tables that are mostly empty by now are written anew, and the log is cut. */
export async function shrink(db: Commands): Promise<void> {
  await db.exec(vacuum);
  for (const table of TABLES) {
    const { rows } = await db.query<{ size: number; live: number }>(
      `select pg_total_relation_size('${table}')::float8 as size,
         coalesce(sum(pg_column_size(${WEIGHTY[table]}) + 120), 0)::float8 as live from ${table}`,
    );
    const { size, live } = rows[0]!;
    if (size > SMALL && size > 3 * live) await db.exec(`vacuum full ${table}`);
  }
  await db.exec('checkpoint');
  // Of a log that has run into a further file only that one is kept.
  const { rows } = await db.query<{ files: number }>('select count(*)::int as files from pg_ls_waldir()');
  if (rows[0]!.files > 1) await db.exec('select pg_switch_wal(); checkpoint');
}
