import { expect } from 'chai';
import { CUSTOMS } from './customs.js';

describe('cloth as it is known to lie (common practice, no source)', () => {
  for (const [name, { measured, from, to }] of Object.entries(CUSTOMS))
    it(name, () => expect(measured()).to.be.within(from, to));
});
