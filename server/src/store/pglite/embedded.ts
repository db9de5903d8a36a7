import type { PGlite, Transaction as PGliteTransaction } from '@electric-sql/pglite';
import { underLock, type Db, type Listening, type Statement, type Transaction, type Value } from '../db.js';
import { Statements } from './prepared.js';
import { Upkeep } from './upkeep.js';

type Tx = Pick<PGliteTransaction, 'query' | 'exec'>;

const inTransaction = (tx: Tx): Transaction => ({
  query: async <R>(statement: string | Statement, values: readonly Value[] = []) =>
    (await tx.query<R>(typeof statement === 'string' ? statement : statement.text, [...values])).rows,
  run: async (statements) => void (await tx.exec(statements)),
});

/** The database that is part of this program: nobody else writes to it, and what is told is heard before a statement ends. */
export function embedded(pglite: PGlite, close: () => Promise<void> = () => pglite.close()): Db {
  const statements = new Statements(pglite);
  const upkeep = new Upkeep(pglite);
  const db: Db = {
    query: async <R>(statement: string | Statement, values: readonly Value[] = []) =>
      typeof statement === 'string'
        ? (await pglite.query<R>(statement, [...values])).rows
        : statements.run<R>(statement, values),
    tx: (work) => pglite.transaction((tx) => work(inTransaction(tx))),
    notify: async (channel, told) => void (await pglite.query('select pg_notify($1, $2)', [channel, told])),
    listen: async (channel, hear): Promise<Listening> => {
      const stop = await pglite.listen(channel, hear);
      return { hears: true, inStep: true, stop: () => stop() };
    },
    lock: (name, work) => underLock(db, name, work),
    saved: () => upkeep.saved(),
    close,
  };
  return db;
}
