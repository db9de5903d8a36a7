import { expect } from 'chai';
import fc from 'fast-check';
import {
  back,
  backTo,
  checkChart,
  crossingTold,
  drawnIn,
  forward,
  isCrossing,
  isDone,
  jobOf,
  needleBefore,
  onNeedles,
  practiceChart,
  placeWithin,
  rowBack,
  rowForward,
  rowInHands,
  SCHOOLS,
  SettingsSchema,
  simpleCrossing,
  startDesign,
  takenBack,
  wayOf,
  writeAndProve,
  type At,
  type Chart,
  type Hand,
  type Job,
  type School,
} from '../src/index.js';
import { changing, repeating } from './any-rows.js';
import { anyCrossing, anySingleWay, anyStyle, sampleOf, THOROUGH } from './arbitrary.js';
import { readPrinted, Row, bare, type Loop } from './simulator.js';

const HANDS = ['right', 'left-same-fabric', 'left-same-words'] as const;
const ID = '00000000-0000-4000-8000-0000000000ab';
const anyHand = fc.constantFrom<Hand>(...HANDS);
const anyRows = fc.oneof(changing, repeating);

const chartJob = (chart: Chart, by: object): Job =>
  jobOf(startDesign(ID, 'Hands', chart), { chart: chart.id }, SettingsSchema.parse(by));

const isSound = (chart: Chart) => !checkChart(chart).some(({ level }) => level === 'error');

describe('taking work back', () => {
  it('undoes the reverse of what the literal knitter did, loop by loop, whatever the stitch, side and hand', () => {
    fc.assert(
      fc.property(
        anyRows,
        fc.constantFrom<School>(...SCHOOLS),
        anyHand,
        anyStyle(),
        (chart, school, hand, style) => {
          // Pairs are gone through by the same rule, and written in words the knitter of loops does not know.
          fc.pre(isSound(chart) && wayOf(chart).loops === 1);
          const by = { school, hand, style: { ...style, length: 'counted' as const } };
          // The rows in hand are told stitch by stitch: the key is that of rows written out.
          const written = { ...by, style: { ...by.style, wsRows: 'written' as const } };
          const { text, checked } = writeAndProve(chart, SettingsSchema.parse(written));
          fc.pre(checked);
          const job = chartJob(chart, by);
          const pattern = readPrinted(text, job.rows[0]!.side);
          for (let n = 0; n < Math.min(job.rows.length, 12); n++) {
            const { side, groups, takes } = rowInHands(job, n);
            if (job.rows[n]!.band !== null) continue;
            // Each row by itself over loops that know their place in working order.
            const below: Loop[] = Array.from({ length: takes }, () => ({ ...bare(), through: [bare()] }));
            const placeOf = new Map(below.map((loop, i) => [loop, i]));
            const knitter = new Row([...below], side, pattern);
            const words = groups
              .filter((g) => g.stitches.length)
              .map((g) => g.text)
              .join(', ');
            if (!words) continue;
            knitter.words(words);
            const trace = knitter.done.map((loop) => loop.through.map((l) => placeOf.get(l)!));
            const undone = [...groups]
              .reverse()
              .flatMap((group) =>
                takenBack(job, side, group).flatMap((step) => (step.kind === 'off' ? step.loops : [])),
              );
            expect(undone.map(({ made }) => made)).to.deep.equal(trace.map((_, i) => trace.length - 1 - i));
            expect(undone.map(({ through }) => [...through])).to.deep.equal([...trace].reverse());
          }
        },
      ),
      { numRuns: 36 * THOROUGH, maxSkipsPerRun: 40 },
    );
  }).timeout(120_000 * THOROUGH);

  it('gives back the group of a crossing that was worked second first, and untwists it: the needle is as before', () => {
    fc.assert(
      fc.property(anyCrossing(5), anySingleWay(), anyHand, (crossing, construction, hand) => {
        const job = chartJob(practiceChart(crossing, construction), { hand });
        job.rows.forEach((_, n) => {
          const { side, groups } = rowInHands(job, n);
          const group = groups.find((g) => g.stitches.some(isCrossing));
          if (!group) return;
          const made = drawnIn(job, side, group);
          const steps = takenBack(job, side, group);
          const offs = steps.flatMap((step) => (step.kind === 'off' ? [step] : []));
          // The group that came off the cable needle last was worked last, and comes off first.
          expect(offs[0]!.to).to.equal(made.at(-1)!.from);
          expect(offs.at(-1)!.to).to.equal(made[0]!.from);
          // Loops put back one by one in front of those that wait stand as they did.
          const waiting: number[] = [];
          const cables: Record<1 | 2, number[]> = { 1: [], 2: [] };
          for (const step of steps)
            if (step.kind === 'return') {
              expect([...step.through].reverse()).to.deep.equal(cables[step.needle]);
              waiting.unshift(...cables[step.needle]);
              cables[step.needle] = [];
            } else
              for (const { through } of step.loops)
                (step.to === 'waiting' ? waiting : cables[step.to]).unshift(...through);
          expect(cables).to.deep.equal({ 1: [], 2: [] });
          expect(waiting).to.deep.equal(made.map((_, i) => group.taken + i));
        });
      }),
      { numRuns: 150 * THOROUGH },
    );
  });

  it('lists groups back to a place, over rows and turns, and ends there', () => {
    const job = chartJob(
      fc.sample(repeating.filter(isSound), { numRuns: 1, seed: sampleOf(1000, 'back') })[0]!,
      {},
    );
    const from: At = { row: Math.min(3, job.rows.length), group: 0 };
    const list = backTo(job, from, { row: 0, group: 0 });
    expect(list.at(-1)?.at).to.deep.equal({ row: 0, group: 0 });
    const groups = Array.from({ length: from.row }, (_, n) => rowInHands(job, n).groups).flat();
    expect(list.map(({ group }) => group)).to.deep.equal([...groups].reverse());
    expect(backTo(job, from, from)).to.deep.equal([]);
  });
});

