import { SwatchSchema, type Swatch } from '@cordelina/core';
import { expect } from 'chai';
import { makeStore } from '../src/store/index.js';
import { doToSwatch, meetSwatches, redoSwatch, swatches, undoSwatch } from '../src/store/swatches.js';

const swatch = (id: number, name: string): Swatch =>
  SwatchSchema.parse({ id: `00000000-0000-4000-8000-00000000000${id}`, name });

/** A book of the test's own: what it holds, and what it answers when it is told to. */
class TestBook {
  readonly held = new Map<string, Swatch>();
  away = false;
  refusing = false;

  readonly fetch = (input: unknown, init: { method?: string; body?: string } = {}): Promise<Response> => {
    if (this.away) return Promise.reject(new TypeError('no route'));
    const id = String(input).replace('/api/swatches', '').slice(1);
    const answer = (status: number, body: unknown) =>
      Promise.resolve(new Response(JSON.stringify(body), { status }));
    if (init.method === 'PUT') {
      if (this.refusing) return answer(413, { error: { message: 'The book is full.' } });
      this.held.set(id, (JSON.parse(init.body!) as { swatch: Swatch }).swatch);
      return answer(200, { savedAt: '2026-11-26T10:00:00.000Z' });
    }
    if (init.method === 'DELETE')
      return answer(this.held.delete(id) ? 200 : 404, { error: { message: 'gone' } });
    const all = [...this.held.values()].reverse().map((s) => ({ swatch: s, photoAt: null }));
    return answer(200, { swatches: all });
  };
}

describe('the swatch book as a browser knows it', () => {
  const real = globalThis.fetch;
  let book: TestBook;
  let store: ReturnType<typeof makeStore>;
  beforeEach(() => {
    book = new TestBook();
    globalThis.fetch = book.fetch as typeof fetch;
    store = makeStore();
  });
  after(() => {
    globalThis.fetch = real;
  });
  const names = () => store.getState().swatches.all.map((k) => k.swatch.name);
  const unsent = () => Object.keys(store.getState().swatches.unsent);
  const [plain, cabled] = [swatch(1, 'Plain'), swatch(2, 'Cabled')];

  it('shows what was done at once, keeps it while the server is away, and sends it when it is back', async () => {
    book.held.set(plain.id, plain);
    book.away = true;
    await store.dispatch(doToSwatch('swatch', null, cabled));
    expect(names()).to.deep.equal(['Cabled']);
    expect(store.getState().swatches.state).to.equal('away');
    expect(unsent()).to.deep.equal([cabled.id]);
    book.away = false;
    await store.dispatch(meetSwatches());
    expect(names()).to.deep.equal(['Cabled', 'Plain']);
    expect(unsent()).to.deep.equal([]);
    expect(book.held.get(cabled.id)).to.deep.equal(cabled);
  });

  it('takes back and does again, on the server too', async () => {
    await store.dispatch(doToSwatch('swatch', null, plain));
    await store.dispatch(doToSwatch('grams', plain, { ...plain, grams: 20 }));
    await store.dispatch(undoSwatch());
    expect(book.held.get(plain.id)!.grams).to.be.null;
    await store.dispatch(redoSwatch());
    expect(book.held.get(plain.id)!.grams).to.equal(20);
    await store.dispatch(doToSwatch('taken out', { ...plain, grams: 20 }, null));
    expect([names(), book.held.size]).to.deep.equal([[], 0]);
    await store.dispatch(undoSwatch());
    expect(book.held.get(plain.id)!.grams).to.equal(20);
    expect(store.getState().swatches.message).to.equal('Undone: taken out');
  });

  it('says what the server refuses, and goes by what it holds; what is out already stays out', async () => {
    book.held.set(plain.id, plain);
    await store.dispatch(meetSwatches());
    book.refusing = true;
    await store.dispatch(doToSwatch('grams', plain, { ...plain, grams: 20 }));
    expect(store.getState().swatches.message).to.equal(
      'The server does not take this swatch: The book is full.',
    );
    expect(store.getState().swatches.all[0]!.swatch.grams).to.be.null;
    book.held.clear();
    await store.dispatch(doToSwatch('taken out', plain, null));
    expect([names(), unsent()]).to.deep.equal([[], []]);
    store.dispatch(swatches.told(null));
    expect(store.getState().swatches.message).to.be.null;
  });
});
