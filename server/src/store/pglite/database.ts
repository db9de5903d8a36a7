import { fdatasyncSync, mkdirSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';
import { StoreTrouble, type Db } from '../db.js';
import { migrate, migrations, schemaOf, touchTables } from '../migrate.js';
import { embedded } from './embedded.js';
import { begin, databaseTrouble, finish, lookAt, makeFolder } from './folder.js';
import { lockFolder } from './lock.js';
import { shrink } from './upkeep.js';

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

export interface OpenOptions {
  /** Brings an open file's data to the disk. */
  sync?: (handle: number) => void;
  /** What goes into a new database. A first start cut off before its end begins again. */
  seed?: (db: Db) => Promise<void>;
  /** The folder was taken away, or over, by someone else. */
  onLost?: (why: string) => void;
}

/**
 * Opens the database in a data folder, creating, filling and migrating it as needed. The folder is taken for
 * this process until it is closed. A folder that holds something else, or part of a database, is left as it is.
 *
 * @throws StoreTrouble (FolderInUse, NewerSchema) with what is wrong and what to do
 */
export async function openFolder(
  folder: string,
  { sync = fdatasyncSync, seed, onLost = () => undefined }: OpenOptions = {},
): Promise<Db> {
  makeFolder(folder);
  const unlock = await lockFolder(folder, onLost);
  try {
    const steps = migrations();
    const newest = steps.at(-1)!.number;
    const { fresh, database } = lookAt(folder, newest);
    if (fresh) begin(folder);
    mkdirSync(database, { recursive: true });
    const pglite = await PGlite.create({ fs: new SyncedFS(database, sync), startParams: startParams() });
    const db = embedded(pglite, async () => {
      // A tidying that fails is no reason not to stop.
      await shrink(pglite).catch(() => undefined);
      await pglite.close();
      unlock();
    });
    if (!fresh && (await schemaOf(db)) === 0) {
      await pglite.close();
      throw new StoreTrouble(
        `The database in ${folder} holds no workroom, though it should. Nothing was changed. Put a whole copy of the folder back, or choose another with CORDELINA_DATA.`,
      );
    }
    await migrate(db, steps);
    await touchTables(db);
    if (fresh) await seed?.(db);
    finish(folder, newest);
    return db;
  } catch (error) {
    unlock();
    throw databaseTrouble(error, folder);
  }
}
