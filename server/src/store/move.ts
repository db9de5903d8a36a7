import { StoreTrouble, type Db, type Queries, type Transaction, type Value } from './db.js';
import { TABLES } from './migrate.js';

type Table = (typeof TABLES)[number];

/** What tells the rows of each table apart, in the order they are taken. */
const KEYS: Readonly<Record<Table, readonly string[]>> = {
  studios: ['studio_id'],
  documents: ['studio_id', 'kind', 'id'],
  snapshots: ['studio_id', 'kind', 'document_id', 'version'],
  changes: ['studio_id', 'kind', 'document_id', 'version'],
  photos: ['studio_id', 'kind', 'document_id'],
};
/** Rows taken at one time; a row may hold a photo. */
const ROWS = 40;

type Row = Readonly<Record<string, Value>>;

/** The columns of a table with their types, as the schema has them. */
const columnsOf = (db: Queries, table: Table): Promise<{ name: string; type: string }[]> =>
  db.query(
    `select attname as name, format_type(atttypid, atttypmod) as type from pg_attribute
     where attrelid = $1::regclass and attnum > 0 and not attisdropped order by attnum`,
    [table],
  );

/** Rows of a table after a row, by key; `what` is selected of each. */
function after(db: Queries, table: Table, what: string, last: Row | null): Promise<Row[]> {
  const keys = KEYS[table];
  const key = `(${keys.join(', ')})`;
  const past = last ? `where ${key} > (${keys.map((_, i) => `$${i + 1}`).join(', ')})` : '';
  return db.query<Row>(
    `select ${what} from ${table} as row ${past} order by ${keys.join(', ')} limit ${ROWS}`,
    last ? keys.map((k) => last[k]!) : [],
  );
}

async function* rowsOf(db: Queries, table: Table, what: string): AsyncGenerator<Row[]> {
  for (let last: Row | null = null; ;) {
    const rows: Row[] = await after(db, table, what, last);
    if (!rows.length) return;
    yield rows;
    last = rows.at(-1)!;
  }
}

/** JSON comes out of the database parsed, and goes in as text. */
const asGiven = (value: unknown, type: string): Value =>
  type === 'jsonb' && value !== null ? JSON.stringify(value) : (value as Value);

async function copy(from: Transaction, to: Transaction, table: Table): Promise<number> {
  const columns = await columnsOf(from, table);
  const names = columns.map(({ name }) => name);
  const values = columns.map(({ type }, i) => `$${i + 1}::${type}`);
  // A time has more places in the database than a program keeps of it.
  const what = columns.map(({ name, type }) =>
    type.startsWith('timestamp') ? `${name}::text as ${name}` : name,
  );
  let count = 0;
  for await (const rows of rowsOf(from, table, what.join(', ')))
    for (const row of rows) {
      count++;
      await to.query(
        `insert into ${table} (${names.join(', ')}) values (${values.join(', ')})`,
        columns.map(({ name, type }) => asGiven(row[name], type)),
      );
    }
  return count;
}

/** Every row's key and the check sum of all of it, in the order of the keys. */
const summed = (db: Queries, table: Table) =>
  rowsOf(db, table, `${KEYS[table].join(', ')}, md5(row_to_json(row)::text) as sum`);

/** Compares two databases row by row. @throws StoreTrouble at the first row that is not the same */
async function compare(from: Transaction, to: Transaction, table: Table): Promise<void> {
  const theirs = summed(to, table);
  for await (const rows of summed(from, table)) {
    const { value: others } = (await theirs.next()) as { value?: Row[] };
    rows.forEach((row, i) => {
      if (JSON.stringify(row) === JSON.stringify(others?.[i])) return;
      const key = KEYS[table].map((k) => String(row[k])).join(' ');
      throw new StoreTrouble(
        `A row of ${table} (${key}) did not arrive as it is. Nothing was kept of what was moved; what it came from is as it was.`,
      );
    });
  }
  if (!(await theirs.next()).done) throw new StoreTrouble(`There are more rows of ${table} than were moved.`);
}

/**
 * Copies a whole workroom, every version of everything, into a database that holds none, and compares the two row
 * by row before anything of it counts. Meanwhile nobody saves there. The first stays as it is.
 *
 * @returns how many rows of each table there are
 * @throws StoreTrouble with what is wrong; nothing is kept then
 */
export function move(from: Db, to: Db, tell: (table: string, rows: number) => void = () => undefined) {
  return from.tx((source) =>
    to.tx(async (target) => {
      // A time is told in the same words on either side.
      for (const tx of [source, target]) await tx.run(`set local time zone 'UTC'`);
      await source.run(`lock table ${TABLES.join(', ')} in share mode`);
      const [there] = await target.query<{ n: number }>('select count(*)::int as n from documents');
      if (there!.n > 0)
        throw new StoreTrouble('There is a workroom already where this one is to go. Nothing was changed.');
      await target.query('delete from studios');
      const moved: Partial<Record<Table, number>> = {};
      for (const table of TABLES) {
        moved[table] = await copy(source, target, table);
        await compare(source, target, table);
        tell(table, moved[table]);
      }
      return moved;
    }),
  );
}
