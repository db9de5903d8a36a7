import 'fake-indexeddb/auto';
import { SWATCH, SwatchSchema, type Change, type Swatch } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import { hear } from '../src/desk/state/hearing.js';
import { makeStore } from '../src/desk/state/index.js';
import {
  addSwatch,
  bookHistory,
  bookOfSwatches,
  changeSwatch,
  letSwatchGo,
  meetSwatches,
  putSwatchBack,
  redoInBook,
  swatchBoxes,
  swatchesWaiting,
  takeSwatchOut,
  undoInBook,
} from '../src/desk/state/swatches.js';
import { choose } from '../src/sync/history.js';
import { flush, makePage, sendAll } from '../src/sync/post.js';
import { nobody, TestServer } from './server.js';

const someSwatch = (name: string): Swatch => SwatchSchema.parse({ id: randomUUID(), name });

describe('the swatch book as a browser knows it', () => {
  let server: TestServer;
  let plain: Swatch;
  let cabled: Swatch;
  let tabs = 0;
  const opened = async (tab = `book ${++tabs}`) => {
    const store = makeStore(makePage(() => Promise.resolve(tab)));
    await store.dispatch(meetSwatches());
    return store;
  };
  type Store = Awaited<ReturnType<typeof opened>>;
  const book = (store: Store) => bookOfSwatches(store.getState());
  const names = (store: Store) => book(store).map(({ swatch }) => swatch.name);
  const here = (store: Store, { id }: Swatch) => book(store).find(({ swatch }) => swatch.id === id)?.swatch;
  const there = ({ id }: Swatch) => server.document<'swatch'>(id);
  const waiting = (store: Store) => swatchesWaiting(store.getState());
  /** Sends all that waits, without the pause the hands are given. */
  const sent = (store: Store) =>
    Promise.all(swatchBoxes(store.getState()).map(({ id }) => store.dispatch(flush(id))));
  const settled = async (store: Store) => {
    for (let tries = 0; waiting(store) && tries < 500; tries++) await new Promise((r) => setTimeout(r, 10));
  };
  const theirs = (swatch: Swatch, patch: Partial<Swatch>): Change => ({
    id: randomUUID(),
    label: 'theirs',
    steps: SWATCH.between(there(swatch)!, { ...there(swatch)!, ...patch }),
  });
  beforeEach(() => {
    server = new TestServer();
    globalThis.fetch = server.fetch as typeof fetch;
    [plain, cabled] = [someSwatch('Plain'), someSwatch('Cabled')];
    server.add(plain, 'swatch');
  });
  after(() => {
    globalThis.fetch = nobody;
  });

  it('shows what was done at once, keeps it while the server is away, and sends it when it is back', async () => {
    const store = await opened();
    server.away = true;
    await store.dispatch(addSwatch(cabled));
    store.dispatch(changeSwatch(cabled.id, 'grams', { grams: 20 }));
    store.dispatch(changeSwatch(plain.id, 'needle', { needle: 4 }));
    expect(names(store)).to.deep.equal(['Cabled', 'Plain']);
    await sent(store);
    expect(waiting(store)).to.equal(2);
    // A tab that is closed leaves what it did to the next.
    const later = await opened();
    expect(later.getState().listed.swatch.state).to.equal('away');
    server.away = false;
    await later.dispatch(sendAll());
    await settled(later);
    expect(there(cabled)).to.deep.equal({ ...cabled, grams: 20 });
    expect(there(plain)!.needle).to.equal(4);
    await later.dispatch(meetSwatches());
    expect([names(later), waiting(later)]).to.deep.equal([['Cabled', 'Plain'], 0]);
  });

  it('lets two people at one swatch both keep their work', async () => {
    const store = await opened();
    server.save(
      plain.id,
      theirs(plain, { notes: 'soft', after: { stitches: [{ count: 20, over: 100_000 }], rows: [] } }),
    );
    store.dispatch(changeSwatch(plain.id, 'grams', { grams: 31 }));
    store.dispatch(
      changeSwatch(plain.id, 'readings', { after: { stitches: [], rows: [{ count: 28, over: 100_000 }] } }),
    );
    await sent(store);
    const both = {
      grams: 31,
      notes: 'soft',
      after: { stitches: [{ count: 20, over: 100_000 }], rows: [{ count: 28, over: 100_000 }] },
    };
    expect(there(plain)).to.deep.include(both);
    expect(here(store, plain)).to.deep.include(both);
    expect(swatchBoxes(store.getState())[0]!.choices).to.deep.equal([]);
  });

  it('has both told where they measured the same thing otherwise, and lets one be chosen', async () => {
    const store = await opened();
    server.save(plain.id, theirs(plain, { needle: 5 }));
    store.dispatch(changeSwatch(plain.id, 'needle', { needle: 4 }));
    await sent(store);
    expect([there(plain)!.needle, here(store, plain)!.needle]).to.deep.equal([5, 5]);
    const box = () => swatchBoxes(store.getState())[0]!;
    expect(box().choices.map(({ label }) => label)).to.deep.equal(['Needle']);
    store.dispatch(choose(box(), [box().choices[0]!.id]));
    await sent(store);
    expect([there(plain)!.needle, box().choices.length]).to.deep.equal([4, 0]);
  });

  it('takes back and does again in the order it was done, over all swatches, on the server too', async () => {
    const store = await opened();
    await store.dispatch(addSwatch(cabled));
    store.dispatch(changeSwatch(cabled.id, 'grams', { grams: 20 }));
    store.dispatch(changeSwatch(plain.id, 'needle', { needle: 4 }));
    store.dispatch(takeSwatchOut(cabled.id));
    await sent(store);
    expect([names(store), server.gone.has(cabled.id)]).to.deep.equal([['Plain'], true]);
    expect(bookHistory(store.getState())).to.deep.equal({ undo: 'Cabled taken out', redo: null });
    store.dispatch(undoInBook());
    expect(names(store)).to.deep.equal(['Cabled', 'Plain']);
    await sent(store);
    expect(server.gone.has(cabled.id)).to.equal(false);
    store.dispatch(undoInBook());
    expect(here(store, plain)!.needle).to.equal(null);
    store.dispatch(undoInBook());
    expect(here(store, cabled)!.grams).to.equal(null);
    store.dispatch(undoInBook());
    await sent(store);
    expect([names(store), server.gone.has(cabled.id)]).to.deep.equal([['Plain'], true]);
    expect(bookHistory(store.getState())).to.deep.equal({ undo: null, redo: 'swatch Cabled' });
    for (let i = 0; i < 3; i++) store.dispatch(redoInBook());
    await sent(store);
    expect([there(cabled)!.grams, there(plain)!.needle]).to.deep.equal([20, 4]);
    expect(store.getState().swatches.message).to.equal('Done again: needle');
    expect(bookHistory(store.getState()).redo).to.equal('Cabled taken out');
  });

  it('never sends a swatch that was taken back before the server knew of it', async () => {
    const store = await opened();
    server.away = true;
    await store.dispatch(addSwatch(cabled));
    store.dispatch(undoInBook());
    server.away = false;
    await sent(store);
    expect(server.ids()).not.to.include(cabled.id);
    expect(waiting(store)).to.equal(0);
    store.dispatch(redoInBook());
    await sent(store);
    expect(server.ids()).to.include(cabled.id);
  });

  it('says what the server refuses, keeps it, and lets it be taken back', async () => {
    const store = await opened();
    server.trouble = 413;
    await store.dispatch(addSwatch(cabled));
    const box = () => swatchBoxes(store.getState())[0]!;
    expect(box().save).to.deep.equal({ kind: 'refused', message: 'in trouble' });
    expect(names(store)).to.deep.equal(['Cabled', 'Plain']);
    await store.dispatch(letSwatchGo(cabled.id));
    expect(names(store)).to.deep.equal(['Plain']);
    // What is no swatch is said at once and changes nothing.
    store.dispatch(changeSwatch(plain.id, 'needle', { needle: 4000 }));
    expect(store.getState().swatches.message).to.equal('No needle is so thick.');
    expect(here(store, plain)!.needle).to.equal(null);
  });

  it('goes with what others take out and put back; what was measured meanwhile is kept until it is decided', async () => {
    const store = await opened();
    store.dispatch(changeSwatch(plain.id, 'grams', { grams: 10 }));
    await sent(store);
    server.gone.add(plain.id);
    store.dispatch(hear({ of: 'swatch', id: plain.id, kind: 'taken-out' }));
    expect([names(store), waiting(store)]).to.deep.equal([[], 0]);
    server.gone.delete(plain.id);
    store.dispatch(hear({ of: 'swatch', id: plain.id, kind: 'put-back', version: 2 }));
    expect(names(store)).to.deep.equal(['Plain']);

    store.dispatch(changeSwatch(plain.id, 'notes', { notes: 'dry' }));
    server.gone.add(plain.id);
    await sent(store);
    expect(swatchBoxes(store.getState())[0]!.save.kind).to.equal('gone');
    expect(here(store, plain)!.notes).to.equal('dry');
    store.dispatch(putSwatchBack(plain.id));
    await settled(store);
    expect([server.gone.has(plain.id), there(plain)!.notes]).to.deep.equal([false, 'dry']);
  });
});