describe('going through a job', () => {
  it('forward and back ends where it began, over ten thousand goes, and counts agree with the needle', () => {
    const charts = fc.sample(anyRows.filter(isSound), { numRuns: 10, seed: sampleOf(1000, 'goes') });
    for (const chart of charts) {
      const job = chartJob(chart, {});
      let at: At = { row: 0, group: 0 };
      const trail: At[] = [];
      let seed = sampleOf(1000, 'walk');
      for (let go = 0; go < 1000; go++) {
        seed = (seed * 16807) % 2147483647;
        if (seed % 3 && !isDone(job, at)) {
          trail.push(at);
          at = forward(job, at);
        } else if (trail.length) {
          at = back(job, at);
          expect(at).to.deep.equal(trail.pop());
        }
      }
      for (const before of trail.reverse()) {
        at = back(job, at);
        expect(at).to.deep.equal(before);
      }
      expect(at).to.deep.equal({ row: 0, group: 0 });
      for (let n = 0; n <= job.rows.length; n++) {
        const needle = needleBefore(job, n);
        const { worked, waiting } = onNeedles(job, { row: n, group: 0 });
        expect(n < job.rows.length ? waiting.length : worked.length).to.equal(needle.length);
      }
    }
  });

  it('goes by rows, and brings a place that is beyond the job back to it', () => {
    const job = chartJob(
      fc.sample(changing.filter(isSound), { numRuns: 1, seed: sampleOf(1000, 'rows') })[0]!,
      {},
    );
    const end = { row: job.rows.length, group: 0 };
    expect(rowForward(job, { row: 0, group: 1 })).to.deep.equal({ row: 1, group: 0 });
    expect(rowForward(job, end)).to.deep.equal(end);
    expect(rowBack(job, { row: 1, group: 2 })).to.deep.equal({ row: 1, group: 0 });
    expect(rowBack(job, { row: 1, group: 0 })).to.deep.equal({ row: 0, group: 0 });
    expect(placeWithin(job, { row: 9999, group: 3 })).to.deep.equal({ at: end, wasBeyond: true });
    expect(placeWithin(job, { row: 0, group: 9999 }).wasBeyond).to.be.true;
    expect(placeWithin(job, { row: 0, group: 0 })).to.deep.equal({
      at: { row: 0, group: 0 },
      wasBeyond: false,
    });
  });
});

describe('a crossing at the needles', () => {
  const told = (hand: Hand) => {
    const left = simpleCrossing('left', 2, 2);
    return crossingTold(chartJob(practiceChart(left, 'flat'), { hand }), left, 'RS');
  };

  // Right–back, left–front, and on the wrong side the other way about for what is seen there: common practice, no source.
  it('says which needle lies nearer, and how it is done without one', () => {
    expect(told('right').nearer).to.equal('The cable needle lies nearer to you than the working needles.');
    expect(told('left-same-fabric').nearer).to.equal('The cable needle lies behind the working needles.');
    expect(told('right').without).to.contain('from behind');
    expect(told('right').withNeedle).to.equal(
      'sl 2 to cable needle, hold in front, k2, k2 from cable needle',
    );
  });

  it('moves loops in its picture and loses none', () => {
    fc.assert(
      fc.property(
        anyCrossing(4),
        anyHand,
        fc.constantFrom('RS' as const, 'WS' as const),
        (crossing, hand, side) => {
          const job = chartJob(practiceChart(crossing, 'flat'), { hand });
          const { frames } = crossingTold(job, crossing, side);
          const all = frames.map(({ left, right, held = [] }) =>
            [...left, ...right, ...held.flatMap(({ loops }) => loops)].map(({ id }) => id).sort(),
          );
          for (const ids of all) expect(ids).to.deep.equal(all[0]);
          expect(frames.at(-1)!.left).to.deep.equal([]);
          expect(frames.at(-1)!.held).to.deep.equal([]);
        },
      ),
      { numRuns: 60 },
    );
  });
});
