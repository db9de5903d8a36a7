import 'fake-indexeddb/auto';
import { configureStore } from '@reduxjs/toolkit';
import {
  applyChange,
  changeOf,
  headChange,
  placeStitches,
  simpleCrossing,
  startChart,
  startDesign,
  type Change,
  type Design,
  type Stitch,
} from '@cordelina/core';
import { expect } from 'chai';
import { bench, benchReducer } from '../src/store/bench.js';
import { forget, keep, kept, waiting } from '../src/store/shelf.js';
import { flush, keepBoth, openDesign, sync, takeTheirs } from '../src/store/sync.js';

/** A server of the test's own: designs by id with versions, away when it is told to be. */
class Server {
  designs = new Map<string, { version: number; document: Design }>();
  away = false;
  saves = 0;
  /** Milliseconds every save takes to be answered. */
  slow = 0;

  readonly fetch = (input: unknown, init: { method?: string; body?: string } = {}): Promise<Response> => {
    if (this.away) return Promise.reject(new TypeError('no route'));
    const id = String(input).split('/')[3] ?? '';
    const found = this.designs.get(id);
    const answer = (status: number, body: unknown) =>
      Promise.resolve(new Response(JSON.stringify(body), { status }));
    const stored = (d: { version: number; document: Design }) => ({
      ...d,
      savedAt: '2026-11-25T10:00:00.000Z',
    });
    if (init.method === 'POST') {
      const { document } = JSON.parse(init.body!) as { document: Design };
      this.designs.set(document.id, { version: 1, document });
      return answer(201, { version: 1, savedAt: '2026-11-25T10:00:00.000Z' });
    }
    if (!found) return answer(404, { error: { message: 'This design is not in the workroom.' } });
    if (init.method !== 'PUT') return answer(200, stored(found));
    const { base, document } = JSON.parse(init.body!) as { base: number; document: Design };
    this.saves++;
    const late = this.slow;
    return this.save(id, base, document).then((r) => new Promise((go) => setTimeout(() => go(r), late)));
  };

  private save(id: string, base: number, document: Design): Promise<Response> {
    const found = this.designs.get(id)!;
    const answer = (status: number, body: unknown) =>
      Promise.resolve(new Response(JSON.stringify(body), { status }));
    const stored = { ...found, savedAt: '2026-11-25T10:00:00.000Z' };
    if (base !== found.version) return answer(409, { error: { message: 'moved on' }, current: stored });
    this.designs.set(id, { version: base + 1, document });
    return answer(200, { version: base + 1, savedAt: '2026-11-25T10:00:00.000Z' });
  }
}

const cloth = startChart({ columns: 6, rows: 3, construction: 'flat', ground: 'p' });
const L22 = simpleCrossing('left', 2, 2);
let made = 0;

