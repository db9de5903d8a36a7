import 'fake-indexeddb/auto';
import {
  KNITTING,
  NoteSchema,
  startChart,
  startDesign,
  type Design,
  type Knitting,
  type NeedlePlace,
  type Note,
} from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import { makeStore } from '../src/desk/state/index.js';
import { LISTED, meet } from '../src/desk/state/listed.js';
import {
  bringBack,
  castOn,
  changeKnitting,
  changeNote,
  goOver,
  goTo,
  openKnitting,
  putAway,
  putSkein,
  takeSkein,
  writeNote,
} from '../src/desk/state/needles.js';
import { boxOf } from '../src/sync/outbox.js';
import { flush, makePage, pull } from '../src/sync/post.js';
import { nobody, TestServer } from './server.js';

/** A shelf as small as a browser's, for what is written at once. */
function shelf(): Storage {
  const held = new Map<string, string>();
  return {
    getItem: (key: string) => held.get(key) ?? null,
    setItem: (key: string, value: string) => void held.set(key, value),
    removeItem: (key: string) => void held.delete(key),
    clear: () => held.clear(),
    key: () => null,
    get length() {
      return held.size;
    },
  };
}

describe('a knitter’s place as a device knows it', () => {
  let server: TestServer;
  let design: Design;
  let tabs = 0;
  const device = (tab = `needles ${++tabs}`) => makeStore(makePage(() => Promise.resolve(tab)));
  type Store = ReturnType<typeof device>;
  const box = (store: Store, id: string) => boxOf(store.getState().outbox, 'knitting', id)!;
  const here = (store: Store, id: string): NeedlePlace => box(store, id).document.place;
  const there = (id: string) => server.document<'knitting'>(id)!;
  const begin = (store: Store) =>
    store.dispatch(
      castOn({
        design,
        version: 1,
        of: { chart: 'chart' },
        name: 'Left',
        knitter: 'Ina',
        hand: null,
        device: 'phone',
      }),
    );
  const was = globalThis.localStorage;
  beforeEach(() => {
    server = new TestServer();
    globalThis.fetch = server.fetch as typeof fetch;
    Object.defineProperty(globalThis, 'localStorage', { value: shelf(), configurable: true });
    design = startDesign(
      randomUUID(),
      'Vest',
      startChart({ columns: 6, rows: 4, construction: 'flat', ground: 'p' }),
    );
    server.add(design);
  });
  after(() => {
    globalThis.fetch = nobody;
    Object.defineProperty(globalThis, 'localStorage', { value: was, configurable: true });
  });

  it('keeps the pattern as it was, goes on row by row, and leaves one change to send of however many goes', async () => {
    const store = device();
    const id = await begin(store);
    const { edition } = there(id);
    expect(server.document<'edition'>(edition)!.document).to.deep.equal(design);
    server.away = true;
    for (let group = 1; group < 40; group++) store.dispatch(goTo(id, 'phone', { row: 0, group }));
    store.dispatch(goTo(id, 'phone', { row: 1, group: 0 }));
    expect(box(store, id).unsaved).to.have.length(1);
    expect(Object.keys(box(store, id).document.log)).to.deep.equal(['0']);
    // Nothing of it is there to undo: a place is not taken back, it is gone to.
    expect(box(store, id).done).to.deep.equal([]);
    server.away = false;
    await store.dispatch(flush(id));
    expect(there(id).place).to.deep.include({ row: 1, group: 0, device: 'phone' });
  });

  it('stands where her hand was last of two devices, whichever is heard of first, whatever their clocks say', async () => {
    const phone = device();
    const id = await begin(phone);
    const tablet = device();
    await tablet.dispatch(openKnitting(id));
    server.away = true;
    phone.dispatch(goTo(id, 'phone', { row: 1, group: 0 }));
    await new Promise((r) => setTimeout(r, 5));
    server.away = false;
    tablet.dispatch(goTo(id, 'tablet', { row: 3, group: 2 }));
    await tablet.dispatch(flush(id));
    // The phone comes back later, with an older place.
    await phone.dispatch(flush(id));
    expect(there(id).place).to.deep.include({ row: 3, group: 2, device: 'tablet' });
    expect(here(phone, id)).to.deep.include({ row: 3, device: 'tablet' });
    // Having seen it, her hand there is later, even if the phone's clock stands a year back.
    const { now } = Date;
    Date.now = () => now() - 365 * 86_400_000;
    try {
      phone.dispatch(goTo(id, 'phone', { row: 2, group: 0 }));
    } finally {
      Date.now = now;
    }
    await phone.dispatch(flush(id));
    await tablet.dispatch(pull(id));
    expect(here(tablet, id)).to.deep.include({ row: 2, device: 'phone' });
  });

  it('finds the place again that was written last, though the page went before it was kept', async () => {
    const store = device();
    const id = await begin(store);
    const place: NeedlePlace = { row: 2, group: 1, at: here(store, id).at + 5, device: 'phone' };
    localStorage.setItem('cordelina-place', JSON.stringify({ id, value: place }));
    const later = device();
    await later.dispatch(openKnitting(id));
    expect(here(later, id)).to.deep.equal(place);
    await later.dispatch(flush(id));
    // What is older, of another, or spoiled, is left alone.
    for (const wrong of [
      JSON.stringify({ id, value: { ...place, at: 1, row: 0 } }),
      JSON.stringify({ id: randomUUID(), value: { ...place, at: place.at + 9, row: 0 } }),
      '{"id":',
      JSON.stringify({ id, value: { row: -1 } }),
    ]) {
      localStorage.setItem('cordelina-place', wrong);
      const again = device();
      await again.dispatch(openKnitting(id));
      expect(here(again, id).row).to.equal(2);
    }
  });

  it('keeps skeins, rests and a new pattern, and is put away and brought back', async () => {
    const store = device();
    const id = await begin(store);
    store.dispatch(putSkein(id, { lot: '4b', row: 0 }, 'c0d10000-0000-4000-8000-0000000000aa'));
    store.dispatch(putSkein(id, { lot: '4c', row: 1 }));
    store.dispatch(takeSkein(id, 'c0d10000-0000-4000-8000-0000000000aa'));
    store.dispatch(changeKnitting(id, { rest: 30 }));
    // What cannot be is said, and changes nothing.
    store.dispatch(changeKnitting(id, { rest: 1 }));
    expect(store.getState().needles.message).to.be.a('string');
    await store.dispatch(flush(id));
    expect(Object.values(there(id).skeins).map(({ lot }) => lot)).to.deep.equal(['4c']);
    expect(there(id).rest).to.equal(30);
    const newer = { ...design, title: 'Vest, mended' };
    await store.dispatch(goOver(id, newer, 2, 'phone', { row: 0, group: 0 }));
    await store.dispatch(flush(id));
    expect(server.document<'edition'>(there(id).edition)!.document.title).to.equal('Vest, mended');
    store.dispatch(putAway(id));
    await store.dispatch(flush(id));
    expect(server.gone.has(id)).to.be.true;
    store.dispatch(bringBack());
    await store.dispatch(flush(id));
    expect(server.gone.has(id)).to.be.false;
  });

  it('sends notes to the designer, who answers; what both say of it is joined', async () => {
    const store = device();
    const note: Note = NoteSchema.parse({
      id: randomUUID(),
      design: design.id,
      by: 'Ina',
      at: 5,
      where: 'Row 2',
      text: 'One short.',
    });
    expect(await store.dispatch(writeNote(note, null))).to.be.true;
    expect(LISTED.note.all(store.getState()).map(({ document }) => document.text)).to.deep.equal([
      'One short.',
    ]);
    const desk = device();
    await desk.dispatch(meet('note'));
    desk.dispatch(changeNote(note.id, { answer: 'Mended.', state: 'answered' }));
    await desk.dispatch(flush(note.id));
    store.dispatch(changeNote(note.id, { errata: true }));
    await store.dispatch(flush(note.id));
    const kept = server.document<'note'>(note.id)!;
    expect(kept).to.deep.include({ answer: 'Mended.', state: 'answered', errata: true });
    expect(KNITTING.titleOf({ name: 'Left', knitter: 'Ina' } as Knitting)).to.equal('Left, Ina');
  });
});
