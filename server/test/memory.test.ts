import { crossing, type Worked } from '@cordelina/core';
import { expect } from 'chai';
import v8 from 'node:v8';
import vm from 'node:vm';

describe('crossings', () => {
  it('are given up when nothing holds them any more', async () => {
    v8.setFlagsFromString('--expose-gc');
    const collect = vm.runInNewContext('gc') as () => void;
    const seldom = () =>
      new WeakRef(crossing('left', Array<Worked>(12).fill('ptbl'), Array<Worked>(11).fill('ktbl')));
    const ref = seldom();
    for (let tries = 0; ref.deref() && tries < 50; tries++) {
      await new Promise((r) => setTimeout(r));
      collect();
    }
    expect(ref.deref()).to.equal(undefined);
    // And made anew they are one object again.
    expect(seldom().deref()).to.equal(seldom().deref());
  });
});
