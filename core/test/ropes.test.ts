import { expect } from 'chai';
import fc from 'fast-check';
import { deepEqual, identity, lcm, matrix, multiply, type Matrix } from 'mathjs';
import {
  bookOf,
  ChartSchema,
  crossingOrder,
  interlacesOf,
  isCrossing,
  plaitsOf,
  plaitText,
  ropedOf,
  ropesOf,
  simpleCrossing,
  startOf,
  turnOver,
  unfold,
  type Chart,
  type Stitch,
} from '../src/index.js';
import { alternate, type Link } from '../src/ropes/alternate.js';
import { isMeeting, traceRopes } from '../src/ropes/trace.js';
import { permutationOf } from '../src/ropes/plait.js';
import { rhythmOf } from '../src/ropes/rhythm.js';
import { stitchesBefore } from '../src/stitches/crossing.js';
import { anyChart, THOROUGH } from './arbitrary.js';
import { k, L, p, R } from './panels.js';

/** A plait of so many ropes of two, between purls: neighbours cross in turn, the one row to the left, the next to the right. */
function plait(ropes: number, over: Record<string, unknown> = {}): Chart {
  const width = 2 * ropes;
  const row = (from: number, c: Stitch): Stitch[] => {
    const pairs = Math.floor((ropes - from) / 2);
    return [...k(2 * from), ...Array<Stitch>(pairs).fill(c), ...k(width - 2 * from - 4 * pairs)];
  };
  const plain = k(width);
  const rows = [plain, plain, row(0, L), plain, plain, plain, row(1, R), plain];
  return ChartSchema.parse({
    width: width + 4,
    rows: rows.map((r) => [...p(2), ...r, ...p(2)]),
    up: { setup: 0, closing: 0, times: 3 },
    ...over,
  });
}

/** A rope of two and two between purls, crossed in the third of every four rows as the letters say. */
const rope = (leans: string, over: Record<string, unknown> = {}): Chart =>
  ChartSchema.parse({
    width: 8,
    rows: [...leans].flatMap((lean) =>
      [k(4), k(4), [lean === 'L' ? L : R], k(4)].map((r) => [...p(2), ...r, ...p(2)]),
    ),
    ...over,
  });

describe('the solver of over and under', () => {
  const interlace = fc.integer({ min: 1, max: 9 }).chain((n) =>
    fc.tuple(
      fc.constant(n),
      fc.array(
        fc.record({
          a: fc.integer({ min: 0, max: n - 1 }),
          b: fc.integer({ min: 0, max: n - 1 }),
          alternates: fc.boolean(),
        }),
        { maxLength: 14 },
      ),
      fc.array(fc.boolean(), { minLength: n, maxLength: n }),
    ),
  );

  const holds = (turned: number, links: readonly Link[]) =>
    links.every(({ a, b, alternates }) => (((turned >> a) ^ (turned >> b)) & 1) === (alternates ? 0 : 1));

  it('finds the fewest turns, as trying every set does', () => {
    fc.assert(
      fc.property(interlace, ([n, links, meant]) => {
        const { interlaces, interlaceOf } = alternate(n, links, (c) => meant[c]!);
        interlaces.forEach((one, which) => {
          const own = links.filter(({ a }) => interlaceOf[a] === which);
          const members = Array.from({ length: n }, (_, c) => c).filter((c) => interlaceOf[c] === which);
          expect(one).to.include({ crossings: members.length, links: own.length });
          const counted = (set: number) => members.filter((c) => (set >> c) & 1).length;
          const solutions = Array.from({ length: 1 << n }, (_, set) => set).filter(
            (set) => holds(set, own) && members.every((c) => !((set >> c) & 1) || interlaceOf[c] === which),
          );
          if (!solutions.length) expect(one.conflict).to.not.equal(null);
          else {
            expect(one.conflict).to.equal(null);
            const all = [...one.turns, ...one.meant];
            expect(all.length).to.equal(Math.min(...solutions.map(counted)));
            expect(all.map((c) => meant[c])).to.deep.equal(all.map((c) => one.meant.includes(c)));
            const turned = all.reduce((set, c) => set | (1 << c), 0);
            expect(solutions).to.include(turned);
          }
        });
      }),
      { numRuns: 150 * THOROUGH },
    );
  });

  it('makes any plait alternate, whichever of its crossings were turned', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 6 }), fc.array(fc.nat(), { maxLength: 4 }), (n, picks) => {
        const sound = plait(n, { up: null });
        const { placeOf, meetings } = interlacesOf(ropedOf(sound));
        const places = meetings.map((_, i) => placeOf(i));
        const picked = [...new Set(picks.map((i) => i % places.length))].map((i) => places[i]!);
        const spoilt = turnOver(sound, picked).chart;
        for (const { turns, cannot } of plaitsOf(
          turnOver(
            spoilt,
            plaitsOf(spoilt).flatMap((x) => x.turns),
          ).chart,
        ))
          expect({ turns, cannot }).to.deep.equal({ turns: [], cannot: false });
      }),
      { numRuns: 40 },
    );
  });
});

