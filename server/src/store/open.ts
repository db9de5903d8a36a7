import { existsSync } from 'node:fs';
import type { Db } from './db.js';
import { openFolder } from './pglite/database.js';
import { openServer } from './postgres/server.js';

/** Where the workroom is kept: on a PostgreSQL server where its address is given, else in a folder. */
export interface StorePlace {
  database: string | null;
  folder: string;
}

interface Openers {
  /** What goes into a new workroom. */
  seed?: (db: Db) => Promise<void>;
  /** Tells the person who started the program what takes its time. */
  say?: (sentence: string) => void;
  /** A folder was taken away, or over, by someone else. */
  onLost?: (why: string) => void;
}

/** Opens the database, whichever it is. @throws StoreTrouble with what is wrong and what to do */
export function openStore(
  { database, folder }: StorePlace,
  { seed, say, onLost }: Openers = {},
): Promise<Db> {
  if (database)
    return openServer(database, {
      seed,
      waiting: (where) => say?.(`Waiting for the database at ${where} …`),
    });
  if (!existsSync(folder)) say?.(`Laying out a new workroom in ${folder} …`);
  return openFolder(folder, { seed, onLost });
}
