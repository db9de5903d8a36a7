import { expect } from 'chai';
import fc from 'fast-check';
import {
  behindCrossing,
  looseText,
  reorderOf,
  crossing,
  crossingFaces,
  crossingId,
  crossingOrder,
  crossingProblem,
  crossingSize,
  flipCrossing,
  mirrorCrossing,
  simpleCrossing,
  turnCrossing,
  WORKED,
  type Crossing,
  type Hand,
  type Side,
  type Worked,
} from '../src/index.js';
import { cableMoves } from '../src/words/moves.js';
import { movesText } from '../src/words/render.js';
import { workedAfter } from '../src/stitches/crossing.js';
import { type Lean } from '../src/stitches/face.js';
import { anyCrossing } from './arbitrary.js';

const groupsFor = (size: number): Worked[][] => [
  ...WORKED.map((w) => Array<Worked>(size).fill(w)),
  ...(size > 1 ? [Array.from({ length: size }, (_, i): Worked => (i % 2 ? 'p' : 'k'))] : []),
];

/** Every crossing up to 4/4, all faces (plain, tbl, ribbed), both leans, with no centre and with one. */
function* everyCrossing(): Generator<Crossing> {
  for (const lean of ['left', 'right'] as Lean[])
    for (let f = 1; f <= 4; f++)
      for (let b = 1; b <= 4; b++)
        for (const front of groupsFor(f))
          for (const back of groupsFor(b))
            for (const centre of [[], ['p'], ['k', 'p']] as Worked[][])
              yield crossing(lean, front, back, centre);
}

/** A loop with the place it had (from the RS right), and how it was worked as the hands saw it. */
interface Loop {
  place: number;
  worked?: string;
}

/**
 * An independent interpreter of cable-needle steps. It reads the words, knows nothing of crossings, and moves
 * loops between a left needle, two cable needles and a right needle. It returns the loops in the order worked
 * and, for each pair that changed places, which passed in front as the knitter sees it.
 */
function followSteps(
  text: string,
  left: Loop[],
): { right: Loop[]; infront: (a: number, b: number) => boolean } {
  const right: Loop[] = [];
  const cable: Record<string, { loops: Loop[]; hold: string }> = {};
  const holds = new Map<number, string>();
  const steps = text.match(
    /sl \d+ to (?:second )?cable needle, hold in (?:front|back)|(?:\[[^\]]+\](?: twice| \d+ times)?|[kp]\d+(?: tbl)?)(?: from (?:second )?cable needle)?/g,
  )!;
  for (const step of steps) {
    const slip = /^sl (\d+) to ((?:second )?cable needle), hold in (front|back)/.exec(step);
    if (slip) {
      const loops = left.splice(0, Number(slip[1]));
      cable[slip[2]!] = { loops, hold: slip[3]! };
      for (const l of loops) holds.set(l.place, slip[3]!);
      continue;
    }
    const from = /from ((?:second )?cable needle)$/.exec(step)?.[1];
    const often = /\] (?:(twice)|(\d+) times)/.exec(step);
    const runs = [...step.matchAll(/([kp])(\d+)( tbl)?/g)];
    const times = often?.[1] ? 2 : Number(often?.[2] ?? 1);
    for (const [, how, n, tbl] of Array.from({ length: times }, () => runs).flat())
      for (let i = 0; i < Number(n); i++) {
        const loop = (from ? cable[from]!.loops : left).shift();
        if (!loop) throw new Error(`"${step}" has no loop to work`);
        right.push({ ...loop, worked: how! + (tbl ? 'tbl' : '') });
      }
  }
  if (left.length || Object.values(cable).some((c) => c.loops.length)) throw new Error('loops are left over');
  return {
    right,
    infront: (a, b) =>
      (holds.get(a) === 'front' && holds.get(b) !== 'front') ||
      (holds.get(b) === 'back' && holds.get(a) !== 'back'),
  };
}

const swap: Record<string, string> = { k: 'p', p: 'k', ktbl: 'ptbl', ptbl: 'ktbl' };

/** Holds the steps against the crossing's definition, as seen from the RS, for one side and hand. */
function expectSteps(c: Crossing, side: Side, hand: Hand): void {
  const n = crossingSize(c);
  // A right-handed knitter meets an RS row from its right end; the WS and a left hand each turn that around.
  const fromRight = (side === 'RS') === (hand === 'right');
  const places = Array.from({ length: n }, (_, i) => (fromRight ? i : n - 1 - i));
  const label = `${crossingId(c)} ${side} ${hand}`;
  const { right, infront } = followSteps(
    movesText(cableMoves(c, side, hand)),
    places.map((place) => ({ place })),
  );
  const rs = fromRight ? right : [...right].reverse();
  expect(
    rs.map((l) => l.place),
    label,
  ).to.deep.equal(crossingOrder(c));
  const seen = rs.map((l) => (side === 'RS' ? l.worked! : swap[l.worked!]!));
  expect(seen, label).to.deep.equal(workedAfter(c));
  // The front group passes in front on the RS: as a WS knitter sees it, behind.
  const frontPlace = c.lean === 'left' ? 0 : n - 1;
  const backPlace = c.lean === 'left' ? n - 1 : 0;
  expect(side === 'RS' ? infront(frontPlace, backPlace) : infront(backPlace, frontPlace), `${label} front`).to
    .be.true;
}

