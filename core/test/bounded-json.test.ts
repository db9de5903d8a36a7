import { expect } from 'chai';
import fc from 'fast-check';
import { boundedJson, JsonFault } from '../src/index.js';
import { MOST_DEEP, MOST_ELEMENTS } from '../src/api/bounded-json.js';

const bytes = (text: string) => new TextEncoder().encode(text);
const fault = (text: string | Uint8Array): JsonFault | null => {
  try {
    boundedJson(typeof text === 'string' ? bytes(text) : text);
    return null;
  } catch (error) {
    if (error instanceof JsonFault) return error;
    throw error;
  }
};

describe('JSON from outside', () => {
  it('is what JSON.parse makes of it', () => {
    fc.assert(
      fc.property(fc.json({ maxDepth: 8 }), (text) => {
        expect(boundedJson(bytes(text))).to.deep.equal(JSON.parse(text));
      }),
    );
  });

  it('is refused for its depth and its number of elements before anything is built, and not for what its texts hold', () => {
    const deep = (n: number) => '['.repeat(n) + ']'.repeat(n);
    expect(fault(deep(MOST_DEEP))).to.equal(null);
    expect(fault(deep(MOST_DEEP + 1))).to.include({ isTooMuch: true });
    expect(fault(`["${'[{,\\"'.repeat(1000)}"]`)).to.equal(null);
    expect(fault(`[${'{},'.repeat(MOST_ELEMENTS / 2)}{}]`)?.message).to.match(/more than 8000000 elements/);
    for (const odd of ['', '[', '{"a":', '"a', '"\\', 'nul'])
      expect(fault(odd)).to.include({ isTooMuch: false });
    expect(fault(Uint8Array.from([0x22, 0xff, 0x22]))).to.include({ isTooMuch: false });
  });
});
