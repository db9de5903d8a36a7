import {
  fdatasyncSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  writeFileSync,
  fsyncSync,
  openSync,
  closeSync,
} from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite, type PGliteInterface } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';
import { lockFolder } from './lock.js';

export type Database = Pick<PGliteInterface, 'query' | 'transaction'>;

/** The database was written by a newer program; nothing in it was touched. */
export class NewerDatabase extends Error {
  constructor(found: number, known: number) {
    super(
      `The data folder was written by a newer Cordelina (schema ${found}; this program knows ${known}). Nothing was changed. Use the newer program, or another folder with CORDELINA_DATA.`,
    );
  }
}

const MIGRATIONS = fileURLToPath(new URL('migrations/', import.meta.url));
/** The schema's number stands beside the database too, so that a newer one is refused before it is opened. */
const MARK = 'schema.txt';

interface Migration {
  number: number;
  sql: string;
}

function migrations(): Migration[] {
  return readdirSync(MIGRATIONS)
    .filter((f) => f.endsWith('.sql'))
    .sort()
    .map((f) => ({ number: Number.parseInt(f, 10), sql: readFileSync(path.join(MIGRATIONS, f), 'utf8') }));
}

/** Real fsync: PGlite's file system answers without syncing, so a power cut could lose what was acknowledged. */
class SyncedFS extends NodeFS {
  constructor(
    folder: string,
    private readonly sync: (handle: number) => void,
  ) {
    super(folder);
  }

  override async init(pg: PGlite, options: Parameters<NodeFS['init']>[1]) {
    const ready = await super.init(pg, options);
    type Module = { NODEFS: { stream_ops: { fsync?: (stream: { nfd: number }) => number } } };
    const syncFiles = (module: unknown) => {
      (module as Module).NODEFS.stream_ops.fsync = (stream) => {
        this.sync(stream.nfd);
        return 0;
      };
    };
    const { emscriptenOpts } = ready;
    return {
      emscriptenOpts: { ...emscriptenOpts, preRun: [...(emscriptenOpts.preRun ?? []), syncFiles] },
    } as typeof ready;
  }
}

function syncedStartParams(): string[] {
  return [...PGlite.defaultStartParams.filter((p) => p !== '-F'), '-c', 'wal_sync_method=fsync'];
}

async function schemaOf(db: PGlite): Promise<number> {
  const { rows } = await db.query<{ there: string | null }>(
    `select to_regclass('schema_migrations')::text as there`,
  );
  if (!rows[0]?.there) return 0;
  const found = await db.query<{ number: number }>(
    'select coalesce(max(number), 0) as number from schema_migrations',
  );
  return found.rows[0]!.number;
}

/** Brings the schema up to date, one transaction a step. */
export async function migrate(db: PGlite, steps = migrations()): Promise<void> {
  const at = await schemaOf(db);
  const newest = steps.at(-1)?.number ?? 0;
  if (at > newest) throw new NewerDatabase(at, newest);
  for (const { number, sql } of steps.filter((s) => s.number > at)) {
    await db.transaction(async (tx) => {
      await tx.exec(
        'create table if not exists schema_migrations (number integer primary key, at timestamptz not null default now())',
      );
      await tx.exec(sql);
      await tx.query('insert into schema_migrations (number) values ($1)', [number]);
    });
  }
}

function writeMark(file: string, number: number): void {
  const handle = openSync(file, 'w');
  writeFileSync(handle, `${number}\n`);
  fsyncSync(handle);
  closeSync(handle);
}

export interface OpenDatabase {
  db: PGlite;
  /** True when the folder held no database before. */
  fresh: boolean;
  close(): Promise<void>;
}

/**
 * Opens the database in a data folder, creating and migrating it as needed. The folder is taken for this
 * process until `close`. `sync` brings an open file's data to the disk.
 *
 * @throws FolderInUse, NewerDatabase
 */
export async function openDatabase(
  folder: string,
  sync: (handle: number) => void = fdatasyncSync,
): Promise<OpenDatabase> {
  const unlock = await lockFolder(folder);
  try {
    const mark = path.join(folder, MARK);
    const steps = migrations();
    const newest = steps.at(-1)!.number;
    if (existsSync(mark)) {
      const found = Number.parseInt(readFileSync(mark, 'utf8'), 10);
      if (found > newest) throw new NewerDatabase(found, newest);
    }
    const data = path.join(folder, 'postgres');
    mkdirSync(data, { recursive: true });
    const db = await PGlite.create({ fs: new SyncedFS(data, sync), startParams: syncedStartParams() });
    const fresh = (await schemaOf(db)) === 0;
    await migrate(db, steps);
    writeMark(mark, newest);
    return {
      db,
      fresh,
      close: async () => {
        await db.close();
        unlock();
      },
    };
  } catch (error) {
    unlock();
    throw error;
  }
}
