import { expect } from 'chai';
import fc from 'fast-check';
import {
  checkChart,
  dropOf,
  expandPiece,
  isCrossing,
  jobOf,
  needleBefore,
  SettingsSchema,
  startDesign,
  stitchBook,
  turnOver,
  wayOf,
  workChart,
  wrongBelow,
  writeAndProve,
  type Chart,
  type Dropped,
  type Hand,
  type Job,
} from '../src/index.js';
import { repeating } from './any-rows.js';
import { anyStyle, THOROUGH } from './arbitrary.js';
import { expectRow } from './knitted.js';
import { knitPrinted, readPrinted, Row, sideOfLoop, type KnittedRow, type Loop } from './simulator.js';
import { braid } from './sound-cloth.js';

const ID = '00000000-0000-4000-8000-0000000000ac';
const jobOfChart = (chart: Chart, by: object = {}): Job =>
  jobOf(startDesign(ID, 'Drop', chart), { chart: chart.id }, SettingsSchema.parse(by));
const isSound = (chart: Chart) => !checkChart(chart).some(({ level }) => level === 'error');

/** Has the literal knitter let stitches of her cloth down and work them up again by the words, from the right side. */
function reworked(cloth: readonly KnittedRow[], { rows }: Dropped, text: string): KnittedRow[] {
  const pattern = readPrinted(text);
  const made = cloth.map((row) => ({ ...row, loops: [...row.loops] }));
  for (const { row, words, over, makes } of [...rows].reverse()) {
    const below = row ? made[row - 1]!.loops : cloth[0]!.below;
    const { fromLeft } = pattern.hands;
    const taken = over.map((i) => below[i]!);
    const knitter = new Row(fromLeft ? [...taken].reverse() : taken, 'RS', pattern);
    if (words) knitter.words(words);
    expect(knitter.left, 'stitches left over').to.equal(0);
    const done = fromLeft ? [...knitter.done].reverse() : knitter.done;
    expect(done.length).to.equal(makes.length);
    done.forEach((loop, i) => {
      sideOfLoop.set(loop, 'RS');
      made[row]!.loops[makes[i]!] = loop;
    });
  }
  return made.map((row, r) => ({ ...row, below: r ? made[r - 1]!.loops : row.below }));
}

/** A loop as the right side shows it: it may have been worked from either side. */
const asRs = (loop: Loop): Loop => ({ ...loop, smooth: loop.smooth === (sideOfLoop.get(loop) === 'RS') });

/** Which loops of each crossing of a row lie before others of it, as the right side is seen. */
function fronts({ rows }: Dropped, r: number, { loops }: KnittedRow): boolean[][] {
  const { stitches, makes } = rows.find(({ row }) => row === r)!;
  let at = 0;
  return stitches.flatMap((s) => {
    const n = isCrossing(s) ? s.front.length + s.centre.length + s.back.length : stitchBook().facts(s).makes;
    const own = makes.slice(at, (at += n)).map((i) => loops[i]!);
    const depths = own.map((loop) => loop.depth * (sideOfLoop.get(loop) === 'RS' ? 1 : -1));
    return isCrossing(s) ? [depths.map((d) => d === Math.max(...depths))] : [];
  });
}

