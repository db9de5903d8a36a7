import type { Happening } from '@cordelina/core';
import { LRUCache } from 'lru-cache';
import type { Logger } from 'pino';
import type { CardRow, DesignStore, Head, Moment, Since, Snapshot } from './store/designs.js';
import { hourOf } from './store/thinning.js';
import { ApiError } from './work/faults.js';
import type { Save, Wanted } from './work/keeper-jobs.js';
import { megabytes } from './work/pool.js';
import type { Workers } from './work/workers.js';

export type SaveOutcome =
  | { kind: 'saved'; head: Head }
  /** It was made for an older version; `since` are the saves after it, null when they are no longer kept. */
  | { kind: 'stale'; head: Head; base: number; since: Since[] | null };

interface Upkeep {
  /** Called after every save; it may tidy the database. */
  saved(): Promise<void>;
}

/** A new snapshot is taken after so many saves, or when what was saved outweighs this. */
const SAVES_A_SNAPSHOT = 200;
const SIZE_A_SNAPSHOT = 512 * 1024;
/** How long the list waits for a card to be worked out before it shows an older one. */
const CARD_PATIENCE = 800;

/**
 * The designs as the server offers them. The database says which version is the newest, the keeper thread
 * makes documents; saves of one design follow one another, those of different designs do not wait.
 */
export class Workroom {
  /** Newest versions, and the mark of the document at the keeper. This process alone has the database. */
  private readonly heads = new Map<string, Head & { mark?: string }>();
  private readonly answers = new LRUCache<string, Buffer>({
    max: 1000,
    maxSize: megabytes(64),
    sizeCalculation: (bytes) => bytes.length + 1,
  });
  private readonly turns = new Map<string, Promise<unknown>>();
  private readonly listeners = new Set<(happening: Happening) => void>();
  private readonly summaries = new Map<string, Promise<void>>();
  /** Saves since each design's newest snapshot, as far as this process has counted. */
  private readonly sinceSnapshot = new Map<string, number>();
  private listed: string | null = null;
  private happened = 0;

  constructor(
    readonly store: DesignStore,
    private readonly workers: Workers,
    private readonly log: Logger,
    private readonly upkeep: Upkeep = { saved: () => Promise.resolve() },
  ) {}

