import type { KindName, Summary } from '@cordelina/core';
import type { Db, Statement, Transaction } from './db.js';
import { HAPPENINGS } from './happenings.js';
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

/** A document's newest version. */
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
  /** What a list shows of it after it, as JSON; null where that is worked out later. */
  summary: string | null;
}

/** What became of a save. Stale: it was made for another version than the newest, which is told. */
export type Saved = { kind: 'saved'; head: Head } | { kind: 'stale'; head: Head } | { kind: 'gone' };

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

/** A studio keeps only so many of a kind. */
export class TooMany extends Error {}

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

const cardRow = (row: Row): CardRow => ({
  id: row.id,
  title: row.title,
  ...headOf(row),
  summary: row.summary,
  summaryVersion: row.summary_version,
});

/** Lets everything go that was taken out before a time, of whatever kind. */
export async function forgetTakenOut(db: Db, before: Date): Promise<void> {
  await db.query('delete from documents where deleted_at < $1', [before]);
}

/** A document as a list of everything has it. */
export interface Standing extends Head {
  of: KindName;
  id: string;
  title: string;
  named: { version: number; name: string; savedAt: string }[];
}

/** Every document of a studio that is not taken out, as all of them stand at one moment. */
export async function everyDocument(db: Db, studio: string): Promise<Standing[]> {
  const rows = await db.query<{
    kind: KindName;
    id: string;
    title: string;
    version: number;
    saved_at: Date;
    named: { version: number; name: string; savedAt: string }[];
  }>(
    `select d.kind, d.id, d.title, d.version, d.saved_at, coalesce((
       select json_agg(json_build_object('version', s.version, 'name', s.name, 'savedAt', s.saved_at) order by s.version)
       from snapshots s where s.studio_id = d.studio_id and s.kind = d.kind and s.document_id = d.id and s.name is not null
     ), '[]'::json) as named
     from documents d where d.studio_id = $1 and d.deleted_at is null order by d.kind, d.made_at, d.id`,
    [studio],
  );
  return rows.map(({ kind, id, title, version, saved_at: at, named }) => ({
    of: kind,
    id,
    title,
    version,
    savedAt: at.toISOString(),
    named: named.map((one) => ({ ...one, savedAt: new Date(one.savedAt).toISOString() })),
  }));
}

/** Whose a row is and what: the first three values of every statement on one document. */
const THIS = 'studio_id = $1 and kind = $2 and id = $3';
const OF_THIS = 'studio_id = $1 and kind = $2 and document_id = $3';

const told = (kind: string, version = 'null::int') =>
  `pg_notify('${HAPPENINGS}', json_build_object('studio', $1::uuid, 'of', $2::text, 'id', $3::uuid, 'kind', '${kind}', 'version', ${version})::text)`;

const NOW = `date_trunc('milliseconds', clock_timestamp())`;

/**
 * The statement of every save, a transaction of its own. It holds the document's row while it looks at its version;
 * where that is the one the changes were made for it raises it, adds the changes and tells of it. Otherwise it does
 * nothing at all, and the answer says what is there.
 */
export const SAVE: Statement = {
  name: 'save',
  text: `
  with was as materialized (
    select version, saved_at, deleted_at from documents where ${THIS} for update
  ), head as (
    update documents d set version = d.version + 1, title = $5, saved_at = ${NOW},
      summary = coalesce($9::jsonb, d.summary),
      summary_version = case when $9::jsonb is null then d.summary_version else d.version + 1 end
    from was
    where d.studio_id = $1 and d.kind = $2 and d.id = $3 and d.version = $4 and was.version = $4 and was.deleted_at is null
    returning d.version, d.saved_at
  ), added as (
    insert into changes (studio_id, kind, document_id, version, ids, label, changes, saved_at)
    select $1, $2, $3, version, $6::uuid[], $7, $8, saved_at from head
    returning version
  )
  select was.version, was.saved_at, was.deleted_at is not null as gone,
    head.version as saved_version, head.saved_at as saved_at_now,
    case when head.version is not null then ${told('saved', 'head.version')} end
  from was left join head on true left join added on true`,
};

