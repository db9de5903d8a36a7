import type { Summary } from '@cordelina/core';
import type { Database } from './database.js';
import { Prepared, uuidArray } from './prepared.js';
import { thinned } from './thinning.js';

/** A whole document as it is stored. */
export interface Snapshot {
  document: Uint8Array;
  packing: 'json' | 'gzip';
  /** SHA-256 of `document`, in hexadecimal. */
  sum: string;
}

/** What a document at some version is made from: the snapshot below it and the changes up to it. */
export interface Source {
  snapshot: Snapshot & { version: number };
  /** Lists of changes as JSON, oldest first. */
  changes: string[];
}

/** A design's newest version. */
export interface Head {
  version: number;
  savedAt: string;
}

/** One save's changes, ready to be stored. */
export interface Saving {
  ids: string[];
  label: string;
  /** The list of changes as JSON. */
  changes: string;
  /** The title after it. */
  title: string;
}

export interface Since extends Head {
  ids: string[];
  changes: string;
}

export interface CardRow extends Head {
  id: string;
  title: string;
  summary: Summary | null;
  summaryVersion: number | null;
}

/** A version that is kept: what was done to get there, and its name if it has one. */
export interface Moment extends Head {
  label: string | null;
  name: string | null;
}

interface Row {
  id: string;
  title: string;
  version: number;
  document: Uint8Array;
  packing: 'json' | 'gzip';
  sum: string;
  name: string | null;
  label: string | null;
  ids: string[];
  changes: string;
  summary: Summary | null;
  summary_version: number | null;
  saved_at: Date;
}

const headOf = (row: Pick<Row, 'version' | 'saved_at'>): Head => ({
  version: row.version,
  savedAt: row.saved_at.toISOString(),
});

