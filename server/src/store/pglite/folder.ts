import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  statfsSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { StoreTrouble } from '../db.js';
import { NewerSchema } from '../migrate.js';

/** The schema's number stands beside the database too, so that a newer one is refused before it is opened. */
const MARK = 'schema.txt';
/** Stands in a folder while its first database is being laid out, until the demo lies in it. */
const UNFINISHED = 'unfinished';
export const LOCK = 'server.lock';
const DATABASE = 'postgres';

/** Of the PostgreSQL that is embedded. */
const POSTGRES_VERSION = '18';
/** Without these a folder holds no whole database. */
const ESSENTIAL = ['PG_VERSION', 'base', 'global/pg_control', 'global/pg_filenode.map', 'pg_wal', 'pg_xact'];
const CONTROL_SIZE = 8192;
/** What a new database needs of the disk, in bytes. */
const ROOM_NEEDED = 128 * 1024 * 1024;

const RESTORE =
  'Nothing was changed. Put a whole copy of the folder back (one taken while no server ran), or move this one away and start with an empty folder; CORDELINA_DATA names another.';

/** What goes wrong with files, in words. Other errors come back as they are. */
export function fileTrouble(error: unknown, folder: string): unknown {
  const { code } = error as NodeJS.ErrnoException;
  switch (code) {
    case 'EACCES':
    case 'EPERM':
    case 'EROFS':
      return new StoreTrouble(
        `The data folder ${folder} cannot be written to. Allow it, or choose another folder with CORDELINA_DATA.`,
      );
    case 'EEXIST':
    case 'ENOTDIR':
      return new StoreTrouble(
        `${folder} is a file, or lies in one, so it cannot be the data folder. Choose another with CORDELINA_DATA.`,
      );
    case 'ENOSPC':
    case 'EDQUOT':
      return new StoreTrouble(`The disk of the data folder ${folder} is full. Make room and start again.`);
    default:
      return error;
  }
}

/** The database itself could not be opened. */
export function databaseTrouble(error: unknown, folder: string): unknown {
  if (error instanceof StoreTrouble) return error;
  const known = fileTrouble(error, folder);
  if (known !== error) return known;
  const why = error instanceof Error ? error.message.split('\n')[0]! : String(error);
  return new StoreTrouble(`The database in ${folder} cannot be opened: it is damaged (${why}). ${RESTORE}`);
}

export function makeFolder(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true });
    if (!statSync(folder).isDirectory()) throw Object.assign(new Error('a file'), { code: 'ENOTDIR' });
  } catch (error) {
    throw fileTrouble(error, folder);
  }
}

/** What a system or a person leaves in an empty folder. */
const isNothing = (name: string) => name.startsWith('.') || name === 'lost+found' || name.startsWith(LOCK);

/**
 * Looks at a data folder before anything in it is opened.
 *
 * @returns whether it is new, so that a database is to be laid out in it, and where the database stands
 * @throws StoreTrouble, NewerSchema
 */
export function lookAt(folder: string, newest: number): { fresh: boolean; database: string } {
  const database = path.join(folder, DATABASE);
  const mark = markOf(folder);
  if (mark !== null && mark > newest) throw new NewerSchema(mark, newest);
  const there = readdirSync(folder).filter((name) => !isNothing(name));
  if (mark === null && existsSync(path.join(folder, UNFINISHED))) {
    // The first start was cut off before anyone could save: it begins again.
    rmSync(database, { recursive: true, force: true });
    return { fresh: true, database };
  }
  if (!there.length) return { fresh: true, database };
  if (!existsSync(database) || !readdirSync(database).length)
    throw new StoreTrouble(
      mark === null
        ? `The folder ${folder} holds other things (${listed(there)}) and no workroom. Choose an empty folder with CORDELINA_DATA. Nothing was changed.`
        : `The data folder ${folder} was a workroom, but its database (the folder "${DATABASE}" in it) is gone. ${RESTORE}`,
    );
  const missing = ESSENTIAL.filter((name) => !existsSync(path.join(database, name)));
  if (missing.length)
    throw new StoreTrouble(
      `The database in ${folder} is not whole: ${listed(missing)} ${missing.length > 1 ? 'are' : 'is'} missing, as when a copy was cut off. ${RESTORE}`,
    );
  const version = readFileSync(path.join(database, 'PG_VERSION'), 'utf8').trim();
  if (version !== POSTGRES_VERSION)
    throw new StoreTrouble(
      `The database in ${folder} is of PostgreSQL "${version.slice(0, 20)}"; this program has ${POSTGRES_VERSION}. ${RESTORE}`,
    );
  if (
    statSync(path.join(database, 'global/pg_control')).size !== CONTROL_SIZE ||
    !readdirSync(path.join(database, 'pg_wal')).some((name) => /^[0-9A-F]{24}$/.test(name))
  )
    throw new StoreTrouble(
      `The database in ${folder} is not whole: its control file or its log is cut off. ${RESTORE}`,
    );
  return { fresh: false, database };
}

function listed(names: readonly string[]): string {
  return names.length > 4 ? `${names.slice(0, 4).join(', ')} and ${names.length - 4} more` : names.join(', ');
}

function markOf(folder: string): number | null {
  const file = path.join(folder, MARK);
  if (!existsSync(file)) return null;
  const number = Number.parseInt(readFileSync(file, 'utf8'), 10);
  if (Number.isInteger(number) && number > 0) return number;
  // Cut off while being written: the database itself says which schema it has.
  return 1;
}

function writeSynced(file: string, text: string): void {
  const handle = openSync(file, 'w');
  writeFileSync(handle, text);
  fsyncSync(handle);
  closeSync(handle);
}

/** A first database is begun. @throws StoreTrouble when the disk has no room for one */
export function begin(folder: string): void {
  const { bavail, bsize } = statfsSync(folder);
  if (bavail * bsize < ROOM_NEEDED)
    throw new StoreTrouble(
      `The disk of the data folder ${folder} has ${Math.floor((bavail * bsize) / 1024 / 1024)} MB left; a new workroom needs ${ROOM_NEEDED / 1024 / 1024} MB. Make room, or choose another folder with CORDELINA_DATA.`,
    );
  try {
    writeSynced(path.join(folder, UNFINISHED), 'The first start has not come to its end.\n');
  } catch (error) {
    throw fileTrouble(error, folder);
  }
}

/** The database is whole and of schema `number`. */
export function finish(folder: string, number: number): void {
  writeSynced(path.join(folder, MARK), `${number}\n`);
  rmSync(path.join(folder, UNFINISHED), { force: true });
}
