import { expect } from 'chai';
import fc from 'fast-check';
import {
  checkChart,
  checkNames,
  expandPiece,
  jobOf,
  rowInHands,
  SCHOOLS,
  SettingsSchema,
  startDesign,
  titleOf,
  wayOf,
  writeAndProve,
  type Chart,
  type Hand,
  type Job,
  type School,
  type Settings,
} from '../src/index.js';
import { bandRounds } from '../src/needle/braid.js';
import { bandItemsText } from '../src/words/bands.js';
import { itemsText } from '../src/words/render.js';
import { changing, repeating } from './any-rows.js';
import { anyStyle, THOROUGH } from './arbitrary.js';
import { expectRow } from './knitted.js';
import { design, piece } from './pieces.js';
import { knitPrinted } from './simulator.js';

const HANDS = ['right', 'left-same-fabric', 'left-same-words'] as const;
const anyHand = fc.constantFrom<Hand>(...HANDS);
const ID = '00000000-0000-4000-8000-0000000000aa';

/** The job of a chart by itself. */
const chartJob = (chart: Chart, settings: Settings): Job =>
  jobOf(startDesign(ID, 'At the needles', chart), { chart: chart.id }, settings);

/** The groups of every row joined, row after row, under the head and over the key of a printed pattern. */
function asWorked(text: string, job: Job): string {
  const lines = text.split('\n');
  const key = lines.indexOf('Key');
  const { row, rowsToSameSide } = wayOf(job.chart);
  const rows = job.rows.flatMap((_, n) => (job.rows[n]!.band === null ? [rowInHands(job, n)] : []));
  return [
    ...lines.slice(
      0,
      lines.findIndex((line) => /^(?:Row|Round|Band)/.test(line)),
    ),
    ...rows.map(({ side, groups }, n) => {
      const sign = rowsToSameSide > 1 ? ` (${side})` : '';
      return `${row === 'round' ? 'Round' : 'Row'} ${n + 1}${sign}: ${groups.map((g) => g.text).join(', ')}.`;
    }),
    `Work ${row}s 1–${rows.length}.`,
    ...(key < 0 ? [] : lines.slice(key)),
  ].join('\n');
}

/** Has the literal knitter work the groups of a job, by the key of its proved words. */
function knitsByGroups(job: Job, text: string, hand: Hand): void {
  const worked = expandPiece(job.chart);
  const knitted = knitPrinted(asWorked(text, job), job.rows[0]!.side);
  expect(knitted.length).to.equal(worked.length);
  knitted.forEach((row, r) => expectRow(row, worked[r]!.stitches, hand === 'left-same-fabric'));
}

/** What the lists of groups must add up to, whatever the row. */
function addsUp(job: Job): void {
  const castOn = rowInHands(job, 0).takes;
  expect(castOn).to.equal(job.castOn);
  let loops = castOn;
  job.rows.forEach((_, n) => {
    const { groups, takes, makes, stretches, items, pieces } = rowInHands(job, n);
    // The pieces that may be lit make up the words, and every group lights one of them.
    const joined = pieces.map(({ text }) => text).join('');
    const { row: r, band } = job.rows[n]!;
    const said =
      band === null
        ? itemsText(items, job.manner)
        : bandItemsText(bandRounds(job.chart.bands[r]!)[band]!, job.manner);
    expect(joined).to.equal(said);
    const paths = new Set(pieces.flatMap(({ path }) => (path ? [path.join()] : [])));
    for (const { path } of groups) expect(paths.has(path.join()), 'a piece to light').to.be.true;
    if (band !== null) return;
    expect(takes, `row ${n + 1} takes`).to.equal(loops);
    expect(groups.reduce((sum, g) => sum + g.makes, 0)).to.equal(makes);
    expect(stretches.reduce((sum, s) => sum + s, 0)).to.equal(makes);
    let [taken, made] = [0, 0];
    for (const group of groups) {
      expect([group.taken, group.made]).to.deep.equal([taken, made]);
      taken += group.takes;
      made += group.makes;
      if (group.turn) expect(group.turn.nth).to.be.within(1, group.turn.of);
    }
    loops = makes;
  });
}

