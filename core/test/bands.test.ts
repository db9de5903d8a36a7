import { expect } from 'chai';
import fc from 'fast-check';
import { Braid, BraidFault, workBand } from '../src/needle/braid.js';
import {
  applyToChart,
  braidStepFrames,
  pairFrames,
  checkChart,
  ChartSchema,
  deleteRows,
  expandPiece,
  insertRows,
  invertSteps,
  moveBand,
  readPattern,
  reworked,
  setBand,
  setUp,
  startChart,
  unfold,
  writeAndProve,
  type Band,
  type Chart,
} from '../src/index.js';
import { SettingsSchema } from '../src/chart/schema.js';
import { anyChart, anyStyle, THOROUGH } from './arbitrary.js';
import { BandKnitter, bandsPrinted } from './band-simulator.js';

const settings = SettingsSchema.parse({});
const USUAL: Band = { every: 5, rounds: 3 };

/** A plain tube of so many stitches with a band before its third round. */
const tube = (stitches: number, band: Band = USUAL): Chart => ({
  ...startChart({ columns: stitches, rows: 5, construction: 'round', ground: 'k' }),
  bands: { 2: band },
});

const found = (chart: Chart, id: string) => checkChart(chart).filter((f) => f.id === id);

describe('the needle of a band', () => {
  // Worked by hand after common practice, no source: 99 stitches and the one cast on, 20 stretches, 19 further markers.
  it('99 stitches crossed every 5 are 20 stretches', () => {
    const braid = workBand(99, USUAL);
    expect(braid.loops).to.equal(100);
    expect(braid.crossings.length).to.equal(40);
    expect(braid.crossings.slice(0, 3).map(({ at }) => at)).to.deep.equal([0, 4, 9]);
    expect(braid.bound.every((n) => n === 3)).to.equal(true);
    expect(braid.marked).to.equal(0);
  });

  it('of one round has strands that lie side by side, over any number of stitches', () => {
    const braid = workBand(100, { every: 5, rounds: 1 });
    expect([braid.loops, braid.crossings.length]).to.deep.equal([101, 0]);
  });

  it('says what cannot be done on it', () => {
    expect(() => workBand(100, USUAL)).to.throw(BraidFault);
    const braid = new Braid(4);
    expect(() => braid.do('step')).to.throw('no travelling stitch');
    braid.do('cast-on');
    expect(() => braid.do('cast-on')).to.throw('once');
    expect(() => braid.do('draw')).to.throw('no round of the band');
    braid.do('step');
    braid.do('place');
    expect(() => braid.do('place')).to.throw('already');
    expect(() => braid.workRound([{ star: [{ move: 'place', times: 0 }] }])).to.throw('works no stitch');
  });
});

describe('what the hands do, moment by moment', () => {
  it('a braid step ends as the needle of a band has it, and loses no loop', () => {
    const frames = braidStepFrames();
    const names = (loops: readonly { label: string }[]) => loops.map(({ label }) => label).join(' ');
    expect(frames.map(({ left, right }) => `${names(left)} | ${names(right)}`)).to.deep.equal([
      '~ 1 2 3 | ',
      '~ 1 2 3 | 1',
      '~ 1 2 3 | ~ 1',
      '2 3 | ~ 1',
      '~ 2 3 | 1',
    ]);
  });

  it('a pair is worked with the yarn it shows, and then the other', () => {
    const frames = pairFrames();
    for (const { left, right } of frames) expect(left.length + right.length).to.equal(4);
    expect(
      frames
        .at(-1)!
        .right.map(({ face, yarn }) => `${face[0]}${yarn}`)
        .reverse(),
    ).to.deep.equal(['kA', 'pB', 'kB', 'pA']);
  });
});

