import { StudioSchema } from '@cordelina/core';
import { expect } from 'chai';
import { changeStudio, meetStudio } from '../src/store/studio.js';
import { makeStore } from '../src/store/index.js';

describe('the studio', () => {
  const fetched = globalThis.fetch;
  after(() => (globalThis.fetch = fetched));

  it('is sent what it has not had, once, and after the server was away', async () => {
    const sent: unknown[] = [];
    let isAway = true;
    let studio = StudioSchema.parse({});
    globalThis.fetch = (_url, init) => {
      if (isAway) return Promise.reject(new TypeError('away'));
      if (init?.method === 'PATCH') {
        const patch = JSON.parse(init.body as string) as { answers: Record<string, string> };
        sent.push(patch);
        studio = { ...studio, answers: { ...studio.answers, ...patch.answers } };
      }
      return Promise.resolve(Response.json(studio));
    };
    const { dispatch, getState } = makeStore();
    await dispatch(changeStudio({ answers: { c5f: 'a' } }));
    expect(getState().studio.studio.answers).to.deep.equal({ c5f: 'a' });
    isAway = false;
    await dispatch(meetStudio());
    expect(sent).to.deep.equal([{ answers: { c5f: 'a' } }]);
    // What another browser has answered since stands: nothing old is sent over it.
    studio = { ...studio, answers: { c5f: 'b' } };
    await dispatch(meetStudio());
    expect(sent).to.have.length(1);
    expect(getState().studio.studio.answers).to.deep.equal({ c5f: 'b' });
  });
});
