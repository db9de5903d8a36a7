import { applyChange, type Change, type Design } from '@cordelina/core';

const AT = '2026-11-25T10:00:00.000Z';

interface Held {
  document: Design;
  saves: { version: number; savedAt: string; changes: Change[] }[];
}

/** A server of the test's own, which keeps the rules of the real one; away, in trouble or slow when told to be. */
export class TestServer {
  private readonly designs = new Map<string, Held>();
  readonly gone = new Set<string>();
  away = false;
  /** A status to answer every save with. */
  trouble: number | null = null;
  /** Saves are done, and their answers lost on the way. */
  losing = false;
  /** Of older saves it keeps the outcome only. */
  forgetful = false;
  /** Requests that came to save. */
  sent = 0;
  /** What a save waits for before it is answered. */
  hold: Promise<void> | null = null;

  add(document: Design): void {
    this.designs.set(document.id, { document, saves: [] });
  }

  document(id: string): Design | undefined {
    return this.designs.get(id)?.document;
  }

  version(id: string): number {
    return this.designs.get(id)!.saves.length + 1;
  }

  ids(): string[] {
    return [...this.designs.keys()];
  }

  /** Someone else saves. */
  save(id: string, change: Change): void {
    const held = this.designs.get(id)!;
    held.document = applyChange(held.document, change);
    held.saves.push({ version: held.saves.length + 2, savedAt: AT, changes: [change] });
  }

  readonly fetch = async (
    input: unknown,
    init: { method?: string; body?: string } = {},
  ): Promise<Response> => {
    if (this.away) throw new TypeError('no route');
    const [path, query] = String(input).replace('/api/designs', '').split('?') as [string, string?];
    const [, id = '', what] = path.split('/');
    const body = init.body ? (JSON.parse(init.body) as Record<string, unknown>) : {};
    const respond = (status: number, answer: unknown) => new Response(JSON.stringify(answer), { status });
    if (init.method === 'POST' && !id) {
      const document = body.document as Design;
      if (this.designs.has(document.id))
        return respond(409, { error: { message: 'there already' }, version: 1 });
      this.add(document);
      if (this.losing) throw new TypeError('lost');
      return respond(201, { version: 1, savedAt: AT });
    }
    const held = this.designs.get(id);
    if (!held || this.gone.has(id))
      return respond(404, { error: { message: 'This design is not in the workroom.' } });
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
      held.document = changes.reduce(applyChange, held.document);
      held.saves.push({ version: held.saves.length + 2, savedAt: AT, changes });
    }
    if (this.losing) throw new TypeError('lost');
    return respond(200, { version: held.saves.length + 1, savedAt: AT });
  };
}