describe('tracing', () => {
  /** A loop by itself: the crossings that carried it in front, written down as it is worked. */
  interface Loop {
    fronts: string[];
  }

  // Loop by loop, with a list of its own: what the tracing says of crossings must be what the loops went through.
  it('agrees with working the chart loop by loop', () => {
    fc.assert(
      fc.property(anyChart(), (chart) => {
        const { chart: drawn } = unfold(chart, 1, 1);
        const book = bookOf(drawn);
        const traced = traceRopes(drawn);
        const takes = drawn.rows[0]!.reduce((sum, s) => sum + book.facts(s).takes, 0);
        let loops: Loop[] = Array.from({ length: takes }, () => ({ fronts: [] }));
        for (const [r, row] of drawn.rows.entries()) {
          const start = startOf(drawn, r);
          const met = [
            ...loops.slice(start < 0 ? loops.length + start : start),
            ...loops.slice(0, start < 0 ? loops.length + start : start),
          ];
          const after: Loop[] = [];
          let [at, column] = [0, 0];
          for (const stitch of row) {
            const { takes: t, makes, span, continues } = book.facts(stitch);
            const own = met.slice(at, at + t);
            if (own.length < t) return;
            if (isCrossing(stitch)) {
              const before = stitchesBefore(stitch);
              const carried = own.map((loop, i) =>
                before[i]!.group === 'front' && before[i]!.worked.startsWith('k')
                  ? { fronts: [...loop.fronts, `${r}.${column}`] }
                  : loop,
              );
              after.push(...crossingOrder(stitch).map((from) => carried[from]!));
            } else for (let i = 0; i < makes; i++) after.push(own[continues[i]!] ?? { fronts: [] });
            at += t;
            column += span;
          }
          if (at !== met.length) return;
          const back = start > 0 ? after.length - start : -start;
          loops = start ? [...after.slice(back), ...after.slice(0, back)] : after;
          const said = traced[r]!.after;
          expect(said).to.have.length(loops.length);
          said.forEach(({ last }, i) => {
            const front = loops[i]!.fronts.at(-1);
            if (last?.group === 'front') expect(front).to.equal(`${last.row}.${last.column}`);
            if (front?.startsWith(`${r}.`)) expect(last).to.include({ row: r, group: 'front' });
          });
        }
      }),
      { numRuns: 150 * THOROUGH },
    );
  });

  it('goes into a row again only when what enters it is another', () => {
    const chart = rope('LLLL');
    const before = traceRopes(chart);
    expect(traceRopes({ ...chart, rows: chart.rows.with(5, [...chart.rows[5]!]) })).to.equal(before);
    const turned = traceRopes(turnOver(chart, [{ row: 6, column: 2 }]).chart);
    // Below it nothing is another; above, no more than the crossings that its ropes come to next.
    expect(turned.map((row, r) => (row === before[r] ? '.' : '!')).join('')).to.equal('......!!!!!.....');
  });

  it('takes knit ground for a rope only when it has lain in front', () => {
    const onKnit = (rows: Stitch[][]) =>
      traceRopes(ChartSchema.parse({ width: 10, rows })).flatMap((row) => row.meetings.map(isMeeting));
    expect(onKnit([k(10), [...k(3), L, ...k(3)]])).to.deep.equal([false]);
    expect(onKnit([k(10), [...k(3), L, ...k(3)], k(10), [...k(3), L, ...k(3)]])).to.deep.equal([false, true]);
    const onPurl = ChartSchema.parse({
      width: 10,
      rows: [
        [...p(3), ...k(4), ...p(3)],
        [...p(3), L, ...p(3)],
      ],
    });
    expect(traceRopes(onPurl)[1]!.meetings.map(isMeeting)).to.deep.equal([true]);
  });
});

