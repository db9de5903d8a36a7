import { protocol, types, type PGlite } from '@electric-sql/pglite';
import type { Statement, Value } from '../db.js';

const { serialize } = protocol;

/** What the embedded database must offer for it. */
export type Protocol = Pick<PGlite, 'execProtocol' | 'runExclusive' | 'parsers'>;

type Described = { name: string; fields: { name: string; dataTypeID: number }[] };
type DataRow = { name: string; fields: (string | null)[] };

const joined = (parts: readonly Uint8Array[]): Uint8Array => Buffer.concat(parts);

/** A value as the database writes it. Texts in lists are ids, which need no quotes. */
function asText(value: Value): string | null {
  if (value === null) return null;
  if (value instanceof Date) return value.toISOString();
  if (value instanceof Uint8Array) return `\\x${Buffer.from(value).toString('hex')}`;
  return Array.isArray(value) ? `{${value.join()}}` : String(value);
}

/**
 * A statement that is parsed and planned once and then run by its name, the values in one message with the order to
 * run it. For what is run at every save and every look at a document: a plain query takes three times as long.
 */
class Prepared {
  private ready: Promise<Described['fields']> | null = null;

  constructor(
    private readonly db: Protocol,
    private readonly name: string,
    private readonly text: string,
  ) {}

  private async prepare(): Promise<Described['fields']> {
    const { name, text } = this;
    const parse = joined([
      serialize.parse({ name, text, types: [] }),
      serialize.describe({ type: 'S', name }),
      serialize.sync(),
    ]);
    const { messages } = await this.db.runExclusive(() => this.db.execProtocol(parse));
    return (messages.find((m) => m.name === 'rowDescription') as unknown as Described).fields;
  }

  async run<R>(values: readonly Value[]): Promise<R[]> {
    // One that could not be prepared is tried again: what it is about may be there next time.
    this.ready ??= this.prepare().catch((error: unknown) => {
      this.ready = null;
      throw error;
    });
    const fields = await this.ready;
    const bind = serialize.bind({ statement: this.name, values: values.map(asText) });
    const message = joined([bind, serialize.execute({}), serialize.sync()]);
    const { messages } = await this.db.runExclusive(() => this.db.execProtocol(message));
    const rowOf = (row: DataRow) =>
      Object.fromEntries(
        row.fields.map((text, i): [string, unknown] => [
          fields[i]!.name,
          text === null ? null : types.parseType(text, fields[i]!.dataTypeID, this.db.parsers),
        ]),
      );
    return messages.flatMap((m) => (m.name === 'dataRow' ? [rowOf(m as unknown as DataRow) as R] : []));
  }
}

/** All statements that are prepared on one database, by their names. */
export class Statements {
  private readonly known = new Map<string, Prepared>();

  constructor(private readonly db: Protocol) {}

  run<R>({ name, text }: Statement, values: readonly Value[]): Promise<R[]> {
    let prepared = this.known.get(name);
    if (!prepared) this.known.set(name, (prepared = new Prepared(this.db, name, text)));
    return prepared.run<R>(values);
  }
}