const HEAD: Statement = {
  name: 'head',
  text: `select version, saved_at from documents where ${THIS} and deleted_at is null`,
};

/** Documents of one kind in the database: heads, snapshots, changes. It knows no document from inside. */
export class DocumentStore {
  constructor(
    private readonly db: Db,
    private readonly studio: string,
    readonly kind: KindName,
    /** So many of them are kept; null for no bound. */
    private readonly most: number | null = null,
  ) {}

  private these(id: string): [string, string, string] {
    return [this.studio, this.kind, id];
  }

  /** Every document that is not taken out, the newest first by when it was saved, or made. */
  async list(by: 'saved' | 'made' = 'saved'): Promise<CardRow[]> {
    const rows = await this.db.query<Row>(
      `select id, title, version, saved_at, summary, summary_version from documents
       where studio_id = $1 and kind = $2 and deleted_at is null order by ${by}_at desc, title, id`,
      [this.studio, this.kind],
    );
    return rows.map(cardRow);
  }

  /** One of them; null where it is not there. */
  async row(id: string): Promise<CardRow | null> {
    const [row] = await this.db.query<Row>(
      `select id, title, version, saved_at, summary, summary_version from documents where ${THIS} and deleted_at is null`,
      this.these(id),
    );
    return row ? cardRow(row) : null;
  }

  /** What was taken out and can be put back, the newest first. */
  async takenOut(): Promise<{ id: string; title: string; takenOutAt: string }[]> {
    const rows = await this.db.query<Row & { deleted_at: Date }>(
      `select id, title, deleted_at from documents where studio_id = $1 and kind = $2 and deleted_at is not null
       order by deleted_at desc, title, id`,
      [this.studio, this.kind],
    );
    return rows.map(({ id, title, deleted_at: at }) => ({ id, title, takenOutAt: at.toISOString() }));
  }

  /** Lets one that was taken out go for good, with all its versions; false when it is not among those. */
  async forget(id: string): Promise<boolean> {
    const rows = await this.db.query(
      `delete from documents where ${THIS} and deleted_at is not null returning id`,
      this.these(id),
    );
    return rows.length > 0;
  }

  /** The versions of all documents that are not taken out. */
  async versions(): Promise<Map<string, number>> {
    const rows = await this.db.query<Row>(
      'select id, version from documents where studio_id = $1 and kind = $2 and deleted_at is null',
      [this.studio, this.kind],
    );
    return new Map(rows.map(({ id, version }) => [id, version]));
  }

  async head(id: string): Promise<Head | null> {
    const [row] = await this.db.query<Row>(HEAD, this.these(id));
    return row ? headOf(row) : null;
  }

  /**
   * Stores a new document as version 1; null when the id is taken.
   *
   * @throws TooMany when the studio keeps as many as it may
   */
  async create(
    id: string,
    title: string,
    { document, packing, sum }: Snapshot,
    summary: string | null = null,
  ): Promise<Head | null> {
    const make = async (tx: Transaction): Promise<Head | null> => {
      const [row] = await tx.query<Row>(
        `with made as (
           insert into documents (studio_id, kind, id, version, title, summary, summary_version, saved_at)
           values ($1, $2, $3, 1, $4, $8::jsonb, case when $8::jsonb is null then null else 1 end, ${NOW})
           on conflict do nothing returning id, version, saved_at
         ), kept as (
           insert into snapshots (studio_id, kind, document_id, version, document, packing, sum, saved_at)
           select $1, $2, id, version, $5, $6, $7, saved_at from made
         )
         select version, saved_at, ${told('made', 'version')} from made`,
        [...this.these(id), title, document, packing, sum, summary],
      );
      if (!row) return null;
      if (this.most !== null) await this.mustHaveRoom(tx, this.most);
      return headOf(row);
    };
    const made = await (this.most === null
      ? this.db.tx(make)
      : this.db.lock(`${this.studio} ${this.kind}`, make));
    if (made) await this.db.saved();
    return made;
  }