describe('crossings', () => {
  it('put the loops in the order of the needle (right to left: F C B → B C F, B C F → F C B)', () => {
    const left = crossing('left', ['k', 'k'], ['p'], ['k']);
    const right = crossing('right', ['k', 'k'], ['p'], ['k']);
    expect(crossingOrder(left)).to.deep.equal([3, 2, 0, 1]);
    expect(crossingOrder(right)).to.deep.equal([2, 3, 1, 0]);
    expect(crossingFaces(left)).to.deep.equal(['purl', 'knit', 'knit', 'knit']);
  });

  it('are equal when their groups and lean are', () => {
    expect(simpleCrossing('left', 2, 2)).to.equal(crossing('left', ['k', 'k'], ['k', 'k']));
    expect(crossingId(simpleCrossing('left', 2, 2))).not.to.equal(crossingId(simpleCrossing('right', 2, 2)));
  });

  for (const [f, c, b, why] of [
    [0, 0, 2, 'at least one'],
    [2, 0, 0, 'at least one'],
    [13, 0, 2, '12 is the most'],
    [2, 13, 2, '12 is the most'],
    [1.5, 0, 1, 'cannot be worked'],
  ] as const)
    it(`refuse groups of ${f}/${c}/${b}: ${why}`, () => {
      expect(crossingProblem(f, c, b)).to.contain(why);
    });

  it('come back when mirrored, turned or seen from behind twice', () => {
    fc.assert(
      fc.property(anyCrossing(), (c) => {
        for (const turn of [mirrorCrossing, turnCrossing, behindCrossing, flipCrossing])
          expect(turn(turn(c))).to.equal(c);
      }),
    );
  });

  it('move the same ropes the same way when over and under are swapped', () => {
    const c = simpleCrossing('left', 2, 1);
    const order = crossingOrder(flipCrossing(c));
    expect(order).to.deep.equal(crossingOrder(c));
  });
});

describe('the steps of a crossing', () => {
  // The steps are executed by the interpreter above, which was written from common practice (no source):
  // slip, hold in front or back, work the rest, work from the cable needle.
  for (const side of ['RS', 'WS'] as const)
    for (const hand of ['right', 'left-same-fabric'] as const)
      it(`give its definition for every crossing up to 4/4, on the ${side}, ${hand} hand`, () => {
        let n = 0;
        for (const c of everyCrossing()) {
          expectSteps(c, side, hand);
          n++;
        }
        expect(n).to.be.greaterThan(1500);
      });

  it('give its definition for crossings of any faces, stitch by stitch', () => {
    fc.assert(
      fc.property(
        anyCrossing(6),
        fc.constantFrom<Side>('RS', 'WS'),
        fc.constantFrom<Hand>('right', 'left-same-fabric'),
        expectSteps,
      ),
      { numRuns: 700 },
    );
  });

  it('are the same words for a left-handed knitter who follows right-handed ones', () => {
    for (const c of everyCrossing())
      expect(movesText(cableMoves(c, 'RS', 'left-same-words'))).to.equal(
        movesText(cableMoves(c, 'RS', 'right')),
      );
  });

  // Worked examples, common practice, no source: right–back, left–front.
  it('read as the trade writes them', () => {
    expect(movesText(cableMoves(simpleCrossing('left', 2, 2), 'RS'))).to.equal(
      'sl 2 to cable needle, hold in front, k2, k2 from cable needle',
    );
    expect(movesText(cableMoves(simpleCrossing('right', 2, 1, 'p'), 'RS'))).to.equal(
      'sl 1 to cable needle, hold in back, k2, p1 from cable needle',
    );
    expect(movesText(cableMoves(simpleCrossing('left', 2, 1, 'p'), 'WS'))).to.equal(
      'sl 1 to cable needle, hold in front, p2, k1 from cable needle',
    );
    expect(movesText(cableMoves(crossing('left', ['k', 'k'], ['k', 'k'], ['p']), 'RS'))).to.equal(
      'sl 2 to cable needle, hold in front, sl 1 to second cable needle, hold in back, k2, p1 from second cable needle, k2 from cable needle',
    );
    expect(movesText(cableMoves(simpleCrossing('left', 2, 1), 'RS', 'left-same-fabric'))).to.equal(
      'sl 1 to cable needle, hold in back, k2, k1 from cable needle',
    );
  });

  it('are given without a cable needle up to three stitches a group (custom)', () => {
    const loose = (c: Crossing, hand: Hand = 'right') => {
      const found = reorderOf(c, 'RS', hand);
      return found && looseText(found);
    };
    expect(loose(simpleCrossing('left', 2, 2))).to.equal(
      'with the right needle enter stitches 3–4 purlwise from behind, slide all 4 off, pinch the 2 loose in front and catch them with the left needle, put the others back beside them, k2, k2',
    );
    expect(loose(simpleCrossing('right', 1, 1))).to.match(/enter stitch 2 purlwise from the front/);
    expect(loose(simpleCrossing('left', 2, 2), 'left-same-fabric')).to.match(
      /^with the left needle enter stitches 3–4 purlwise from the front.* catch them with the right needle/,
    );
    expect(loose(simpleCrossing('left', 4, 2))).to.equal(null);
    expect(loose(crossing('left', ['k'], ['k'], ['k']))).to.equal(null);
  });
});
