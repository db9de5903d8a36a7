import 'fake-indexeddb/auto';
import { EMPTY_STUDIO, THE_STUDIO } from '@cordelina/core';
import { expect } from 'chai';
import { changeStudio, meetStudio, studioIn, withOne } from '../src/desk/state/studio.js';
import { makeStore } from '../src/desk/state/index.js';
import { makePage, pull, sendAll } from '../src/sync/post.js';
import { keepNothing, nobody, TestServer } from './server.js';

describe('the studio', () => {
  let server: TestServer;
  let tabs = 0;
  const opened = async () => {
    const store = makeStore(makePage(() => Promise.resolve(`studio ${++tabs}`)));
    await store.dispatch(meetStudio());
    return store;
  };
  type Store = Awaited<ReturnType<typeof opened>>;
  const answer = (store: Store, word: string, id: string) =>
    store.dispatch(
      changeStudio(`what ${word} means`, (studio) => ({
        ...studio,
        answers: withOne(studio.answers, word, id),
      })),
    );
  const answers = (store: Store) => studioIn(store.getState()).answers;
  beforeEach(async () => {
    await keepNothing();
    server = new TestServer();
    server.add(EMPTY_STUDIO, 'studio');
    globalThis.fetch = server.fetch as typeof fetch;
  });
  after(() => (globalThis.fetch = nobody));

  it('is sent what it has not had, once, and after the server was away', async () => {
    const store = await opened();
    server.away = true;
    await answer(store, 'c5f', 'a');
    expect(answers(store)).to.deep.equal({ c5f: 'a' });
    expect(server.studio().answers).to.deep.equal({});
    server.away = false;
    await store.dispatch(sendAll());
    expect(server.studio().answers).to.deep.equal({ c5f: 'a' });
    expect(server.sent).to.equal(1);
    await store.dispatch(sendAll());
    expect(server.sent).to.equal(1);
  });

  it('keeps what two browsers answered at once; of one question the later answer stands', async () => {
    const [one, two] = [await opened(), await opened()];
    await answer(one, 't4', 'mine');
    await answer(one, 'c5f', 'a');
    await answer(two, 'c5f', 'b');
    expect(server.studio().answers).to.deep.equal({ t4: 'mine', c5f: 'b' });
    await one.dispatch(pull(THE_STUDIO));
    for (const store of [one, two]) expect(answers(store)).to.deep.equal({ t4: 'mine', c5f: 'b' });
    expect(two.getState().outbox[THE_STUDIO]!.choices).to.deep.equal([]);
  });

  it('says what it has no room for, and what it was never told', async () => {
    const store = await opened();
    await store.dispatch(
      changeStudio('too much', (studio) => ({
        ...studio,
        answers: Object.fromEntries(Array.from({ length: 2001 }, (_, i) => [`w${i}`, 'x'])),
      })),
    );
    expect(store.getState().workroom.message).to.contain('at most 2000 answers');
    expect(answers(store)).to.deep.equal({});
    await keepNothing();
    server.away = true;
    const cold = makeStore(makePage(() => Promise.resolve('cold')));
    await answer(cold, 'c5f', 'a');
    expect(cold.getState().workroom.message).to.contain('The server is away');
  });
});