describe('the order of a plait', () => {
  /** A permutation as a matrix of mathjs: its power says when it is the identity. */
  const orderByMatrix = (permutation: readonly number[]): number => {
    const once: Matrix = matrix(permutation.map((from) => permutation.map((_, c) => (c === from ? 1 : 0))));
    const still = identity(permutation.length);
    let power = once;
    for (let n = 1; n < 1000; n++) {
      if (deepEqual(power, still)) return n;
      power = multiply(power, once);
    }
    return Infinity;
  };

  // The permutation matrices and their powers are of mathjs, a general mathematics library.
  for (const n of [2, 3, 4, 5, 6, 7])
    it(`of ${n} ropes is what its permutation says`, () => {
      const chart = plait(n);
      const permutation = permutationOf(chart, 0, 7)!;
      const [one] = plaitsOf(chart);
      expect(one!.home).to.deep.include({ passes: orderByMatrix(permutation), drift: 0 });
      // Standard group theory: neighbours that change places in turn make one cycle of all.
      expect(one!.home!.passes).to.equal(n === 2 ? 2 : n);
    });

  it('of random crossings is what their permutation says', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.boolean()), { minLength: 1, maxLength: 6 }),
        (set) => {
          const rows = set.flatMap(([at, left]) => [
            k(12),
            k(12),
            [...k(2 * at), left ? L : R, ...k(8 - 2 * at)],
            k(12),
          ]);
          const chart = ChartSchema.parse({
            width: 16,
            rows: rows.map((r) => [...p(2), ...r, ...p(2)]),
            up: { setup: 0, closing: 0, times: 3 },
          });
          const order = orderByMatrix(permutationOf(chart, 0, rows.length - 1)!);
          const homes = plaitsOf(chart).map(({ home }) => home!.passes);
          expect(homes.reduce((a, b) => lcm(a, b), 1)).to.equal(order);
        },
      ),
      { numRuns: 60 * THOROUGH },
    );
  });

  // Textbook facts of braids: two crossings bring a twist of two home; plaits of three and of four alternate.
  it('brings a twist of two home after two crossings', () => {
    const [one] = plaitsOf(rope('LL', { up: { setup: 0, closing: 0, times: 3 } }));
    expect(one).to.deep.include({ ropes: 2, alternates: true, home: { passes: 1, rows: 8, drift: 0 } });
  });
  for (const n of [3, 4])
    it(`says that a plait of ${n} alternates`, () => {
      expect(plaitsOf(plait(n))[0]).to.deep.include({ ropes: n, alternates: true, turns: [] });
    });

  it('tells how far the strands of an all-over weave move on', () => {
    const [c33, r33] = [simpleCrossing('left', 3, 3), simpleCrossing('right', 3, 3)];
    const lattice = ChartSchema.parse({
      width: 12,
      rows: [k(12), k(12), [c33, c33], k(12), k(12), k(12), [...k(3), r33, ...k(3)], k(12)],
      across: { before: 0, after: 6, times: 3 },
      jogs: { 6: 3 },
      up: { setup: 0, closing: 0, times: 2 },
    });
    const [one] = plaitsOf(lattice);
    expect(Math.abs(one!.home!.drift)).to.equal(1);
    expect(plaitText(lattice, one!)).to.equal(
      'Two ropes to the repeat; they move on by one repeat across in each repeat, 8 rows; over and under throughout.',
    );
  });

  it('says in words what it found', () => {
    const chart = plait(3);
    expect(plaitText(chart, plaitsOf(chart)[0]!)).to.equal(
      'Three ropes in columns 3–8; home after 3 repeats, 24 rows; over and under throughout.',
    );
    const wrong = rope('LLRLL');
    expect(plaitText(wrong, plaitsOf(wrong)[0]!)).to.contain('turning one crossing over makes them');
    const wave = rope('LRLR');
    expect(plaitText(wave, plaitsOf(wave)[0]!)).to.contain('the same one stays on top throughout');
    const changing = rope('LLRR');
    expect(plaitText(changing, plaitsOf(changing)[0]!)).to.contain('not over and under in turn');
  });
});

describe('ropes as a whole', () => {
  it('are strands that always move together, with what they meet', () => {
    const { ropes, cells } = ropesOf(plait(3));
    expect(ropes.map(({ strands }) => strands.length)).to.deep.equal([2, 2, 2]);
    expect([...cells[0]!]).to.deep.equal([-1, -1, 0, 0, 1, 1, 2, 2, -1, -1]);
    expect(ropes[0]!.events.map(({ group, with: met }) => `${group} ${met.join()}`)).to.deep.equal([
      'front 1',
      'back 2',
    ]);
  });

  it('begin and end where their stitches do', () => {
    const grown = ChartSchema.parse({
      width: 8,
      rows: [
        [...p(2), ...Array<Stitch>(4).fill('none'), ...p(2)],
        [...p(2), 'm1l', 'm1r', 'm1l', 'm1r', ...p(2)],
        [...p(2), L, ...p(2)],
        [...p(2), ...k(4), ...p(2)],
      ],
    });
    const { ropes } = ropesOf(grown);
    expect(ropes.map(({ begins, ends }) => [begins.row, ends])).to.deep.equal([
      [1, 3],
      [1, 3],
    ]);
  });
});

describe('rhythm', () => {
  it('tells the usual distance, what is astray, and rests from slips', () => {
    expect(rhythmOf([2, 6, 10, 14])).to.deep.include({ usual: 4, astray: [] });
    expect(rhythmOf([2, 6, 12, 14, 18])).to.deep.include({
      usual: 4,
      astray: [{ row: 12, gap: 6, late: 2 }],
    });
    expect(rhythmOf([2, 6, 10, 16, 20])).to.deep.include({
      usual: 4,
      astray: [{ row: 16, gap: 6, late: null }],
    });
    expect(rhythmOf([2, 6, 10, 22, 26])).to.deep.include({ usual: 4, astray: [] });
    expect(rhythmOf([2, 8])).to.deep.include({ usual: 0 });
  });
});