  /** Listens to what happens to designs; the answer ends it. */
  listen(listener: (happening: Happening) => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  private tell(happening: Happening): void {
    this.happened++;
    this.listed = null;
    for (const listener of this.listeners) listener(happening);
  }

  /** What is done to one design is done one after the other. */
  private async inTurn<T>(id: string, work: () => Promise<T>): Promise<T> {
    const before = this.turns.get(id) ?? Promise.resolve();
    const mine = before.then(work, work);
    const settled = mine.catch(() => undefined);
    this.turns.set(id, settled);
    try {
      return await mine;
    } finally {
      if (this.turns.get(id) === settled) this.turns.delete(id);
    }
  }

  private async headOf(id: string): Promise<Head & { mark?: string }> {
    const kept = this.heads.get(id);
    if (kept) return kept;
    const head = await this.store.head(id);
    if (!head) throw new ApiError(404, 'This design is not in the workroom.');
    // A save may have come between.
    const newer = this.heads.get(id) ?? head;
    this.heads.set(id, newer);
    return newer;
  }

  /** Asks the keeper by mark, and again with the source where the mark is not kept any more. */
  private async asKept<T extends object>(
    id: string,
    version: number,
    mark: string | undefined,
    ask: (wanted: Wanted) => Promise<T | { unknown: true }>,
  ): Promise<T> {
    if (mark !== undefined) {
      const answer = await ask({ mark });
      if (!('unknown' in answer)) return answer;
    }
    const source = await this.store.source(id, version);
    if (!source) throw new ApiError(404, 'That version is not kept.');
    return (await ask({ source })) as T;
  }

  /** Every design's card, newest first, as JSON; made once for as long as nothing changes. */
  async list(): Promise<string> {
    if (this.listed) return this.listed;
    const before = this.happened;
    const json = JSON.stringify({ designs: await this.cards() });
    // Nothing may have changed meanwhile, and no card may still be waited for.
    if (before === this.happened && !this.summaries.size) this.listed = json;
    return json;
  }

  /** One whose summary is older than the design is worked out anew. */
  private async cards(): Promise<CardRow[]> {
    const rows = await this.store.list();
    const outdated = rows.filter((row) => row.summaryVersion !== row.version);
    if (!outdated.length) return rows;
    await Promise.race([
      Promise.all(outdated.map((row) => this.summarise(row))),
      new Promise((resolve) => setTimeout(resolve, CARD_PATIENCE).unref()),
    ]);
    return this.store.list();
  }

  private summarise({ id, version }: CardRow): Promise<void> {
    const key = `${id}/${version}`;
    let running = this.summaries.get(key);
    if (!running) {
      running = this.document(id, version)
        .then((json) => this.workers.compute.run('summary', json))
        .then((summary) => this.store.keepSummary(id, version, summary))
        // The card shows what there is; opening the design tells what is wrong with it.
        .catch((error: unknown) => this.log.warn({ err: error }, 'a card could not be worked out'))
        .finally(() => this.summaries.delete(key));
      this.summaries.set(key, running);
    }
    return running;
  }

  private async document(id: string, version: number): Promise<string> {
    const head = this.heads.get(id);
    const mark = head?.version === version ? head.mark : undefined;
    const made = await this.asKept(id, version, mark, (wanted) => this.workers.keeper.run('read', wanted));
    const now = this.heads.get(id);
    if (now?.version === version) now.mark = made.mark;
    return made.json;
  }

  private async answer(id: string, { version, savedAt }: Head): Promise<Buffer> {
    const key = `${id}/${version}`;
    const kept = this.answers.get(key);
    if (kept) return kept;
    const json = await this.document(id, version);
    const answer = Buffer.from(`{"document":${json},"version":${version},"savedAt":"${savedAt}"}`);
    this.answers.set(key, answer);
    return answer;
  }

  /** A design as it stands, `{ document, version, savedAt }` in JSON, and its version. */
  async open(id: string): Promise<{ version: number; answer: Buffer }> {
    const head = await this.headOf(id);
    return { version: head.version, answer: await this.answer(id, head) };
  }

  /** An earlier version, in the same form. */
  async openEarlier(id: string, version: number): Promise<Buffer> {
    const head = await this.headOf(id);
    if (version === head.version) return this.answer(id, head);
    const savedAt = await this.store.savedAt(id, version);
    if (!savedAt) throw new ApiError(404, 'That version is not kept.');
    return this.answer(id, { version, savedAt });
  }

  async create(body: Uint8Array): Promise<{ id: string; head: Head }> {
    const { id, title, mark, snapshot } = await this.workers.keeper.run('make', body);
    const head = await this.inTurn(id, () => this.store.create(id, title, snapshot));
    if (!head) {
      const there = await this.store.head(id);
      throw new ApiError(409, 'A design with this id is already stored.', 'document.id', { ...there });
    }
    this.heads.set(id, { ...head, mark });
    this.tell({ id, kind: 'made', version: head.version });
    return { id, head };
  }

  /** Saves changes, or a whole document, over the version the request names. */
  save(id: string, kind: Save['kind'], body: Uint8Array): Promise<SaveOutcome> {
    return this.inTurn(id, async () => {
      const head = await this.headOf(id);
      const ask = (known?: number) =>
        this.asKept(id, head.version, head.mark, (wanted) =>
          this.workers.keeper.run('save', { ...wanted, id, version: head.version, body, kind, known }),
        );
      let made = await ask();
      if ('stale' in made) {
        const since = await this.store.since(id, made.base, head.version);
        const known = since?.flatMap((s) => s.ids) ?? [];
        const own = known.length > 0 && known.every((one, i) => one === (made as { ids: string[] }).ids[i]);
        if (!own) return { kind: 'stale', head, base: made.base, since };
        // The answer to an earlier sending was lost: what came with it is saved, the rest follows on it.
        if (known.length === made.ids.length) return { kind: 'saved', head };
        made = await ask(known.length);
        if ('stale' in made) throw new Error('a save known again cannot be stale');
      }
      const saved = await this.store.save(id, head.version, made.saving);
      if (!saved) throw new ApiError(404, 'This design is not in the workroom.');
      this.heads.set(id, { ...saved, mark: made.mark });
      this.tell({ id, kind: 'saved', version: saved.version });
      await this.keepUp(id, head, saved).catch((error: unknown) =>
        this.log.error({ err: error }, 'a snapshot could not be kept'),
      );
      return { kind: 'saved', head: saved };
    });
  }

  /** After a save: a snapshot when it is time for one, and what is thinned by age let go. */
  private async keepUp(id: string, was: Head & { mark?: string }, now: Head): Promise<void> {
    const newHour = hourOf(new Date(was.savedAt)) !== hourOf(new Date(now.savedAt));
    const saves = (this.sinceSnapshot.get(id) ?? SAVES_A_SNAPSHOT) + 1;
    let due = newHour;
    if (!due && saves % 20 === 0) {
      const since = await this.store.sinceSnapshot(id);
      due = since.saves >= SAVES_A_SNAPSHOT || since.size >= SIZE_A_SNAPSHOT;
    }
    this.sinceSnapshot.set(id, due ? 0 : saves);
    if (due) {
      await this.keepSnapshot(id, was.version, was.mark);
      await this.store.thin(id, new Date());
    }
    await this.upkeep.saved();
  }

  private async keepSnapshot(id: string, version: number, mark?: string): Promise<void> {
    const { snapshot } = await this.asKept<{ snapshot: Snapshot }>(id, version, mark, (wanted) =>
      this.workers.keeper.run('pack', wanted),
    );
    await this.store.keepSnapshot(id, version, snapshot);
  }

  /** The saves after version `base`, for a page that joins them; null when they are no longer kept. */
  async since(id: string, base: number): Promise<{ head: Head; since: Since[] | null }> {
    const head = await this.headOf(id);
    return { head, since: await this.store.since(id, base, head.version) };
  }

  async moments(id: string): Promise<Moment[]> {
    await this.headOf(id);
    return this.store.moments(id, new Date());
  }

  /** Names a version, which is then kept for good; null takes the name away. */
  name(id: string, version: number, name: string | null): Promise<void> {
    return this.inTurn(id, async () => {
      const head = await this.headOf(id);
      if (!(await this.store.savedAt(id, version))) throw new ApiError(404, 'That version is not kept.');
      if ((await this.store.name(id, version, name)) || name === null) return;
      await this.keepSnapshot(id, version, head.version === version ? head.mark : undefined);
      await this.store.name(id, version, name);
    });
  }

  async takeOut(id: string): Promise<void> {
    const done = await this.inTurn(id, () => this.store.remove(id));
    if (!done) throw new ApiError(404, 'This design is not in the workroom.');
    this.heads.delete(id);
    this.tell({ id, kind: 'taken-out' });
  }

  async putBack(id: string): Promise<void> {
    const done = await this.inTurn(id, () => this.store.restore(id));
    if (!done) throw new ApiError(404, 'This design is not in the workroom.');
    this.tell({ id, kind: 'put-back' });
  }
}
