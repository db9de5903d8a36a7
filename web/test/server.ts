import { openDB } from 'idb';
import { keptWork } from '../src/sync/keeping.js';
import { KINDS, type Change, type DocumentOf, type Kind, type KindName } from '@cordelina/core';

const AT = '2026-11-25T10:00:00.000Z';

type Document = DocumentOf[KindName];

interface Held {
  kind: KindName;
  document: Document;
  saves: { version: number; savedAt: string; changes: Change[] }[];
}

const kindOf = (kind: KindName) => KINDS[kind] as unknown as Kind<Document>;
const KIND_AT: Readonly<Record<string, KindName>> = {
  designs: 'design',
  swatches: 'swatch',
  studio: 'studio',
  editions: 'edition',
  knittings: 'knitting',
  notes: 'note',
};
/** The studio's place in the test's own memory: it has no id in its address. */
const STUDIO = 'the studio';

/** A server of the test's own, which keeps the rules of the real one; away, in trouble or slow when told to be. */
export class TestServer {
  private readonly held = new Map<string, Held>();
  readonly gone = new Set<string>();
  away = false;
  /** A status to answer every save with. */
  trouble: number | null = null;
  /** Saves are done, and their answers lost on the way. */
  losing = false;
  /** Of older saves it keeps the outcome only. */
  forgetful = false;
  /** Requests that came to save what is there. */
  sent = 0;
  /** What a save waits for before it is answered. */
  hold: Promise<void> | null = null;

  add<N extends KindName = 'design'>(document: DocumentOf[N], kind: N = 'design' as N): void {
    this.held.set('id' in document ? document.id : STUDIO, { kind, document, saves: [] });
  }

  document<N extends KindName = 'design'>(id: string): DocumentOf[N] | undefined {
    return this.held.get(id)?.document as DocumentOf[N] | undefined;
  }

  studio = (): DocumentOf['studio'] => this.held.get(STUDIO)!.document as DocumentOf['studio'];

  version(id: string): number {
    return this.held.get(id)!.saves.length + 1;
  }

  ids(): string[] {
    return [...this.held.keys()];
  }

  /** Someone else saves. */
  save(id: string, change: Change): void {
    const held = this.held.get(id === '' ? STUDIO : id)!;
    held.document = kindOf(held.kind).apply(held.document, change.steps);
    held.saves.push({ version: held.saves.length + 2, savedAt: AT, changes: [change] });
  }

  readonly fetch = async (
    input: unknown,
    init: { method?: string; body?: string } = {},
  ): Promise<Response> => {
    if (this.away) throw new TypeError('no route');
    const [path, query] = String(input).replace('/api/', '').split('?') as [string, string?];
    const [place = '', ...rest] = path.split('/');
    const kind = KIND_AT[place]!;
    const [id = '', what] = kind === 'studio' ? [STUDIO, ...rest] : rest;
    const body = init.body ? (JSON.parse(init.body) as Record<string, unknown>) : {};
    const respond = (status: number, answer: unknown) =>
      new Response(status === 204 ? null : JSON.stringify(answer), { status });
    if (!id && init.method !== 'POST') {
      const all = [...this.held.values()].filter((h) => h.kind === kind && !this.gone.has(idOf(h)));
      if (kind === 'design') return respond(200, { designs: [] });
      const [list, one] = kind === 'swatch' ? ['swatches', 'swatch'] : ['documents', 'document'];
      const told = all.map((h) => ({
        [one!]: h.document,
        version: this.version(idOf(h)),
        savedAt: AT,
        photoAt: null,
      }));
      return respond(200, { [list!]: told.reverse() });
    }
    if (init.method === 'POST' && !id) {
      if (this.trouble) return respond(this.trouble, { error: { message: 'in trouble' } });
      const document = kindOf(kind).read(body.document) as DocumentOf['design'];
      if (this.held.has(document.id))
        return respond(409, { error: { message: 'there already' }, version: 1 });
      this.add(document as Document, kind);
      if (this.losing) throw new TypeError('lost');
      return respond(201, { version: 1, savedAt: AT });
    }
    const held = this.held.get(id);
    if (held && what === 'restore') return (this.gone.delete(id), respond(204, null));
    if (!held || this.gone.has(id))
      return respond(404, { error: { message: 'This design is not in the workroom.' } });
    if (init.method === 'DELETE') return (this.gone.add(id), respond(204, null));
    const version = held.saves.length + 1;
    const since = (base: number) => ({
      version,
      savedAt: AT,
      since: this.forgetful && base < version ? null : held.saves.filter((s) => s.version > base),
    });
    if (what !== 'changes') return respond(200, { document: held.document, version, savedAt: AT });
    if (init.method !== 'POST') return respond(200, since(Number(query!.split('=')[1])));
    this.sent++;
    const { base, changes } = body as unknown as { base: number; changes: Change[] };
    await this.hold;
    if (this.trouble) return respond(this.trouble, { error: { message: 'in trouble' } });
    const now = held.saves.length + 1;
    if (base !== now) {
      const known = held.saves.filter((s) => s.version > base).flatMap((s) => s.changes.map((c) => c.id));
      if (!known.length || known.some((one, i) => one !== changes[i]?.id))
        return respond(409, { error: { message: 'moved on' }, ...since(base), version: now });
      changes.splice(0, known.length);
    }
    if (changes.length) {
      for (const { steps } of changes) held.document = kindOf(held.kind).apply(held.document, steps);
      held.saves.push({ version: held.saves.length + 2, savedAt: AT, changes });
    }
    if (this.losing) throw new TypeError('lost');
    return respond(200, { version: held.saves.length + 1, savedAt: AT });
  };
}

const idOf = ({ document }: Held): string => ('id' in document ? document.id : STUDIO);

/** A place where nothing is to be had: pages that were left over from a test stop asking. */
export const nobody = (): Promise<Response> =>
  Promise.resolve(Response.json({ error: { message: 'There is nothing here.' } }, { status: 404 }));

/** Has the browser of the tests keep nothing of what was done before. */
export async function keepNothing(): Promise<void> {
  // It is laid out by the page itself.
  await keptWork();
  const db = await openDB('cordelina-sync');
  for (const store of db.objectStoreNames) await db.clear(store);
  db.close();
}