  private async mustHaveRoom(tx: Transaction, most: number): Promise<void> {
    const [counted] = await tx.query<{ n: number }>(
      'select count(*)::int as n from documents where studio_id = $1 and kind = $2 and deleted_at is null',
      [this.studio, this.kind],
    );
    if (counted!.n > most) throw new TooMany(String(most));
  }

  /** Adds one save's changes to version `base`, if that is still the newest. */
  async save(id: string, base: number, { ids, label, changes, title, summary }: Saving): Promise<Saved> {
    const [row] = await this.db.query<{
      version: number;
      saved_at: Date;
      gone: boolean;
      saved_version: number | null;
      saved_at_now: Date;
    }>(SAVE, [...this.these(id), base, title, ids, label, changes, summary]);
    if (!row || row.gone) return { kind: 'gone' };
    if (row.saved_version === null) return { kind: 'stale', head: headOf(row) };
    await this.db.saved();
    return { kind: 'saved', head: headOf({ version: row.saved_version, saved_at: row.saved_at_now }) };
  }

  /**
   * The newest version, and the saves after version `base`, oldest first; those are null when one of them is no
   * longer kept. Null when there is no such document.
   */
  async since(id: string, base: number): Promise<{ head: Head; since: Since[] | null } | null> {
    const rows = await this.db.query<Row & { head: number; head_at: Date }>(
      `select d.version as head, d.saved_at as head_at, c.version, c.ids, c.changes, c.saved_at
       from documents d left join changes c on c.studio_id = d.studio_id and c.kind = d.kind
         and c.document_id = d.id and c.version > $4
       where d.studio_id = $1 and d.kind = $2 and d.id = $3 and d.deleted_at is null order by c.version`,
      [...this.these(id), base],
    );
    const [first] = rows;
    if (!first) return null;
    const head = headOf({ version: first.head, saved_at: first.head_at });
    const saves = rows.filter((row) => row.version !== null);
    if (base > head.version || saves.length !== head.version - base) return { head, since: null };
    return { head, since: saves.map((row) => ({ ...headOf(row), ids: row.ids, changes: row.changes })) };
  }

  /** What the document at a version is made from, as it stands at one moment; null when that version is not kept. */
  async source(id: string, version: number): Promise<Source | null> {
    const rows = await this.db.query<Omit<Row, 'changes'> & { after: string | null }>(
      `with whole as (
         select version, document, packing, sum from snapshots
         where ${OF_THIS} and version <= $4 order by version desc limit 1
       )
       select whole.version, case when first then whole.document end as document, packing, sum, after from whole
       cross join lateral (
         select null as after, true as first, whole.version as at
         union all select changes, false, version from changes
         where ${OF_THIS} and version > whole.version and version <= $4
       ) as log order by at, first desc`,
      [...this.these(id), version],
    );
    const [whole, ...after] = rows;
    if (!whole || after.length !== version - whole.version) return null;
    const { document, packing, sum } = whole;
    return {
      snapshot: { version: whole.version, document, packing, sum },
      changes: after.map((row) => row.after!),
    };
  }

  /** When a version was saved; null when it is not kept. */
  async savedAt(id: string, version: number): Promise<string | null> {
    const [row] = await this.db.query<Row>(
      `select saved_at from snapshots where ${OF_THIS} and version = $4
       union all select saved_at from changes where ${OF_THIS} and version = $4 limit 1`,
      [...this.these(id), version],
    );
    return row?.saved_at.toISOString() ?? null;
  }

  async keepSnapshot(id: string, version: number, { document, packing, sum }: Snapshot): Promise<void> {
    await this.db.query(
      `insert into snapshots (studio_id, kind, document_id, version, document, packing, sum, saved_at)
       select $1, $2, $3, $4, $5, $6, $7, at from (select coalesce(
         (select saved_at from changes where ${OF_THIS} and version = $4),
         (select saved_at from documents where ${THIS} and version = $4)) as at) as saved where at is not null
       on conflict do nothing`,
      [...this.these(id), version, document, packing, sum],
    );
  }

