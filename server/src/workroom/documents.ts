import type { DocumentOf, Happening, KindName } from '@cordelina/core';
import { LRUCache } from 'lru-cache';
import type { Logger } from 'pino';
import { TooMany, type DocumentStore, type Head, type Moment, type Since } from '../store/documents.js';
import { hourOf } from '../store/thinning.js';
import { ApiError } from '../work/faults.js';
import type { Save, Wanted } from '../work/keeper-jobs.js';
import { megabytes } from '../work/pool.js';
import type { Ready } from './ready.js';
import type { Workers } from '../work/workers.js';

export type SaveOutcome =
  | { kind: 'saved'; head: Head }
  /** It was made for an older version; `since` are the saves after it, null when they are no longer kept. */
  | { kind: 'stale'; head: Head; base: number; since: Since[] | null };

/** A new snapshot is taken after so many saves, or when what was saved outweighs this. */
const SAVES_A_SNAPSHOT = 200;
const SIZE_A_SNAPSHOT = 512 * 1024;
/** Another program may save a document while this one works on it; so often it is begun anew. */
const MOST_TRIES = 20;

/** A document's answer in JSON, and the mark it has at the keeper: of one version, which never changes. */
interface Known {
  answer?: Ready;
  mark?: string;
}

/**
 * Documents of one kind as the server offers them. The database says which version is the newest and whether a save
 * is for that; the keeper thread makes documents. What is remembered here is of versions, which stay as they are.
 */
export class Documents<N extends KindName = KindName> {
  private readonly known = new LRUCache<string, Known>({
    max: 1000,
    maxSize: megabytes(64),
    // Packed, when it is, it has a fraction of that besides.
    sizeCalculation: ({ answer }) => Math.ceil((answer?.plain.length ?? 0) * 1.3) + 200,
  });
  /** What is done to one document here is done one after the other, so that a save need not be begun anew. */
  private readonly turns = new Map<string, Promise<unknown>>();
  /** Saves since each document's newest snapshot, as far as this process has counted. */
  private readonly sinceSnapshot = new Map<string, number>();
  private readonly listeners = new Set<(happening: Happening) => void>();
  /** Newest versions, asked for only while nothing can have been saved unheard. */
  private readonly heads = new LRUCache<string, Head>({ max: 5000 });
  private happened = 0;

  /** `inStep` says whether everything that is saved, by whatever program, is heard before it is answered. */
  constructor(
    readonly of: N,
    readonly store: DocumentStore,
    private readonly workers: Workers,
    private readonly log: Logger,
    private readonly inStep: () => boolean,
  ) {}

  /** Something happened to a document: what is remembered of its newest version is let go. */
  heard({ id }: Pick<Happening, 'id'>): void {
    this.happened++;
    this.heads.delete(id);
  }

  /** Called when something was done to a document here, before that is answered; others are told by the database. */
  onDone(listener: (happening: Happening) => void): void {
    this.listeners.add(listener);
  }

  private done(id: string, kind: Happening['kind'], version?: number): void {
    for (const listener of this.listeners) listener({ of: this.of, id, kind, version });
  }

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

  private notHere(): ApiError {
    return new ApiError(404, `This ${this.of} is not in the workroom.`);
  }

  private notKept(): ApiError {
    return new ApiError(404, 'That version is not kept.');
  }

  private async headOf(id: string): Promise<Head> {
    const remembered = this.inStep() && this.heads.get(id);
    if (remembered) return remembered;
    const before = this.happened;
    const head = await this.store.head(id);
    if (!head) throw this.notHere();
    // Nothing may have happened while it was asked for.
    if (before === this.happened) this.heads.set(id, head);
    return head;
  }

  private remember(id: string, version: number, more: Known): void {
    const key = `${id}/${version}`;
    this.known.set(key, { ...this.known.peek(key), ...more });
  }

