import 'fake-indexeddb/auto';
import {
  changeOf,
  headChange,
  insertRows,
  placeStitches,
  simpleCrossing,
  startChart,
  startDesign,
  type Change,
  type Design,
  type Stitch,
} from '@cordelina/core';
import { expect } from 'chai';
import { listDesigns } from '../src/sync/server.js';
import { bench } from '../src/desk/state/bench.js';
import { edit, onBench, redo, undo } from '../src/desk/state/editing.js';
import { makeStore } from '../src/desk/state/index.js';
import { kept, keptWork } from '../src/sync/keeping.js';
import { boxOf, outbox } from '../src/sync/outbox.js';
import {
  carryUnsaved,
  closeIdle,
  flush,
  layDown,
  layDownAnew,
  makePage,
  pull,
  sendAll,
} from '../src/sync/post.js';
import { openDesign } from '../src/desk/state/open-design.js';
import { choose } from '../src/sync/history.js';
import { nobody, TestServer } from './server.js';

const cloth = startChart({ columns: 6, rows: 3, construction: 'flat', ground: 'p' });
const L22 = simpleCrossing('left', 2, 2);
let made = 0;

describe('saving', () => {
  let server: TestServer;
  let design: Design;
  const alive = new Set<string>();
  const realNavigator = Object.getOwnPropertyDescriptor(globalThis, 'navigator');

  type Store = ReturnType<typeof makeStore>;
  let tabs = 0;
  /** A tab of the browser with the design open in it. `reloaded` tabs keep their id. */
  const opened = async (id = design.id, tab = `tab-${++tabs}`): Promise<Store & { tab: string }> => {
    alive.add(tab);
    const store = makeStore(makePage(() => Promise.resolve(tab)));
    await store.dispatch(openDesign(id));
    return Object.assign(store, { tab });
  };
  const close = async ({ tab }: { tab: string }) => {
    await quiet(40);
    alive.delete(tab);
  };
  const box = (store: Store, id = design.id) => boxOf(store.getState().outbox, 'design', id)!;
  const firsts = (of: Design | undefined) => of?.charts[0]!.rows.map((row) => row[0]);
  const set = (row: number, stitch: Stitch) =>
    edit(`row ${row + 1}`, (c) => placeStitches(c, row, 0, [stitch]));
  const theirs = (row: number, stitch: Stitch, column = 0): Change =>
    changeOf(
      placeStitches(server.document(design.id)!.charts[0]!, row, column, [stitch]),
      'theirs',
      crypto.randomUUID(),
    )!;
  const quiet = (ms: number) => new Promise((r) => setTimeout(r, ms));
  const settled = async (store: Store, kind: string, id = design.id) => {
    for (let i = 0; i < 300; i++) {
      if (box(store, id)?.save.kind === kind) return;
      await quiet(15);
    }
    expect.fail(`it is still ${box(store, id)?.save.kind}`);
  };

  beforeEach(() => {
    server = new TestServer();
    globalThis.fetch = server.fetch as typeof fetch;
    design = startDesign(`00000000-0000-4000-8000-${String(++made).padStart(12, '0')}`, 'Trial', cloth);
    server.add(design);
  });
  before(() => {
    const locks = {
      query: () => Promise.resolve({ held: [...alive].map((tab) => ({ name: `cordelina-tab ${tab}` })) }),
    };
    Object.defineProperty(globalThis, 'navigator', { value: { locks }, configurable: true });
  });
  after(() => {
    globalThis.fetch = nobody;
    if (realNavigator) Object.defineProperty(globalThis, 'navigator', realNavigator);
    else Reflect.deleteProperty(globalThis, 'navigator');
  });

  it('sends an edit when the hands rest, and a burst of edits as one save', async () => {
    const store = await opened();
    store.dispatch(set(0, 'k'));
    store.dispatch(set(1, 'k'));
    store.dispatch(set(2, L22));
    await settled(store, 'saved');
    expect(server.sent).to.equal(1);
    expect(server.document(design.id)).to.deep.equal(JSON.parse(JSON.stringify(box(store).document)));
    expect(box(store)).to.deep.include({ base: 2, unsaved: [] });
    expect(box(store).saved).to.deep.equal(box(store).document);
  });

  it('saves undo and redo like any other edit, and both survive a reload', async () => {
    const store = await opened();
    store.dispatch(set(0, 'k'));
    store.dispatch(set(1, 'mb'));
    store.dispatch(undo());
    await settled(store, 'saved');
    expect(firsts(server.document(design.id))).to.deep.equal(['k', 'p', 'p']);
    await quiet(30);
    const reloaded = await opened(design.id, store.tab);
    reloaded.dispatch(redo());
    reloaded.dispatch(undo());
    reloaded.dispatch(undo());
    await settled(reloaded, 'saved');
    expect(firsts(server.document(design.id))).to.deep.equal(['p', 'p', 'p']);
  });

  it('goes on when an edit is made while a save is on its way', async () => {
    const store = await opened();
    let answer: () => void = () => undefined;
    server.hold = new Promise((go) => (answer = go));
    store.dispatch(set(0, 'k'));
    await settled(store, 'saving');
    store.dispatch(set(1, 'k'));
    void store.dispatch(flush(design.id));
    await quiet(450);
    answer();
    server.hold = null;
    await settled(store, 'saved');
    expect([server.version(design.id), firsts(server.document(design.id))]).to.deep.equal([
      3,
      ['k', 'k', 'p'],
    ]);
  });

  it('belongs to its design, whichever is on the bench when the answer comes', async () => {
    const other = {
      ...design,
      id: `00000000-0000-4000-8000-${String(++made).padStart(12, '0')}`,
      title: 'Other',
    };
    server.add(other);
    const store = await opened();
    let answer: () => void = () => undefined;
    server.hold = new Promise((go) => (answer = go));
    store.dispatch(set(0, 'k'));
    await settled(store, 'saving');
    server.save(design.id, theirs(1, 'mb'));
    await store.dispatch(openDesign(other.id));
    store.dispatch(set(2, L22));
    answer();
    server.hold = null;
    await settled(store, 'saved');
    await settled(store, 'saved', other.id);
    expect(firsts(server.document(design.id))).to.deep.equal(['k', 'mb', 'p']);
    expect(server.document(other.id)!.charts[0]!.rows[2]![0]).to.deep.include({ lean: 'left' });
    expect(onBench(store.getState())!.id).to.equal(other.id);
    store.dispatch(closeIdle());
    expect(Object.keys(store.getState().outbox)).to.deep.equal([other.id]);
  });

  it('keeps what three and two edits of two closed tabs did, while the server was away', async () => {
    const [one, two] = [await opened(), await opened()];
    server.away = true;
    for (const row of [0, 1, 2]) one.dispatch(set(row, 'k'));
    for (const stitch of ['mb', 'ktbl'] as const)
      two.dispatch(edit('left', (c) => placeStitches(c, stitch === 'mb' ? 0 : 1, 3, [stitch])));
    await close(one);
    await close(two);
    server.away = false;
    const later = await opened();
    await settled(later, 'saved');
    const rows = server.document(design.id)!.charts[0]!.rows;
    expect(rows.map((r) => [r[0], r[3]])).to.deep.equal([
      ['k', 'mb'],
      ['k', 'ktbl'],
      ['k', 'p'],
    ]);
    await quiet(30);
    expect((await kept(design.id)).filter((r) => r.unsaved.length)).to.deep.equal([]);
  });

  it('lets one tab save while another is away with edits of its own', async () => {
    const [one, two] = [await opened(), await opened()];
    server.away = true;
    one.dispatch(set(0, 'k'));
    await settled(one, 'away');
    server.away = false;
    two.dispatch(set(1, 'k'));
    await settled(two, 'saved');
    await close(one);
    // The workroom sends what closed tabs left, design opened or not.
    const third = makeStore(makePage(() => Promise.resolve('third')));
    await third.dispatch(sendAll());
    for (let i = 0; i < 100 && server.version(design.id) < 3; i++) await quiet(15);
    expect(firsts(server.document(design.id))).to.deep.equal(['k', 'k', 'p']);
    await two.dispatch(pull(design.id));
    expect(firsts(box(two).document)).to.deep.equal(['k', 'k', 'p']);
  });

  it('leaves the work of a tab that is open to that tab', async () => {
    const one = await opened();
    server.away = true;
    one.dispatch(set(0, 'k'));
    await settled(one, 'away');
    server.away = false;
    const two = await opened();
    expect(box(two).unsaved).to.deep.equal([]);
    await one.dispatch(flush(design.id));
    await two.dispatch(pull(design.id));
    expect(firsts(box(two).document)).to.deep.equal(['k', 'p', 'p']);
    expect([...box(one).choices, ...box(two).choices]).to.deep.equal([]);
  });

  it('is not in conflict with itself when an answer is lost, nor when the tab is opened again', async () => {
    const store = await opened();
    server.losing = true;
    store.dispatch(set(0, 'k'));
    await settled(store, 'away');
    await close(store);
    server.losing = false;
    server.save(design.id, theirs(2, 'mb'));
    const again = await opened();
    again.dispatch(set(1, 'k'));
    await settled(again, 'saved');
    expect(box(again).choices).to.deep.equal([]);
    expect(firsts(server.document(design.id))).to.deep.equal(['k', 'k', 'mb']);
  });

  it('tells the server at once of what is not saved when the page is left, and saves it once', async () => {
    const store = await opened();
    store.dispatch(set(0, 'k'));
    store.dispatch(carryUnsaved());
    await quiet(40);
    expect(firsts(server.document(design.id))).to.deep.equal(['k', 'p', 'p']);
    // The page stays after all, or another takes up what the disk kept: it is known by its id.
    await settled(store, 'saved');
    expect(server.version(design.id)).to.equal(2);
    store.dispatch(carryUnsaved());
    await quiet(40);
    expect(server.version(design.id)).to.equal(2);
  });

  it('is tried again after server errors, with growing pauses', async () => {
    const store = await opened();
    server.trouble = 500;
    store.dispatch(set(0, 'k'));
    await settled(store, 'away');
    expect(box(store).save).to.deep.equal({ kind: 'away', tries: 1 });
    for (let i = 0; i < 200 && server.sent < 2; i++) await quiet(15);
    await quiet(20);
    expect(box(store).save).to.deep.equal({ kind: 'away', tries: 2 });
    server.trouble = null;
    await store.dispatch(pull(design.id));
    expect(firsts(server.document(design.id))).to.deep.equal(['k', 'p', 'p']);
  });

  it('joins rows put in elsewhere, also where rows are alike, and undo goes on', async () => {
    const store = await opened();
    store.dispatch(set(2, 'k'));
    await settled(store, 'saved');
    const chart = server.document(design.id)!.charts[0]!;
    server.save(
      design.id,
      changeOf(insertRows(chart, 0, [[...cloth.rows[0]!]]), 'rows', crypto.randomUUID())!,
    );
    store.dispatch(set(1, 'mb'));
    await settled(store, 'saved');
    expect(firsts(server.document(design.id))).to.deep.equal(['p', 'p', 'mb', 'k']);
    store.dispatch(undo());
    store.dispatch(undo());
    await settled(store, 'saved');
    expect(firsts(server.document(design.id))).to.deep.equal(['p', 'p', 'p', 'p']);
  });

  it('joins the whole document where the server keeps no steps so far back', async () => {
    const store = await opened();
    server.save(design.id, theirs(2, 'mb'));
    server.forgetful = true;
    store.dispatch(set(0, 'k'));
    await settled(store, 'saved');
    expect(firsts(server.document(design.id))).to.deep.equal(['k', 'p', 'mb']);
  });

  it('has nothing left to save when both made the same edit, keys in another order or not', async () => {
    const store = await opened();
    const { colours, ...rest } = design.settings;
    const settings = { colours, ...rest, hand: 'left-same-fabric' as const };
    server.save(design.id, headChange(design, { settings }, 'hand', crypto.randomUUID())!);
    server.save(design.id, theirs(0, 'k'));
    store.dispatch(set(0, 'k'));
    await settled(store, 'saved');
    expect(box(store)).to.deep.include({ base: 3, unsaved: [], choices: [] });
    expect(box(store).document.settings.hand).to.equal('left-same-fabric');
  });

  describe('where both changed the same', () => {
    const clashed = async () => {
      const store = await opened();
      server.save(design.id, theirs(0, 'ktbl'));
      server.save(design.id, theirs(1, 'ktbl'));
      store.dispatch(set(0, 'k'));
      store.dispatch(set(1, 'mb'));
      store.dispatch(set(2, 'k'));
      await settled(store, 'saved');
      return store;
    };

    it("keeps the server's, saves the rest, and offers this browser's row by row", async () => {
      const store = await clashed();
      expect(firsts(server.document(design.id))).to.deep.equal(['ktbl', 'ktbl', 'k']);
      expect(box(store).choices.map((c) => c.label)).to.deep.equal(['Row 1', 'Row 2']);
      store.dispatch(choose(box(store), [box(store).choices[1]!.id]));
      await settled(store, 'saved');
      expect(firsts(server.document(design.id))).to.deep.equal(['ktbl', 'mb', 'k']);
      expect(box(store).choices).to.deep.equal([]);
      store.dispatch(undo());
      await settled(store, 'saved');
      expect(firsts(server.document(design.id))).to.deep.equal(['ktbl', 'ktbl', 'k']);
    });

    it('still offers it after later edits, a closed tab and rows put in below', async () => {
      const store = await clashed();
      store.dispatch(edit('rows', (c) => insertRows(c, 0, [[...cloth.rows[0]!]])));
      store.dispatch(set(2, 'p'));
      await settled(store, 'saved');
      await close(store);
      const later = await opened();
      // Row 2 was decided by the edit; row 1 stands one higher.
      expect(box(later).choices.map((c) => c.steps.map((s) => s.kind === 'cells' && s.row))).to.deep.equal([
        [1],
      ]);
      later.dispatch(
        choose(
          box(later),
          box(later).choices.map((c) => c.id),
        ),
      );
      await settled(later, 'saved');
      expect(firsts(server.document(design.id))).to.deep.equal(['p', 'k', 'p', 'k']);
    });

    it('has a title for a choice, too', async () => {
      const store = await opened();
      server.save(design.id, headChange(design, { title: 'Theirs' }, '', crypto.randomUUID())!);
      const mine = headChange(design, { title: 'Mine' }, 'rename', crypto.randomUUID())!;
      store.dispatch(
        outbox.changed({
          id: design.id,
          change: mine,
          document: { ...design, title: 'Mine' },
          done: [mine],
          undone: [],
          choices: [],
          out: false,
        }),
      );
      await settled(store, 'saved');
      expect(server.document(design.id)!.title).to.equal('Theirs');
      expect(box(store).choices.map((c) => c.label)).to.deep.equal(['Title']);
      store.dispatch(choose(box(store), []));
      expect(box(store).choices).to.deep.equal([]);
    });
  });

  it('keeps the edits of a design taken out elsewhere, and lays them down as a new one', async () => {
    const [store, other] = [await opened(), await opened()];
    server.gone.add(design.id);
    store.dispatch(set(0, 'k'));
    await settled(store, 'gone');
    expect(box(store).unsaved).to.have.length(1);
    server.away = true;
    other.dispatch(set(1, 'k'));
    await settled(other, 'away');
    server.away = false;
    const before = server.ids().length;
    const [copy, twice] = await Promise.all([1, 2].map(() => store.dispatch(layDownAnew(design.id))));
    expect([twice, server.ids().length]).to.deep.equal([null, before + 1]);
    expect(firsts(server.document(copy!))).to.deep.equal(['k', 'p', 'p']);
    // What another tab did stays that tab's.
    expect((await kept(design.id)).map((r) => r.tab)).to.deep.equal([other.tab]);
    // Put back, it takes edits again.
    server.gone.delete(design.id);
    expect((await opened()).getState().outbox[design.id]!.save.kind).to.equal('saved');
  });

  it('makes a new design without the server, once, and sends it later with its edits', async () => {
    server.away = true;
    const fresh = { ...design, id: `00000000-0000-4000-8000-${String(++made).padStart(12, '0')}` };
    const store = makeStore(makePage(() => Promise.resolve('maker')));
    await store.dispatch(layDown('design', fresh.id, fresh));
    await store.dispatch(openDesign(fresh.id));
    store.dispatch(set(0, 'k'));
    await settled(store, 'away', fresh.id);
    expect((await keptWork()).find((d) => d.id === fresh.id)).to.deep.include({
      waits: true,
      isNew: true,
    });
    await close({ tab: 'maker' });
    Object.assign(server, { away: false, losing: true });
    const later = await opened(fresh.id);
    await settled(later, 'away', fresh.id);
    server.losing = false;
    await later.dispatch(pull(fresh.id));
    await settled(later, 'saved', fresh.id);
    expect(firsts(server.document(fresh.id))).to.deep.equal(['k', 'p', 'p']);
    expect(server.ids().filter((id) => id === fresh.id)).to.have.length(1);
  });

  it('opens the last document seen while the server is away, and says why nothing else can be had', async () => {
    const store = await opened();
    await close(store);
    server.away = true;
    expect((await opened()).getState().outbox[design.id]!.save.kind).to.equal('away');
    server.away = false;
    const none = await opened('00000000-0000-4000-8000-00000000aaaa');
    expect(none.getState().bench.failure).to.equal('This design is not in the workroom.');
  });

  it('says why the server refuses an edit, keeps it, and takes it again with the next', async () => {
    const store = await opened();
    server.trouble = 400;
    store.dispatch(set(0, 'k'));
    await settled(store, 'refused');
    expect(box(store).save).to.deep.equal({ kind: 'refused', message: 'in trouble' });
    server.trouble = null;
    store.dispatch(undo());
    await settled(store, 'saved');
    expect(firsts(server.document(design.id))).to.deep.equal(['p', 'p', 'p']);
  });

  it('goes on when the browser keeps nothing', async () => {
    const real = globalThis.indexedDB.open.bind(globalThis.indexedDB);
    const transaction = IDBDatabase.prototype.transaction;
    IDBDatabase.prototype.transaction = () => {
      throw new DOMException('no', 'QuotaExceededError');
    };
    try {
      const store = await opened();
      store.dispatch(set(0, 'k'));
      await settled(store, 'saved');
      expect(firsts(server.document(design.id))).to.deep.equal(['k', 'p', 'p']);
    } finally {
      IDBDatabase.prototype.transaction = transaction;
      globalThis.indexedDB.open = real;
    }
  });

  it('lists the workroom though one card cannot be understood and another is not worked out', async () => {
    const card = { id: design.id, title: 'Trial', version: 1, savedAt: '' };
    const designs = [{ ...card, summary: { of: 'another time' } }, { ...card, summary: null }, { id: 7 }];
    globalThis.fetch = () => Promise.resolve(new Response(JSON.stringify({ designs })));
    expect((await listDesigns()).map((c) => c.summary)).to.deep.equal([null, null]);
  });

  it('refuses a change that does not fit, and says so', async () => {
    const store = await opened();
    store.dispatch(bench.moved({ cell: { row: 99, column: -3 }, extend: true }));
    expect(store.getState().bench.cursor).to.deep.equal({ row: 2, column: 0 });
    expect(store.dispatch(edit('too wide', (c) => placeStitches(c, 0, 99, ['k'])))).to.be.false;
    expect(store.getState().bench.message).to.include({ tone: 'refused' });
    expect(box(store).unsaved).to.deep.equal([]);
  });
});