  /** How many saves there are since the newest snapshot, and how much they hold. */
  async sinceSnapshot(id: string): Promise<{ saves: number; size: number }> {
    const [row] = await this.db.query<{ saves: number; size: number }>(
      `select count(*)::int as saves, coalesce(sum(octet_length(changes)), 0)::int as size from changes
       where ${OF_THIS} and version > (select max(version) from snapshots where ${OF_THIS})`,
      this.these(id),
    );
    return row!;
  }

  /** The versions that are kept, newest first, thinned by their age at `now`. The newest is among them. */
  async moments(id: string, now: Date): Promise<Moment[]> {
    const rows = await this.db.query<Row & { whole: boolean }>(
      `select version, max(saved_at) as saved_at, max(label) as label, max(name) as name, bool_or(whole) as whole
       from (
         select version, saved_at, label, null as name, false as whole from changes where ${OF_THIS}
         union all select version, saved_at, null, name, true from snapshots where ${OF_THIS}
       ) as kept group by version order by version`,
      this.these(id),
    );
    // A version can be made where changes follow a snapshot without a break.
    const reached = new Set<number>();
    for (const { version, whole } of rows) if (whole || reached.has(version - 1)) reached.add(version);
    const kept = thinned(
      rows.map((row) => ({ version: row.version, savedAt: row.saved_at, name: row.name })),
      now,
    );
    return rows
      .filter(({ version }) => kept.has(version) && reached.has(version))
      .map((row) => ({ ...headOf(row), label: row.label, name: row.name }))
      .reverse();
  }

  /** Names a version whose snapshot is kept, or takes its name away; false when there is none. */
  async name(id: string, version: number, name: string | null): Promise<boolean> {
    const rows = await this.db.query(
      `update snapshots set name = $5 where ${OF_THIS} and version = $4 returning version`,
      [...this.these(id), version, name],
    );
    return rows.length > 0;
  }

  /**
   * Lets go of what the thinning no longer keeps, holding the document so that nobody names or saves meanwhile.
   * Changes stay as far back as the newest snapshot that is over an hour old, so that every version of the last
   * hour can still be made from it.
   */
  thin(id: string, now: Date): Promise<void> {
    return this.db.tx(async (tx) => {
      await tx.query(`select 1 from documents where ${THIS} for update`, this.these(id));
      const rows = await tx.query<Row>(
        `select version, saved_at, name from snapshots where ${OF_THIS} order by version`,
        this.these(id),
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
      await tx.query(`delete from snapshots where ${OF_THIS} and version = any($4::int[]) and name is null`, [
        ...this.these(id),
        gone.map((row) => row.version),
      ]);
      await tx.query(`delete from changes where ${OF_THIS} and version <= $4`, [...this.these(id), floor]);
    });
  }

  /** What a list shows of a document, and of which version; null where there is neither. */
  async summaryOf(id: string): Promise<{ summary: Summary; version: number } | null> {
    const [row] = await this.db.query<Row>(
      `select summary, summary_version from documents where ${THIS} and deleted_at is null`,
      this.these(id),
    );
    return row?.summary && row.summary_version !== null
      ? { summary: row.summary, version: row.summary_version }
      : null;
  }

  /** Keeps what a list shows of a version, unless a newer one's is kept. */
  async keepSummary(id: string, version: number, summary: unknown): Promise<void> {
    await this.db.query(
      `update documents set summary = $5::jsonb, summary_version = $4 where ${THIS} and version >= $4
         and coalesce(summary_version, 0) <= $4`,
      [...this.these(id), version, JSON.stringify(summary)],
    );
  }

  /** Takes a document out; it can be put back. False when it is not there. */
  async remove(id: string): Promise<boolean> {
    const rows = await this.db.query(
      `with gone as (
         update documents set deleted_at = now() where ${THIS} and deleted_at is null returning id
       ) select id, ${told('taken-out')} from gone`,
      this.these(id),
    );
    return rows.length > 0;
  }

  async restore(id: string): Promise<boolean> {
    const rows = await this.db.query(
      `with back as (
         update documents set deleted_at = null where ${THIS} returning id, version
       ) select id, ${told('put-back', 'version')} from back`,
      this.these(id),
    );
    return rows.length > 0;
  }
}
