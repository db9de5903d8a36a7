import { expect } from 'chai';
import fc from 'fast-check';
import { stitchBook, type Face } from '../src/index.js';
import { freshNeedle, workStitches } from '../src/needle/needle.js';
import {
  loopOf,
  MOST_YARNS,
  needleOf,
  sameFaces,
  slippedOn,
  type Bed,
  type Loop,
} from '../src/needle/loop.js';

const anyLoop: fc.Arbitrary<Loop> = fc
  .tuple(
    fc.constantFrom<Face>('knit', 'purl'),
    fc.boolean(),
    fc.nat(15),
    fc.constantFrom<Bed>(0, 1),
    fc.nat(MOST_YARNS - 1),
  )
  .map(([face, twisted, slipped, bed, yarn]) => loopOf(face, twisted, slipped, bed, yarn));

describe('a loop', () => {
  it('is what it was made as, and equal ones are one object', () => {
    fc.assert(
      fc.property(anyLoop, ({ face, twisted, slipped, bed, yarn }) => {
        const again = loopOf(face, twisted, slipped, bed, yarn);
        expect(again).to.deep.equal({ face, twisted, slipped, bed, yarn });
        expect(loopOf(face, twisted, slipped, bed, yarn)).to.equal(again);
      }),
    );
    expect(loopOf('knit')).to.deep.equal({ face: 'knit', twisted: false, slipped: 0, bed: 0, yarn: 0 });
  });

  it('keeps its face, bed and yarn when it is slipped, and is counted on; past fifteen rows it is long enough', () => {
    fc.assert(
      fc.property(anyLoop, (loop) => {
        expect(slippedOn(loop)).to.deep.equal({ ...loop, slipped: Math.min(15, loop.slipped + 1) });
        const [on] = workStitches(['slyb'], [loop], stitchBook()).loops;
        expect(on).to.equal(slippedOn(loop));
      }),
    );
  });
});

describe('a needle', () => {
  it('is the very same for equal loops, and another where one of them differs in anything', () => {
    fc.assert(
      fc.property(
        fc.array(anyLoop, { minLength: 1, maxLength: 6 }),
        fc.nat(5),
        anyLoop,
        (loops, at, other) => {
          const needle = needleOf(loops);
          expect(needleOf([...loops])).to.equal(needle);
          const i = at % loops.length;
          const changed = needleOf(loops.with(i, other));
          expect(changed === needle).to.equal(other === loops[i]);
          const shows = other.face === loops[i]!.face && other.yarn === loops[i]!.yarn;
          expect(sameFaces(changed, needle)).to.equal(shows);
        },
      ),
    );
    expect(sameFaces(freshNeedle(3), freshNeedle(4))).to.be.false;
  });
});
