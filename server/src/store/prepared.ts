import { protocol, type PGlite } from '@electric-sql/pglite';

const { serialize } = protocol;

/** What the embedded database must offer for it. */
export type Protocol = Pick<PGlite, 'execProtocol' | 'runExclusive'>;

const joined = (parts: readonly Uint8Array[]): Uint8Array => Buffer.concat(parts);

/**
 * A statement that is parsed and planned once and then run by its name, the values in one message with the order to
 * run it. For the one statement that is run at every save: a plain query of it takes three times as long.
 */
export class Prepared {
  private static made = 0;
  private readonly name = `prepared ${++Prepared.made}`;
  private ready: Promise<unknown> | null = null;

  constructor(
    private readonly db: Protocol,
    private readonly text: string,
  ) {}

  private prepare(): Promise<unknown> {
    const parse = joined([
      serialize.parse({ name: this.name, text: this.text, types: [] }),
      serialize.sync(),
    ]);
    return this.db.runExclusive(() => this.db.execProtocol(parse));
  }

  /** Runs it with values in the database's own text form. Rows come back likewise. @throws the database's error */
  async run(values: readonly string[]): Promise<(string | null)[][]> {
    this.ready ??= this.prepare();
    await this.ready;
    const bind = serialize.bind({ statement: this.name, values: [...values] });
    const message = joined([bind, serialize.execute({}), serialize.sync()]);
    const { messages } = await this.db.runExclusive(() => this.db.execProtocol(message));
    return messages.flatMap((m) =>
      m.name === 'dataRow' ? [(m as unknown as { fields: (string | null)[] }).fields] : [],
    );
  }
}

/** A list of ids as the database writes it. */
export const uuidArray = (ids: readonly string[]): string => `{${ids.join()}}`;
