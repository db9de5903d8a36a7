import { DocumentError, readDesign, summarise, type Design, type Summary } from '@cordelina/core';
import type { Database } from './database.js';

/** A design as it stands in the store. */
export interface Stored {
  document: Design;
  version: number;
  savedAt: string;
}

export interface Card {
  id: string;
  title: string;
  version: number;
  savedAt: string;
  summary: Summary;
}

export type SaveResult =
  | { kind: 'saved'; version: number; savedAt: string }
  | { kind: 'stale'; current: Stored }
  | { kind: 'missing' };

interface Row {
  id: string;
  title: string;
  version: number;
  document: unknown;
  summary: Summary;
  saved_at: Date;
}

const MOST_REVISIONS = 200;

/** A design whose stored document cannot be read: the fault is ours, and the others are unharmed. */
export class DamagedDesign extends Error {}

function stored(row: Pick<Row, 'document' | 'version' | 'saved_at'>): Stored {
  try {
    return {
      document: readDesign(row.document),
      version: row.version,
      savedAt: row.saved_at.toISOString(),
    };
  } catch (error) {
    if (!(error instanceof DocumentError)) throw error;
    throw new DamagedDesign(`What is stored of this design cannot be read (${error.message})`);
  }
}

/** The designs and their kept revisions. Every save is one transaction that raises the version. */
export class DesignStore {
  constructor(private readonly db: Database) {}

  async list(): Promise<Card[]> {
    const { rows } = await this.db.query<Row>(
      'select id, title, version, summary, saved_at from designs where deleted_at is null order by saved_at desc, title',
    );
    return rows.map((r) => ({
      id: r.id,
      title: r.title,
      version: r.version,
      savedAt: r.saved_at.toISOString(),
      summary: r.summary,
    }));
  }

  async get(id: string): Promise<Stored | null> {
    const { rows } = await this.db.query<Row>(
      'select document, version, saved_at from designs where id = $1 and deleted_at is null',
      [id],
    );
    return rows[0] ? stored(rows[0]) : null;
  }

  /** Stores a new design as version 1; null when the id is taken. */
  async create(document: Design): Promise<{ version: number; savedAt: string } | null> {
    const { rows } = await this.db.query<Row>(
      `insert into designs (id, version, title, document, summary) values ($1, 1, $2, $3, $4)
       on conflict (id) do nothing returning version, saved_at`,
      [document.id, document.title, JSON.stringify(document), JSON.stringify(summarise(document))],
    );
    return rows[0] ? { version: rows[0].version, savedAt: rows[0].saved_at.toISOString() } : null;
  }

  /** Saves over version `base`, keeping it as a revision. A design that has moved on is left as it is. */
  async save(document: Design, base: number): Promise<SaveResult> {
    const summary = JSON.stringify(summarise(document));
    return this.db.transaction(async (tx): Promise<SaveResult> => {
      const { rows } = await tx.query<Row>(
        'select document, version, saved_at from designs where id = $1 and deleted_at is null for update',
        [document.id],
      );
      const current = rows[0];
      if (!current) return { kind: 'missing' };
      if (current.version !== base) return { kind: 'stale', current: stored(current) };
      await tx.query(
        'insert into revisions (design_id, version, document, saved_at) values ($1, $2, $3, $4)',
        [document.id, base, JSON.stringify(current.document), current.saved_at],
      );
      await tx.query('delete from revisions where design_id = $1 and version <= $2', [
        document.id,
        base - MOST_REVISIONS,
      ]);
      const saved = await tx.query<Row>(
        `update designs set version = version + 1, title = $2, document = $3, summary = $4, saved_at = now()
         where id = $1 returning version, saved_at`,
        [document.id, document.title, JSON.stringify(document), summary],
      );
      const row = saved.rows[0]!;
      return { kind: 'saved', version: row.version, savedAt: row.saved_at.toISOString() };
    });
  }

  /** Takes a design out of the workroom; it can be put back. */
  async remove(id: string): Promise<boolean> {
    const { rows } = await this.db.query(
      'update designs set deleted_at = now() where id = $1 and deleted_at is null returning id',
      [id],
    );
    return rows.length > 0;
  }

  async restore(id: string): Promise<boolean> {
    const { rows } = await this.db.query('update designs set deleted_at = null where id = $1 returning id', [
      id,
    ]);
    return rows.length > 0;
  }

  async revisions(id: string): Promise<{ version: number; savedAt: string }[]> {
    const { rows } = await this.db.query<Row>(
      'select version, saved_at from revisions where design_id = $1 order by version desc',
      [id],
    );
    return rows.map((r) => ({ version: r.version, savedAt: r.saved_at.toISOString() }));
  }

  async revision(id: string, version: number): Promise<Stored | null> {
    const { rows } = await this.db.query<Row>(
      'select document, version, saved_at from revisions where design_id = $1 and version = $2',
      [id, version],
    );
    return rows[0] ? stored(rows[0]) : null;
  }
}