describe('saving', () => {
  let server: Server;
  let design: Design;
  const realFetch = globalThis.fetch;

  const makeStore = () =>
    configureStore({
      reducer: { bench: benchReducer },
      middleware: (defaults) =>
        defaults({ serializableCheck: false, immutableCheck: false }).prepend(sync.middleware),
    });
  type Store = ReturnType<typeof makeStore>;

  const set = (row: number, stitch: Stitch, of = design): Change =>
    changeOf(placeStitches(of.charts[0]!, row, 0, [stitch]), 'set', crypto.randomUUID())!;
  const edit = (store: Store, row: number, stitch: Stitch) =>
    store.dispatch(bench.edited(set(row, stitch, store.getState().bench.design!)));
  const settled = async (store: Store, ...kinds: string[]) => {
    for (let i = 0; i < 200; i++) {
      if (kinds.includes(store.getState().bench.save.kind)) return;
      await new Promise((r) => setTimeout(r, 15));
    }
    expect.fail(`it is still ${store.getState().bench.save.kind}`);
  };
  const opened = async () => {
    const store = makeStore();
    await store.dispatch(openDesign(design.id));
    return store;
  };

  beforeEach(() => {
    server = new Server();
    globalThis.fetch = server.fetch as typeof fetch;
    design = startDesign(`00000000-0000-4000-8000-${String(++made).padStart(12, '0')}`, 'Trial', cloth);
    server.designs.set(design.id, { version: 1, document: design });
  });
  after(() => {
    globalThis.fetch = realFetch;
  });

  it('sends an edit when the hands rest, and a burst of edits as one save', async () => {
    const store = await opened();
    edit(store, 0, 'k');
    edit(store, 1, 'k');
    edit(store, 2, L22);
    await settled(store, 'saved');
    expect(server.saves).to.equal(1);
    expect(server.designs.get(design.id)!.document.charts[0]!.rows[2]![0]).to.deep.include({ lean: 'left' });
    expect(store.getState().bench).to.deep.include({ base: 2, unsaved: [] });
    expect(await waiting()).not.to.include(design.id);
  });

  it('saves undo and redo like any other edit', async () => {
    const store = await opened();
    edit(store, 0, 'k');
    store.dispatch(bench.undone());
    await settled(store, 'saved');
    expect(server.designs.get(design.id)!.document.charts[0]!.rows).to.deep.equal(cloth.rows);
  });

  it('keeps edits in the browser while the server is away, and sends them when it is back', async () => {
    const store = await opened();
    server.away = true;
    edit(store, 0, 'k');
    await settled(store, 'away');
    expect(await waiting()).to.include(design.id);
    const reopened = await opened();
    expect(reopened.getState().bench.design!.charts[0]!.rows[0]![0]).to.equal('k');
    expect(reopened.getState().bench.save.kind).to.equal('away');
    server.away = false;
    await reopened.dispatch(flush());
    await settled(reopened, 'saved');
    expect(server.designs.get(design.id)!.document.charts[0]!.rows[0]![0]).to.equal('k');
  });

  it('joins edits of other rows that were saved from elsewhere', async () => {
    const store = await opened();
    server.designs.set(design.id, { version: 2, document: applyChange(design, set(2, 'k')) });
    edit(store, 0, 'k');
    await settled(store, 'saved');
    const { document, version } = server.designs.get(design.id)!;
    expect(version).to.equal(3);
    expect([document.charts[0]!.rows[0]![0], document.charts[0]!.rows[2]![0]]).to.deep.equal(['k', 'k']);
    expect(store.getState().bench.message!.text).to.contain('Joined');
  });

  it('goes on when another edit is made while a save is under way and its answer is late', async () => {
    const store = await opened();
    server.slow = 120;
    edit(store, 0, 'k');
    await settled(store, 'saving');
    edit(store, 1, 'k');
    void store.dispatch(flush());
    void store.dispatch(flush());
    edit(store, 2, L22);
    await settled(store, 'saved');
    expect(server.designs.get(design.id)!.document).to.deep.equal(store.getState().bench.design);
    expect(server.saves).to.be.at.most(3);
  });

  it('of one design never touches another that was opened meanwhile', async () => {
    const other = startDesign(`00000000-0000-4000-9000-${String(++made).padStart(12, '0')}`, 'Other', cloth);
    server.designs.set(other.id, { version: 1, document: other });
    const store = await opened();
    server.designs.set(design.id, { version: 2, document: applyChange(design, set(0, 'ktbl')) });
    server.slow = 120;
    edit(store, 0, 'k');
    await settled(store, 'saving');
    await store.dispatch(openDesign(other.id));
    edit(store, 1, L22);
    await settled(store, 'saved');
    const stored = server.designs.get(other.id)!.document;
    expect(stored.charts[0]!.rows[0]).to.deep.equal(cloth.rows[0]);
    expect(stored.charts[0]!.rows[1]![0]).to.deep.equal(L22);
    expect((await kept(design.id))!.unsaved, "the first one's edit is still kept").to.have.length(1);
  });

  it('maps undo over what was joined, so that it takes back only what was done here', async () => {
    const store = await opened();
    edit(store, 2, 'k');
    await settled(store, 'saved');
    server.designs.set(design.id, {
      version: 3,
      document: applyChange(store.getState().bench.design!, set(0, 'mb', store.getState().bench.design!)),
    });
    edit(store, 1, 'k');
    await settled(store, 'saved');
    store.dispatch(bench.undone());
    store.dispatch(bench.undone());
    await settled(store, 'saved');
    const rows = server.designs.get(design.id)!.document.charts[0]!.rows;
    expect(rows.map((row) => row[0])).to.deep.equal(['mb', 'p', 'p']);
  });

  it('has nothing left to save when both made the same edit', async () => {
    const store = await opened();
    server.designs.set(design.id, { version: 2, document: applyChange(design, set(0, 'k')) });
    edit(store, 0, 'k');
    await settled(store, 'saved');
    expect(store.getState().bench).to.deep.include({ base: 2, unsaved: [] });
    await new Promise((r) => setTimeout(r, 50));
    expect(await waiting()).not.to.include(design.id);
  });

  it('stops at edits of the same cells: both versions stay', async () => {
    const theirs = applyChange(design, set(0, 'ktbl'));
    const store = await opened();
    server.designs.set(design.id, { version: 2, document: theirs });
    edit(store, 0, 'k');
    await settled(store, 'conflict');
    expect(server.designs.get(design.id)!.document.charts[0]!.rows[0]![0]).to.equal('ktbl');
    expect(store.getState().bench.design!.charts[0]!.rows[0]![0]).to.equal('k');
    // Also after the tab was closed in the middle of it.
    expect((await opened()).getState().bench.save.kind).to.equal('conflict');

    const copy = await store.dispatch(keepBoth());
    expect(server.designs.get(copy!)!.document).to.deep.include({ title: 'Trial (kept here)' });
    expect(server.designs.get(copy!)!.document.charts[0]!.rows[0]![0]).to.equal('k');
    expect(store.getState().bench).to.deep.include({ base: 2, unsaved: [] });
  });

  it('takes the other version when told to', async () => {
    const store = await opened();
    server.designs.set(design.id, {
      version: 2,
      document: applyChange(design, headChange(design, { title: 'Theirs' }, 'rename', crypto.randomUUID())!),
    });
    store.dispatch(bench.edited(headChange(design, { title: 'Mine' }, 'rename', crypto.randomUUID())!));
    await settled(store, 'conflict');
    await store.dispatch(takeTheirs());
    expect(store.getState().bench.design!.title).to.equal('Theirs');
    expect(store.getState().bench.save.kind).to.equal('saved');
  });

  it('says why a save was refused, and keeps the edit', async () => {
    const store = await opened();
    server.designs.delete(design.id);
    edit(store, 0, 'k');
    await settled(store, 'refused');
    expect(store.getState().bench.save).to.deep.equal({
      kind: 'refused',
      message: 'This design is not in the workroom.',
    });
    expect(store.getState().bench.unsaved).to.have.length(1);
  });

  it('says why a design cannot be opened', async () => {
    server.designs.delete(design.id);
    expect((await opened()).getState().bench.failure).to.equal('This design is not in the workroom.');
  });
});

describe('the shelf in the browser', () => {
  const design = startDesign('00000000-0000-4000-8000-00000000ffff', 'Kept', {
    ...cloth,
    rows: [['p', L22, 'p']],
  });

  it('gives back what was kept, crossings and all, and forgets when told', async () => {
    await keep({ document: design, base: 3, unsaved: [] });
    expect(await kept(design.id)).to.deep.equal({ document: design, base: 3, unsaved: [] });
    await forget(design.id);
    expect(await kept(design.id)).to.equal(null);
  });

  it('treats what it cannot read as not there', async () => {
    await keep({ document: { ...design, format: 99 } as unknown as Design, base: 1, unsaved: [] });
    expect(await kept(design.id)).to.equal(null);
    expect(await waiting()).not.to.include(design.id);
  });
});