describe('letting stitches down and working them up again', () => {
  it('leaves the cloth as it is charted, and touches no loop beside them, or says what hangs together', () => {
    let [alone, refused] = [0, 0];
    fc.assert(
      fc.property(
        repeating,
        fc.constantFrom<Hand>('right', 'left-same-fabric'),
        anyStyle(),
        fc.nat(),
        fc.nat(),
        fc.nat(),
        (chart, hand, style, a, b, c) => {
          fc.pre(isSound(chart) && wayOf(chart).loops === 1 && !Object.keys(chart.bands).length);
          // A round that begins elsewhere is told by the literal knitter from there.
          fc.pre(wayOf(chart).shifts === 'repeat' || !Object.keys(chart.jogs).length);
          // Slips and what lifts a neighbour's leg are worked from where they stand: the literal knitter does not know it.
          fc.pre(!chart.rows.flat().some((s) => typeof s === 'string' && /^(sl|ll|rl)/.test(s)));
          const by = { hand, style: { ...style, length: 'counted' as const } };
          const { text, checked } = writeAndProve(chart, SettingsSchema.parse(by));
          fc.pre(checked);
          const job = jobOfChart(chart, by);
          const worked = 1 + (a % job.rows.length);
          const width = needleBefore(job, worked).length;
          const from = b % width;
          const to = Math.min(width - 1, from + (c % 5));
          const deep = 1 + (b % Math.min(worked, 6));
          const drop = dropOf(job, worked, { from, to }, deep);
          if (!('rows' in drop)) {
            refused++;
            expect(drop.reason).to.not.equal('');
            if (drop.wider) expect(dropOf(job, worked, drop.wider, deep)).to.have.property('rows');
            return;
          }
          alone++;
          const cloth = knitPrinted(text).slice(0, worked);
          const rows = keyed(text, job, drop);
          const after = reworked(cloth, drop, rows);
          const piece = expandPiece(chart);
          after.forEach((row, r) => {
            const touched = new Set(drop.rows.find((d) => d.row === r)?.makes ?? []);
            row.loops.forEach((loop, i) => {
              if (!touched.has(i)) expect(loop, `row ${r}, loop ${i}`).to.equal(cloth[r]!.loops[i]);
            });
            const shown = { ...row, side: 'RS' as const, loops: row.loops.map(asRs) };
            // What a crossing shows is told by how deep its loops lay as the row was worked: only reworked rows are all of one side.
            if (!drop.rows.some((d) => d.row === r)) return;
            if (row.side === 'RS' || touched.size === row.loops.length)
              expectRow(shown, piece[r]!.stitches, hand === 'left-same-fabric');
            else {
              // Worked from the other side, it comes out as it was: what shows, what it came from, and what lies in front.
              const told = ({ loops, below }: KnittedRow) =>
                loops.map((loop) => ({
                  smooth: asRs(loop).smooth,
                  through: loop.through.map((l) => below.indexOf(l)).sort(),
                }));
              expect(told(row)).to.deep.equal(told(cloth[r]!));
              expect(fronts(drop, r, row)).to.deep.equal(fronts(drop, r, cloth[r]!));
            }
          });
          expect(drop.cost).to.equal(drop.rows.reduce((sum, row) => sum + row.makes.length, 0));
        },
      ),
      { numRuns: 30 * THOROUGH, maxSkipsPerRun: 60 },
    );
    expect(alone, 'let down alone').to.be.at.least(1);
    expect(refused, 'refused').to.be.at.least(1);
  }).timeout(120_000 * THOROUGH);

  /** A pattern whose key tells the words of a drop on the right side too. */
  function keyed(text: string, job: Job, drop: Dropped): string {
    const rows = drop.rows.map(({ stitches }) => stitches).filter((row) => row.length);
    const width = rows[0]?.reduce(
      (sum, s) => sum + (isCrossing(s) ? s.front.length + s.centre.length + s.back.length : 1),
      0,
    );
    if (!width) return text;
    // Each row's stitches as a right-side row of a chart of their own, to have them in a key.
    const lines = rows.flatMap((stitches) => {
      const span = stitches.reduce(
        (sum, s) => sum + (isCrossing(s) ? s.front.length + s.centre.length + s.back.length : 1),
        0,
      );
      const chart = {
        ...job.chart,
        width: span,
        rows: [stitches],
        firstRow: 'RS' as const,
        construction: 'round' as const,
        across: null,
        up: null,
        jogs: {},
        bands: {},
        mirror: null,
        meant: {},
        bothFaces: false,
      };
      const { text: own } = writeAndProve(chart, {
        ...job.settings,
        style: { ...job.settings.style, wsRows: 'written' },
      });
      return own.split('\n').slice(own.split('\n').indexOf('Key') + 1);
    });
    const head = text.split('\n').filter((line) => line.startsWith('For a left-handed'));
    return [...head, 'Cast on 1 st.', 'Round 1: k1.', 'Key', ...new Set(lines)].join('\n');
  }

  it('has a rope of a plait hang together with the others it crosses, and one beside them alone', () => {
    const { chart } = braid(3, 2, 4, 2, 'left');
    const job = jobOfChart({ ...chart, id: 'braid' });
    // Ropes of two from the third stitch on; the crossings of rows 3, 7 and 11.
    expect(dropOf(job, 12, { from: 0, to: 1 }, 12)).to.have.property('cost', 24);
    const narrow = dropOf(job, 12, { from: 2, to: 3 }, 2);
    if ('rows' in narrow) throw new Error('the rope crosses in row 11');
    expect(narrow.reason).to.contain('Other ropes cross');
    // The needle holds 2 purl, 6 knit, 2 purl.
    expect(narrow.wider!.from).to.be.at.least(2);
    expect(narrow.wider!.to).to.be.at.most(7);
  });

  it('says what can be done of a crossing turned the wrong way, with what each costs', () => {
    const { chart } = braid(3, 2, 4, 2, 'left');
    const row = chart.rows.findIndex((r, i) => i > 2 && r.some(isCrossing));
    const wrong = turnOver({ ...chart, id: 'braid' }, [
      { row, column: 2 + 2 * Number(!isCrossing(chart.rows[row]![2]!)) },
    ]).chart;
    const job = jobOfChart(wrong);
    const at = workChart(wrong)[row]!;
    const loop = at.from.findIndex((f, i) => f !== i);
    const { drop, rip, duplicate } = wrongBelow(job, row + 4, row, loop);
    expect(rip).to.deep.equal({ rows: 4, loops: 40 });
    expect(duplicate).to.deep.equal({ loops: 8 });
    expect(drop!.rows.map((d) => d.row)).to.deep.equal([row + 3, row + 2, row + 1, row]);
    expect(drop!.cost).to.be.lessThan(rip.loops);
  });

  it('refuses what is not on the needle, or deeper than the cloth, in a sentence', () => {
    const { chart } = braid(3, 2, 4, 2, 'left');
    const job = jobOfChart({ ...chart, id: 'braid' });
    for (const [worked, loops, deep] of [
      [4, { from: 0, to: 99 }, 1],
      [4, { from: 3, to: 1 }, 1],
      [4, { from: 0, to: 1 }, 9],
      [4, { from: 0, to: 1 }, 0],
    ] as const)
      expect(dropOf(job, worked, loops, deep))
        .to.have.property('reason')
        .that.matches(/\.$/);
  });
});