describe('the words of a band', () => {
  const text = writeAndProve(tube(99), settings).text;

  it('tell its rounds in full, and are proved', () => {
    expect(writeAndProve(tube(99), settings).checked).to.equal(true);
    expect(text).to.include(
      'Band before round 3: over 99 sts, a multiple of 5 less 1.\nBand round 1: knit on 1 st, braid step 4 times, *pm, braid step 5 times; rep from * to end. (100 sts)',
    );
    expect(text).to.include('End of band: work the first st of round 3 together with the travelling st.');
    expect(text).to.match(/^braid step: knit the second stitch through its back loop from behind/m);
  });

  it('worked literally make a band of N + 1 loops whose strands cross every so many', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 9 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 3 }),
        (every, stretches, rounds) => {
          const stitches = every * stretches - 1;
          const { text, checked } = writeAndProve(tube(stitches, { every, rounds }), settings);
          expect(checked).to.equal(true);
          const { over, rounds: lines } = bandsPrinted(text).get(3)!;
          const seen = new BandKnitter(over).work(lines);
          expect(seen.counts).to.deep.equal(Array(rounds).fill(stitches + 1));
          expect(seen.markers).to.equal(0);
          // The travelling loop stands first of what waits for the next round, and every stitch lies under it once a round.
          expect(seen.loops[0]!.stands).to.equal('travelling');
          expect(seen.loops.slice(1).map(({ stands }) => stands)).to.deep.equal(
            Array.from({ length: stitches }, (_, i) => i),
          );
          for (const { under } of seen.loops.slice(1))
            expect(under).to.deep.equal(Array.from({ length: rounds }, (_, i) => i + 1));
          const wanted = Array.from({ length: rounds - 1 }, (_, i) =>
            Array.from({ length: stretches }, (_, s) => ({
              round: i + 2,
              after: s ? s * every - 2 : null,
              before: s ? s * every - 1 : 0,
            })),
          ).flat();
          expect(seen.passes).to.deep.equal(wanted);
        },
      ),
      { numRuns: 40 * THOROUGH },
    );
  });

  it('of any chart are proved, read back and worked literally', () => {
    let bands = 0;
    fc.assert(
      fc.property(anyChart(), anyStyle(), (drawn, style) => {
        const written = writeAndProve(drawn, { ...settings, style });
        if (written.problems.length || !Object.keys(drawn.bands).length) return;
        bands++;
        const read = readPattern(written.text, {
          construction: drawn.construction,
          firstRow: 'RS',
          school: 'front-back',
        });
        expect(read.chart?.bands).to.deep.equal(drawn.bands);
        const told = bandsPrinted(written.text);
        for (const [r, band] of Object.entries(drawn.bands)) {
          const { over, rounds } = told.get(Number(r) + 1)!;
          const seen = new BandKnitter(over).work(rounds);
          expect(seen.passes.length).to.equal(
            band.rounds > 1 ? ((over + 1) / band.every) * (band.rounds - 1) : 0,
          );
        }
      }),
      { numRuns: 180 * THOROUGH },
    );
    expect(bands).to.be.greaterThan(10);
  });

  it('that say otherwise are refused, and told at their place when read', () => {
    const read = (changed: string) =>
      readPattern(changed, { construction: 'round', firstRow: 'RS' }).problems;
    const wrong: [string, string, RegExp][] = [
      ['braid step 4 times, *pm', 'braid step 5 times, *pm', /no stitch left|left over/],
      ['(100 sts)\nBand round 2', '(99 sts)\nBand round 2', /says 99 stitches/],
      ['*sm, draw under', '*sm', /do not cross/],
      ['*remove marker, ', '*sm, ', /markers left/],
      ['knit on 1 st, ', '', /no travelling stitch/],
      ['over 99 sts', 'over 94 sts', /left over|needle holds 99|needle holds/],
      ['Band before round 3', 'Band before round 9', /not among the rows/],
    ];
    for (const [was, is, says] of wrong) {
      const changed = text.replace(was, is);
      expect(changed, was).not.to.equal(text);
      const problems = read(changed);
      expect(problems.map(({ message }) => message).join(' '), `${was} → ${is}`).to.match(says);
      expect(problems.find(({ id }) => id.startsWith('band'))!.at, was).not.to.equal(undefined);
    }
    const torn = text.replace(/^End of band.*$/m, '');
    expect(read(torn)[0]!.message).to.match(/not ended/);
    expect(read(text.replace('braid step 4 times', 'braid leap 4 times'))[0]!.id).to.equal(
      'band-not-understood',
    );
    expect(
      read(text.replace(/^Worked in the round/m, 'Worked flat')).some(({ id }) => id === 'band-differs'),
    ).to.equal(true);
  });
});