/** The statement of every save: it raises the version and adds the changes, or does nothing at all. */
export const SAVE = `
  with head as (
    update designs set version = version + 1, title = $3, saved_at = date_trunc('milliseconds', now())
    where id = $1 and version = $2 and deleted_at is null
    returning id, version, saved_at
  )
  insert into changes (design_id, version, ids, label, changes, saved_at)
  select id, version, $4, $5, $6, saved_at from head
  returning version, to_char(saved_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;

/** The designs in the database: heads, snapshots, changes. It knows no document from inside. */
export class DesignStore {
  private readonly saving: Prepared;

  constructor(private readonly db: Database) {
    this.saving = new Prepared(db, SAVE);
  }

  async list(): Promise<CardRow[]> {
    const { rows } = await this.db.query<Row>(
      `select id, title, version, saved_at, summary, summary_version from designs
       where deleted_at is null order by saved_at desc, title`,
    );
    return rows.map((row) => ({
      id: row.id,
      title: row.title,
      ...headOf(row),
      summary: row.summary,
      summaryVersion: row.summary_version,
    }));
  }

  async head(id: string): Promise<Head | null> {
    const { rows } = await this.db.query<Row>(
      'select version, saved_at from designs where id = $1 and deleted_at is null',
      [id],
    );
    return rows[0] ? headOf(rows[0]) : null;
  }

  /** Stores a new design as version 1; null when the id is taken. */
  async create(id: string, title: string, { document, packing, sum }: Snapshot): Promise<Head | null> {
    const { rows } = await this.db.query<Row>(
      `with made as (
         insert into designs (id, version, title) values ($1, 1, $2)
         on conflict (id) do nothing returning id, version, saved_at
       )
       insert into snapshots (design_id, version, document, packing, sum, saved_at)
       select id, version, $3, $4, $5, saved_at from made
       returning version, saved_at`,
      [id, title, document, packing, sum],
    );
    return rows[0] ? headOf(rows[0]) : null;
  }

  /** Adds one save's changes to version `base`; null when the design has moved on or is not there. */
  async save(id: string, base: number, { ids, label, changes, title }: Saving): Promise<Head | null> {
    const [row] = await this.saving.run([id, String(base), title, uuidArray(ids), label, changes]);
    return row ? { version: Number(row[0]), savedAt: row[1]! } : null;
  }

  /** The saves after version `base`, oldest first; null when one of them is no longer kept. */
  async since(id: string, base: number, newest: number): Promise<Since[] | null> {
    const { rows } = await this.db.query<Row>(
      'select version, ids, changes, saved_at from changes where design_id = $1 and version > $2 order by version',
      [id, base],
    );
    if (base > newest || rows.length !== newest - base) return null;
    return rows.map((row) => ({ ...headOf(row), ids: row.ids, changes: row.changes }));
  }

  /** What the document at a version is made from; null when that version is not kept. */
  async source(id: string, version: number): Promise<Source | null> {
    const { rows } = await this.db.query<Row>(
      `select version, document, packing, sum from snapshots
       where design_id = $1 and version <= $2 order by version desc limit 1`,
      [id, version],
    );
    const snapshot = rows[0];
    if (!snapshot) return null;
    const { document, packing, sum } = snapshot;
    const after = await this.db.query<Row>(
      `select changes from changes where design_id = $1 and version > $2 and version <= $3 order by version`,
      [id, snapshot.version, version],
    );
    if (after.rows.length !== version - snapshot.version) return null;
    return {
      snapshot: { version: snapshot.version, document, packing, sum },
      changes: after.rows.map((row) => row.changes),
    };
  }

  /** When a version was saved; null when it is not kept. */
  async savedAt(id: string, version: number): Promise<string | null> {
    const { rows } = await this.db.query<Row>(
      `select saved_at from snapshots where design_id = $1 and version = $2
       union all select saved_at from changes where design_id = $1 and version = $2 limit 1`,
      [id, version],
    );
    return rows[0]?.saved_at.toISOString() ?? null;
  }

  async keepSnapshot(id: string, version: number, { document, packing, sum }: Snapshot): Promise<void> {
    await this.db.query(
      `insert into snapshots (design_id, version, document, packing, sum, saved_at)
       select $1, $2, $3, $4, $5, coalesce(
         (select saved_at from changes where design_id = $1 and version = $2),
         (select saved_at from designs where id = $1 and version = $2))
       on conflict (design_id, version) do nothing`,
      [id, version, document, packing, sum],
    );
  }

  /** How many saves there are since the newest snapshot, and how much they hold. */
  async sinceSnapshot(id: string): Promise<{ saves: number; size: number }> {
    const { rows } = await this.db.query<{ saves: number; size: number }>(
      `select count(*)::int as saves, coalesce(sum(octet_length(changes)), 0)::int as size from changes
       where design_id = $1 and version > (select max(version) from snapshots where design_id = $1)`,
      [id],
    );
    return rows[0]!;
  }

  /** The versions that are kept, newest first, thinned by their age at `now`. The newest is among them. */
  async moments(id: string, now: Date): Promise<Moment[]> {
    const { rows } = await this.db.query<Row>(
      `select version, max(saved_at) as saved_at, max(label) as label, max(name) as name from (
         select version, saved_at, label, null as name from changes where design_id = $1
         union all select version, saved_at, null, name from snapshots where design_id = $1
       ) as kept group by version order by version desc`,
      [id],
    );
    const kept = thinned(
      rows.map((row) => ({ version: row.version, savedAt: row.saved_at, name: row.name })),
      now,
    );
    const reach = await this.reachable(id);
    return rows
      .filter((row) => kept.has(row.version) && reach(row.version))
      .map((row) => ({ ...headOf(row), label: row.label, name: row.name }));
  }

  /** Whether a version can be made from what is kept: changes follow a snapshot without a break. */
  private async reachable(id: string): Promise<(version: number) => boolean> {
    const { rows } = await this.db.query<{ version: number; whole: boolean }>(
      `select version, true as whole from snapshots where design_id = $1
       union all select version, false from changes where design_id = $1 order by version, whole`,
      [id],
    );
    const reached = new Set<number>();
    for (const { version, whole } of rows) if (whole || reached.has(version - 1)) reached.add(version);
    return (version) => reached.has(version);
  }

  /** Names a version whose snapshot is kept, or takes its name away; false when there is none. */
  async name(id: string, version: number, name: string | null): Promise<boolean> {
    const { rows } = await this.db.query(
      'update snapshots set name = $3 where design_id = $1 and version = $2 returning version',
      [id, version, name],
    );
    return rows.length > 0;
  }

  /**
   * Lets go of what the thinning no longer keeps. Changes stay as far back as the newest snapshot that is over
   * an hour old, so that every version of the last hour can still be made from it.
   */
  async thin(id: string, now: Date): Promise<void> {
    const { rows } = await this.db.query<Row>(
      'select version, saved_at, name from snapshots where design_id = $1 order by version',
      [id],
    );
    const hourAgo = new Date(now.getTime() - 3_600_000);
    const floor = rows.filter((row) => row.saved_at <= hourAgo).at(-1)?.version ?? rows[0]?.version;
    const newest = rows.at(-1)?.version;
    if (floor === undefined) return;
    const byAge = thinned(
      rows.filter((r) => r.version <= floor).map((r) => ({ ...r, savedAt: r.saved_at })),
      now,
    );
    const gone = rows.filter(
      ({ version, name }) => !name && version !== floor && version !== newest && !byAge.has(version),
    );
    await this.db.query('delete from snapshots where design_id = $1 and version = any($2)', [
      id,
      gone.map((row) => row.version),
    ]);
    await this.db.query('delete from changes where design_id = $1 and version <= $2', [id, floor]);
  }

  async keepSummary(id: string, version: number, summary: Summary): Promise<void> {
    await this.db.query(
      'update designs set summary = $3, summary_version = $2 where id = $1 and version >= $2',
      [id, version, JSON.stringify(summary)],
    );
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
}
