/**
 * The database as everything above it knows it, whichever it is: embedded in a folder, or a PostgreSQL server that
 * several programs share. It is the only truth; what a program remembers of it is a hint.
 */

/** A statement that is run often: prepared once for each connection and run by its name. */
export interface Statement {
  name: string;
  text: string;
}

/**
 * A value as a statement takes it: lists of numbers and of ids as lists, documents of JSON as text, times as they
 * come back.
 */
export type Value =
  string | number | boolean | null | Uint8Array | Date | readonly string[] | readonly number[];

export interface Queries {
  /**
   * Runs one statement, which is a transaction of its own unless it is run in one.
   *
   * @returns its rows: whole numbers of four bytes as numbers, times as `Date`, JSON parsed, bytes as bytes
   * @throws DatabaseAway, or the database's own error
   */
  query<R = Record<string, unknown>>(statement: string | Statement, values?: readonly Value[]): Promise<R[]>;
}

/** Work in a transaction, which may also run several statements without values, as migrations are. */
export interface Transaction extends Queries {
  run(statements: string): Promise<void>;
}

/** A channel that is listened to. */
export interface Listening {
  /** False while what is told there may be missed. */
  readonly hears: boolean;
  /** True where what is told is heard before whoever did it is answered: what is remembered is never behind. */
  readonly inStep: boolean;
  stop(): Promise<void>;
}

export interface Db extends Queries {
  /**
   * Does work in one transaction: all of it or nothing. Where the database could not put it in line with what others
   * did at the same time it is done again from its beginning, so it must do nothing that cannot be done twice.
   */
  tx<T>(work: (tx: Transaction) => Promise<T>): Promise<T>;
  /** Tells those who listen at a channel, in this program and in all others that share the database. */
  notify(channel: string, told: string): Promise<void>;
  /** Listens at a channel. After the connection was lost `missed` is called, once it is there again. */
  listen(channel: string, hear: (told: string) => void, missed: () => void): Promise<Listening>;
  /** Does work in a transaction while nobody else, in whatever program, does work under the same name. */
  lock<T>(name: string, work: (tx: Transaction) => Promise<T>): Promise<T>;
  /** Called after a save: a database that tidies nothing by itself does so now and then. */
  saved(): Promise<void>;
  /** Lets go of it, tidied. */
  close(): Promise<void>;
}

/** The database does not answer, or broke off: whether what was asked has been done is not known. It may be asked again. */
export class DatabaseAway extends Error {}

/** What is stored cannot be opened as it is; the message says what is there and what to do. Nothing was changed. */
export class StoreTrouble extends Error {}

/** Work under a name, for databases that all have PostgreSQL's advisory locks. They end with the transaction. */
export const underLock = <T>(
  db: Pick<Db, 'tx'>,
  name: string,
  work: (tx: Transaction) => Promise<T>,
): Promise<T> =>
  db.tx(async (tx) => {
    await tx.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [name]);
    return work(tx);
  });