  private recall(id: string, version: number): Known {
    return this.known.get(`${id}/${version}`) ?? {};
  }

  /** Asks the keeper by mark, and again with the source where the mark is not kept any more. */
  private async asKept<T extends object>(
    id: string,
    version: number,
    ask: (wanted: Wanted) => Promise<T | { unknown: true }>,
  ): Promise<T> {
    const { of } = this;
    const { mark } = this.recall(id, version);
    if (mark !== undefined) {
      const answer = await ask({ of, mark });
      if (!('unknown' in answer)) return answer;
    }
    const source = await this.store.source(id, version);
    if (!source) throw this.notKept();
    return (await ask({ of, source })) as T;
  }

  /** A version of a document as JSON. */
  async json(id: string, version: number): Promise<string> {
    const { mark, json } = await this.asKept(id, version, (wanted) =>
      this.workers.keeper.run('read', wanted),
    );
    this.remember(id, version, { mark });
    return json;
  }

  private async answer(id: string, { version, savedAt }: Head): Promise<Ready> {
    const { answer } = this.recall(id, version);
    if (answer) return answer;
    const json = await this.json(id, version);
    const plain = Buffer.from(`{"document":${json},"version":${version},"savedAt":"${savedAt}"}`);
    const made: Ready = { plain };
    this.remember(id, version, { answer: made });
    return made;
  }

  /** A document as it stands, `{ document, version, savedAt }` in JSON, and its version. */
  async open(id: string): Promise<{ version: number; answer: Ready }> {
    const head = await this.headOf(id);
    return { version: head.version, answer: await this.answer(id, head) };
  }

  /** An earlier version, in the same form. */
  async openEarlier(id: string, version: number): Promise<Ready> {
    const head = await this.headOf(id);
    if (version === head.version) return this.answer(id, head);
    const savedAt = await this.store.savedAt(id, version);
    if (!savedAt) throw this.notKept();
    return this.answer(id, { version, savedAt });
  }

  /** Keeps a new document out of a request. */
  async create(body: Uint8Array): Promise<{ id: string; head: Head }> {
    const { of } = this;
    const { id, title, mark, snapshot, summary } = await this.workers.keeper.run('make', { of, body });
    if (id === null) throw new ApiError(400, `A ${of} is not made: it is there.`);
    const head = await this.inTurn(id, () => this.store.create(id, title, snapshot, summary)).catch(
      (error: unknown) => {
        if (!(error instanceof TooMany)) throw error;
        throw new ApiError(413, `A studio keeps at most ${error.message} of this kind (${of}).`);
      },
    );
    if (!head) {
      const there = await this.store.head(id);
      throw new ApiError(409, `A ${of} with this id is already stored.`, 'document.id', { ...there });
    }
    this.remember(id, head.version, { mark });
    this.done(id, 'made', head.version);
    return { id, head };
  }

  /** A document that is always there: kept now unless it is. */
  async ensure(id: string, document: DocumentOf[N]): Promise<void> {
    if (await this.store.head(id)) return;
    const body = Buffer.from(JSON.stringify({ document }));
    const { title, snapshot, summary } = await this.workers.keeper.run('make', { of: this.of, body });
    await this.store.create(id, title, snapshot, summary);
  }

  /** Saves changes, or a whole document, over the version the request names. */
  save(id: string, kind: Save['kind'], body: Uint8Array): Promise<SaveOutcome> {
    return this.inTurn(id, async () => {
      for (let tries = 0; tries < MOST_TRIES; tries++) {
        const outcome = await this.saveOnce(id, kind, body);
        if (outcome) return outcome;
      }
      throw new ApiError(503, `Too many save this ${this.of} at once. Try again shortly.`);
    });
  }

