import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { StoreTrouble, type Db, type Queries } from './db.js';

const MIGRATIONS = fileURLToPath(new URL('migrations/', import.meta.url));

export interface Migration {
  number: number;
  sql: string;
}

/** The steps that make the schema, oldest first. */
export const migrations = (): Migration[] =>
  readdirSync(MIGRATIONS)
    .filter((f) => f.endsWith('.sql'))
    .sort()
    .map((f) => ({ number: Number.parseInt(f, 10), sql: readFileSync(path.join(MIGRATIONS, f), 'utf8') }));

/** The database was written by a newer program; nothing in it was touched. */
export class NewerSchema extends StoreTrouble {
  constructor(found: number, known: number) {
    super(
      `The database was written by a newer Cordelina (schema ${found}; this program knows ${known}). Nothing was changed. Use the newer program, or another database.`,
    );
  }
}

/** The number of the last step that was taken; 0 in a database that holds nothing of ours. */
export async function schemaOf(db: Queries): Promise<number> {
  const [found] = await db.query<{ there: string | null }>(
    `select to_regclass('schema_migrations')::text as there`,
  );
  if (!found?.there) return 0;
  const [newest] = await db.query<{ number: number }>(
    'select coalesce(max(number), 0)::int as number from schema_migrations',
  );
  return newest!.number;
}

/**
 * Brings the schema up to date, one transaction a step. Of programs that start together one does so; the others
 * wait and find it done.
 *
 * @throws NewerSchema
 */
export async function migrate(db: Db, steps = migrations()): Promise<void> {
  const newest = steps.at(-1)?.number ?? 0;
  for (const { number, sql } of steps)
    await db.lock('schema', async (tx) => {
      const at = await schemaOf(tx);
      if (at > newest) throw new NewerSchema(at, newest);
      if (at >= number) return;
      await tx.run(
        'create table if not exists schema_migrations (number integer primary key, at timestamptz not null default now())',
      );
      await tx.run(sql);
      await tx.query('insert into schema_migrations (number) values ($1)', [number]);
    });
}

/** What the schema holds. Each row says whose studio it is of. */
export const TABLES = ['studios', 'documents', 'snapshots', 'changes', 'photos'] as const;

/** Touches every table, so that one whose file is missing is noticed now and not at the first save. */
export async function touchTables(db: Queries): Promise<void> {
  for (const table of TABLES) await db.query(`select count(*)::int as n from ${table}`);
}