describe('rows at the needles', () => {
  for (const [what, charts] of [
    ['rows that win and lose stitches', changing],
    ['repeats across and up', repeating],
  ] as const)
    it(`are the groups of the proved words, every repeat carried out: ${what}`, () => {
      fc.assert(
        fc.property(
          charts,
          fc.constantFrom<School>(...SCHOOLS),
          anyHand,
          anyStyle(),
          (chart, school, hand, style) => {
            const by = SettingsSchema.parse({ school, hand, style: { ...style, length: 'counted' } });
            fc.pre(![...checkChart(chart), ...checkNames(chart, by)].some((f) => f.level === 'error'));
            const { text, checked } = writeAndProve(chart, by);
            expect(checked).to.be.true;
            const job = chartJob(chart, by);
            addsUp(job);
            // What the sheet says as "as they present" is told here stitch by stitch: the key is that of rows written out.
            const spelledOut = { ...by, style: { ...by.style, wsRows: 'written' as const } };
            knitsByGroups(job, /present/.test(text) ? writeAndProve(chart, spelledOut).text : text, hand);
          },
        ),
        { numRuns: 18 * THOROUGH, maxSkipsPerRun: 20 },
      );
    }).timeout(180_000 * THOROUGH);

  it('are those of a whole piece in each size and hand, markers and borders and all', () => {
    for (const hand of HANDS)
      for (const [words, markers] of [
        ['panels', true],
        ['rows', false],
      ] as const) {
        const of = piece({ words, markers });
        const by = SettingsSchema.parse({ hand });
        for (const { id } of of.sizes) {
          const job = jobOf({ charts: design.charts, piece: of }, { size: id }, by);
          addsUp(job);
          // The words of the same cloth as a chart by itself are proved, and bring the key.
          const { text, checked } = writeAndProve({ ...job.chart, id: 'whole' }, by);
          expect(checked).to.be.true;
          const pattern = asWorked(text, job).replaceAll(/, [ps]m(?=[,.])/g, '');
          const worked = expandPiece(job.chart);
          knitPrinted(pattern).forEach((row, r) =>
            expectRow(row, worked[r]!.stitches, hand === 'left-same-fabric'),
          );
        }
      }
  });

  it('stand under the numbers of the sheet, with the row of every panel', () => {
    const job = jobOf({ charts: design.charts, piece: piece() }, { size: 's' }, design.settings);
    const { made } = job.of!;
    expect(titleOf(job, 0)).to.deep.include({ section: 'Border', text: 'Row 1', panels: [] });
    const first = titleOf(job, made.below);
    expect(first.section).to.equal(null);
    expect(first.number).to.equal(1);
    expect(first.panels.map(({ row }) => row)).to.deep.equal([1, 1, 1]);
    expect(titleOf(job, made.below + 4).panels.map(({ row }) => row)).to.deep.equal([1, 5, 1]);
    const last = titleOf(job, job.rows.length - 1);
    expect(last.section).to.equal('Upper border');
    expect(job.rows.length).to.equal(made.below + made.body + made.above);
  });

  it('count loops between the markers of a panel', () => {
    const job = jobOf({ charts: design.charts, piece: piece() }, { size: 's' }, design.settings);
    const { below } = job.of!.made;
    expect(
      rowInHands(job, below)
        .groups.filter((g) => g.isMark)
        .map((g) => g.text),
    ).to.include('pm');
    expect(
      rowInHands(job, below + 1)
        .groups.filter((g) => g.isMark)
        .map((g) => g.text),
    ).to.include('sm');
    // Edge and ground, rope, diamond, rope, ground and edge: as the piece is laid out.
    expect(rowInHands(job, below).stretches).to.deep.equal([8, 8, 12, 8, 8]);
  });
});