  /** Null where another program saved it meanwhile. */
  private async saveOnce(id: string, kind: Save['kind'], body: Uint8Array): Promise<SaveOutcome | null> {
    let head = await this.headOf(id);
    const ask = (known?: number) =>
      this.asKept(id, head.version, (wanted) =>
        this.workers.keeper.run('save', { ...wanted, id, version: head.version, body, kind, known }),
      );
    let made = await ask();
    if ('stale' in made) {
      const { base, ids } = made;
      const found = await this.store.since(id, base);
      if (!found) throw this.notHere();
      const { since } = found;
      head = found.head;
      const known = since?.flatMap((s) => s.ids) ?? [];
      const isOwn = known.length > 0 && known.every((one, i) => one === ids[i]);
      if (!isOwn) return { kind: 'stale', head, base, since };
      // The answer to an earlier sending was lost: what came with it is saved, the rest follows on it.
      if (known.length === ids.length) return { kind: 'saved', head };
      made = await ask(known.length);
      if ('stale' in made) throw new Error('a save known again cannot be stale');
    }
    if ('same' in made) return { kind: 'saved', head };
    const saved = await this.store.save(id, head.version, made.saving);
    if (saved.kind === 'gone') throw this.notHere();
    if (saved.kind === 'stale') return null;
    this.remember(id, saved.head.version, { mark: made.mark });
    this.heads.set(id, saved.head);
    this.done(id, 'saved', saved.head.version);
    await this.keepUp(id, head, saved.head).catch((error: unknown) =>
      this.log.error({ err: error }, 'a snapshot could not be kept'),
    );
    return saved;
  }

  /** After a save: a snapshot when it is time for one, and what is thinned by age let go. */
  private async keepUp(id: string, was: Head, now: Head): Promise<void> {
    const newHour = hourOf(new Date(was.savedAt)) !== hourOf(new Date(now.savedAt));
    const saves = (this.sinceSnapshot.get(id) ?? SAVES_A_SNAPSHOT) + 1;
    let due = newHour;
    if (!due && saves % 20 === 0) {
      const since = await this.store.sinceSnapshot(id);
      due = since.saves >= SAVES_A_SNAPSHOT || since.size >= SIZE_A_SNAPSHOT;
    }
    this.sinceSnapshot.set(id, due ? 0 : saves);
    if (!due) return;
    await this.keepSnapshot(id, was.version);
    await this.store.thin(id, new Date());
  }

  private async keepSnapshot(id: string, version: number): Promise<void> {
    const { snapshot } = await this.asKept(id, version, (wanted) => this.workers.keeper.run('pack', wanted));
    await this.store.keepSnapshot(id, version, snapshot);
  }

  /** The saves after version `base`, for a page that joins them; null when they are no longer kept. */
  async since(id: string, base: number): Promise<{ head: Head; since: Since[] | null }> {
    const found = await this.store.since(id, base);
    if (!found) throw this.notHere();
    return found;
  }

  async moments(id: string): Promise<Moment[]> {
    await this.headOf(id);
    return this.store.moments(id, new Date());
  }

  /** Names a version, which is then kept for good; null takes the name away. */
  name(id: string, version: number, name: string | null): Promise<void> {
    return this.inTurn(id, async () => {
      await this.headOf(id);
      if (!(await this.store.savedAt(id, version))) throw this.notKept();
      if ((await this.store.name(id, version, name)) || name === null) return;
      await this.keepSnapshot(id, version);
      await this.store.name(id, version, name);
    });
  }

  async takeOut(id: string): Promise<void> {
    if (!(await this.inTurn(id, () => this.store.remove(id)))) throw this.notHere();
    this.done(id, 'taken-out');
  }

  /** Lets one that was taken out go for good. */
  async forget(id: string): Promise<void> {
    if (!(await this.inTurn(id, () => this.store.forget(id))))
      throw new ApiError(404, `This ${this.of} is not among those that were taken out.`);
  }

  async putBack(id: string): Promise<void> {
    if (!(await this.inTurn(id, () => this.store.restore(id)))) throw this.notHere();
    this.done(id, 'put-back');
  }
}
