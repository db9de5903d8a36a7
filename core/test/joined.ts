import { expect } from 'chai';
import { sameValue, StepMisfit, type Design, type Step } from '../src/index.js';
import { applySteps } from '../src/chart/steps.js';
import { booksOf, Clash, mapSteps } from '../src/chart/map.js';

/** Both orders of joining: null where they clash. */
export function joined(from: Design, a: readonly Step[], b: readonly Step[]): Design | null {
  const one = (first: readonly Step[], second: readonly Step[]): Design | null => {
    try {
      const { mine, other } = mapSteps(second, first, booksOf(from, a, b));
      const here = applySteps(applySteps(from, first), mine);
      const there = applySteps(applySteps(from, second), other);
      if (!sameValue(there, here)) expect.fail(`${JSON.stringify(first)} beside ${JSON.stringify(second)}`);
      return here;
    } catch (error) {
      if (error instanceof Clash || error instanceof StepMisfit) return null;
      throw error;
    }
  };
  const [ab, ba] = [one(a, b), one(b, a)];
  expect(ab === null, 'a clash is a clash in either order').to.equal(ba === null);
  if (ab) expect(ab).to.deep.equal(ba);
  return ab;
}