describe('bands that do not come out', () => {
  it('100 stitches have no band of 5: the nearest that do, and that no other distance does', () => {
    const [finding] = found(tube(100), 'band-divides');
    expect(finding!.message).to.include('99 or 104 stitches do; none of 2 to 12 divides 101');
    const fixed = applyToChart(tube(100), finding!.fix!.steps);
    expect(finding!.fix!.label).to.match(/^Take 1 stitch in the round before/);
    expect(checkChart(fixed).filter(({ level }) => level === 'error')).to.deep.equal([]);
    expect(writeAndProve(fixed, settings).checked).to.equal(true);
    // One undo brings back what was.
    expect(applyToChart(fixed, invertSteps(finding!.fix!.steps))).to.deep.equal(tube(100));
  });

  it('more stitches are added before the band and taken back after it', () => {
    const chart = tube(98);
    const [finding] = found(chart, 'band-divides');
    const add = [finding!.fix!, ...(finding!.others ?? [])].find(({ label }) => label.startsWith('Add 1'))!;
    const made = applyToChart(chart, add.steps);
    expect(checkChart(made).filter(({ level }) => level === 'error')).to.deep.equal([]);
    expect(bandsPrinted(writeAndProve(made, settings).text).get(3)!.over).to.equal(99);
  });

  it('where the chart repeats, another number of repeats is offered', () => {
    const chart: Chart = { ...tube(9), across: { before: 0, after: 0, times: 12, least: 1 } };
    const [finding] = found(chart, 'band-divides');
    expect(finding!.fix!.label).to.equal('Work 11 repeats, 99 stitches');
    expect(found(applyToChart(chart, finding!.fix!.steps), 'band-divides')).to.deep.equal([]);
  });

  it('flat there is none; and it ends with a plain stitch of the round above', () => {
    const flat: Chart = { ...tube(9), construction: 'flat' };
    const [finding] = found(flat, 'band-needs-round');
    expect(applyToChart(flat, finding!.fix!.steps).bands).to.deep.equal({});
    expect(writeAndProve(flat, settings).checked).to.equal(false);
    const made = tube(9);
    const joined: Chart = { ...made, rows: made.rows.with(2, ['yo', 'k2tog', ...made.rows[2]!.slice(2)]) };
    expect(found(joined, 'band-joins')).to.have.length(1);
  });

  it('a change to a way without bands says what is lost', () => {
    const { lost, edit } = reworked(tube(9), { construction: 'flat', firstRow: 'RS', ground: 'k' });
    expect(lost.find(({ what }) => what.startsWith('Bands'))!.rows).to.deep.equal([3]);
    expect(edit.chart.bands).to.deep.equal({});
    expect(applyToChart(edit.chart, invertSteps(edit.steps))).to.deep.equal(tube(9));
  });
});

describe('bands among rows', () => {
  it('move with the rows, and one below the rows that are taken out stays', () => {
    const chart = tube(9);
    expect(insertRows(chart, 1, [chart.rows[0]!]).chart.bands).to.deep.equal({ 3: USUAL });
    expect(insertRows(chart, 3, [chart.rows[0]!]).chart.bands).to.deep.equal({ 2: USUAL });
    expect(deleteRows(chart, 0, 1).chart.bands).to.deep.equal({ 1: USUAL });
    expect(deleteRows(chart, 2, 2).chart.bands).to.deep.equal({ 2: USUAL });
    expect(deleteRows(chart, 1, 2).chart.bands).to.deep.equal({});
    expect(deleteRows(chart, 2, 3).chart.bands).to.deep.equal({});
    for (const edit of [
      insertRows(chart, 1, [chart.rows[0]!]),
      deleteRows(chart, 1, 2),
      deleteRows(chart, 2, 2),
    ])
      expect(applyToChart(edit.chart, invertSteps(edit.steps))).to.deep.equal(chart);
  });

  it('are moved, and not one over the other', () => {
    const two = setBand(tube(9), 4, { every: 2, rounds: 2 }).chart;
    expect(moveBand(two, 2, 1).chart.bands[1]).to.deep.equal(USUAL);
    expect(() => moveBand(two, 2, 4)).to.throw('stands before round 5 already');
    expect(() => setBand(two, 9, USUAL)).to.throw('no row 10');
  });

  it('in a repeat are worked on every pass', () => {
    const repeated = setUp(tube(9), { setup: 1, closing: 1, times: 3 }).chart;
    expect(expandPiece(repeated).flatMap(({ band }, i) => (band ? [i] : []))).to.deep.equal([2, 5, 8]);
    expect(Object.keys(unfold(repeated, 1, 3).chart.bands)).to.deep.equal(['2', '5', '8']);
    expect(checkChart(repeated).some(({ id }) => id === 'repeat-longer-than-true')).to.equal(false);
  });

  it('a document of an earlier format has none, and none may stand beyond the rows', () => {
    const { bands: _, ...before } = tube(9);
    expect(ChartSchema.parse(before).bands).to.deep.equal({});
    expect(ChartSchema.safeParse({ ...before, bands: { 5: USUAL } }).success).to.equal(false);
    expect(ChartSchema.safeParse({ ...before, bands: { 2: { every: 1, rounds: 3 } } }).success).to.equal(
      false,
    );
    expect(ChartSchema.safeParse({ ...before, bands: { 2: { every: 5, rounds: 4 } } }).success).to.equal(
      false,
    );
  });
});
