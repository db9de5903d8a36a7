import { fdatasyncSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';
import {
  begin,
  databaseTrouble,
  finish,
  FolderTrouble,
  lookAt,
  makeFolder,
  NewerDatabase,
} from './folder.js';
import { lockFolder } from './lock.js';
import { shrink } from './upkeep.js';

export type Database = Pick<PGlite, 'query' | 'transaction' | 'execProtocol' | 'runExclusive'>;

const MIGRATIONS = fileURLToPath(new URL('migrations/', import.meta.url));

interface Migration {
  number: number;
  sql: string;
}

export function migrations(): Migration[] {
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

/** Synced, and with no more of the log on the disk than is needed. */
function startParams(): string[] {
  return [
    ...PGlite.defaultStartParams.filter((p) => p !== '-F'),
    ...['wal_sync_method=fsync', 'min_wal_size=32MB', 'max_wal_size=64MB', 'wal_recycle=off'].flatMap(
      (setting) => ['-c', setting],
    ),
  ];
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

export interface OpenDatabase {
  db: PGlite;
  /** True when the folder held no database before. */
  fresh: boolean;
  close(): Promise<void>;
}

export interface OpenOptions {
  /** Brings an open file's data to the disk. */
  sync?: (handle: number) => void;
  /** What goes into a new database. A first start cut off before its end begins again. */
  seed?: (db: PGlite) => Promise<void>;
  /** The folder was taken away, or over, by someone else. */
  onLost?: (why: string) => void;
}

/**
 * Opens the database in a data folder, creating, filling and migrating it as needed. The folder is taken for
 * this process until `close`. A folder that holds something else, or part of a database, is left as it is.
 *
 * @throws FolderTrouble (FolderInUse, NewerDatabase) with what is wrong and what to do
 */
export async function openDatabase(
  folder: string,
  { sync = fdatasyncSync, seed, onLost = () => undefined }: OpenOptions = {},
): Promise<OpenDatabase> {
  makeFolder(folder);
  const unlock = await lockFolder(folder, onLost);
  try {
    const steps = migrations();
    const newest = steps.at(-1)!.number;
    const { fresh, database } = lookAt(folder, newest);
    if (fresh) begin(folder);
    const db = await opened(folder, database, sync, fresh);
    await migrate(db, steps);
    await readable(db);
    if (fresh) await seed?.(db);
    finish(folder, newest);
    return {
      db,
      fresh,
      close: async () => {
        // A tidying that fails is no reason not to stop.
        await shrink(db).catch(() => undefined);
        await db.close();
        unlock();
      },
    };
  } catch (error) {
    unlock();
    throw databaseTrouble(error, folder);
  }
}

async function opened(
  folder: string,
  database: string,
  sync: (handle: number) => void,
  fresh: boolean,
): Promise<PGlite> {
  mkdirSync(database, { recursive: true });
  const db = await PGlite.create({ fs: new SyncedFS(database, sync), startParams: startParams() });
  if (!fresh && (await schemaOf(db)) === 0) {
    await db.close();
    throw new FolderTrouble(
      `The database in ${folder} holds no workroom, though it should. Nothing was changed. Put a whole copy of the folder back, or choose another with CORDELINA_DATA.`,
    );
  }
  return db;
}

/** Touches every table, so that one whose file is missing is noticed now and not at the first save. */
async function readable(db: PGlite): Promise<void> {
  for (const table of ['designs', 'snapshots', 'changes', 'studio'])
    await db.query(`select count(*) from ${table}`);
}
