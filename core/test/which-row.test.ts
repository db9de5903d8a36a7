import { expect } from 'chai';
import {
  answered,
  changedSince,
  crossingOrder,
  crossingSize,
  expandPiece,
  finishedRows,
  jobOf,
  knittingSince,
  leftFrom,
  loopsBetween,
  paceOf,
  practiceChart,
  questionsFor,
  readingOf,
  rowFromWords,
  rowsThatFit,
  setUp,
  SettingsSchema,
  sideOf,
  simpleCrossing,
  startDesign,
  withRow,
  writeAndProve,
  type Asked,
  type Chart,
  type Fact,
  type Job,
} from '../src/index.js';
import { design, diamond, piece, rope } from './pieces.js';
import { braid } from './sound-cloth.js';

const ID = '00000000-0000-4000-8000-0000000000ad';
const settings = SettingsSchema.parse({});
const jobOfChart = (chart: Chart, by = settings): Job =>
  jobOf(startDesign(ID, 'Which', chart), { chart: chart.id }, by);

/** What can be counted in a cloth of ropes, found by moving labels through every row by hand; ropes are labels of `width` stitches. */
function counted(chart: Chart, first: number, ropes: number, width: number, asked: Asked) {
  const rows = expandPiece(chart);
  let needle = rows[0]!.stitches.flatMap((s) =>
    Array<number>(typeof s === 'string' ? 1 : crossingSize(s)).fill(-1),
  );
  needle = needle.map((_, i) =>
    i >= first && i < first + ropes * width ? Math.floor((i - first) / width) : -1,
  );
  const told = Array.from({ length: ropes }, () => ({ row: -1, lean: 'none', count: 0 }));
  return rows.map(({ stitches }, r) => {
    let at = 0;
    const next = [...needle];
    for (const s of stitches) {
      if (typeof s === 'string') {
        at++;
        continue;
      }
      const size = crossingSize(s);
      crossingOrder(s).forEach((from, i) => (next[at + i] = needle[at + from]!));
      for (const label of new Set(needle.slice(at, at + size)))
        if (label >= 0) Object.assign(told[label]!, { row: r, lean: s.lean, count: told[label]!.count + 1 });
      at += size;
    }
    needle = next;
    const runs: { label: number; from: number; to: number }[] = [];
    needle.forEach((label, i) => {
      const last = runs.at(-1);
      if (label < 0) return;
      if (last?.label === label && last.to === i - 1) last.to = i;
      else runs.push({ label, from: i, to: i });
    });
    if (asked.what === 'side') return sideOf(chart, rows[r + 1] ? rows[r + 1]!.row - 1 : r + 1);
    if (asked.what === 'stitches') return needle.length;
    if (asked.what === 'ropes') return runs.length;
    const rope = runs[asked.rope];
    if (asked.what === 'between') {
      const other = runs[asked.rope + 1];
      return other && rope ? other.from - rope.to - 1 : null;
    }
    if (!rope) return null;
    const { row, lean, count } = told[rope.label]!;
    return asked.what === 'since' ? (row < 0 ? 'none' : r - row) : asked.what === 'lean' ? lean : count;
  });
}

describe('which row a knitter is on', () => {
  const cloths: [string, Chart, number, number, number][] = [3, 4, 5].map((ropes) => {
    const { chart } = braid(ropes, 2, 4, 2, 'left');
    return [
      `a plait of ${ropes}`,
      { ...setUp(chart, { setup: 0, closing: 0, times: 3 }).chart, id: 'braid' },
      2,
      ropes,
      2,
    ];
  });

  it('is told by what can be counted, as it is found by counting every row by hand', () => {
    for (const [name, chart, first, ropes, width] of cloths) {
      const job = jobOfChart(chart);
      const asked: Asked[] = [
        { what: 'side' },
        { what: 'stitches' },
        { what: 'ropes' },
        ...[0, 1, 2].flatMap((rope): Asked[] => [
          { what: 'since', rope },
          { what: 'lean', rope },
          { what: 'crossings', rope },
        ]),
        { what: 'between', rope: 0 },
      ];
      for (const one of asked) {
        const by = counted(chart, first, ropes, width, one);
        for (const answer of new Set(by)) {
          if (answer === null) continue;
          const fitting = by.flatMap((is, r) => (is === answer ? [r + 1] : []));
          const fact: Fact = { asked: one, answer: answer as Fact['answer'] };
          expect(rowsThatFit(job, [fact]), `${name}, ${JSON.stringify(fact)}`).to.deep.equal(fitting);
        }
      }
    }
  });

  it('is narrowed by every further answer, and the question to count next leaves fewest', () => {
    for (const [, chart] of cloths) {
      const job = jobOfChart(chart);
      for (const truth of [1, 5, 17, 30]) {
        const facts: Fact[] = [];
        let left = rowsThatFit(job, facts).length;
        for (let tries = 0; tries < 12; tries++) {
          const questions = questionsFor(job, facts);
          if (!questions.length) break;
          for (const { answers, leaves } of questions) {
            expect(answers.reduce((sum, { rows }) => sum + rows, 0)).to.equal(left);
            expect(leaves).to.be.at.least(questions[0]!.leaves);
          }
          const { asked, answers } = questions[0]!;
          const said = answers.find(({ answer }) =>
            rowsThatFit(job, [...facts, { asked, answer }]).includes(truth),
          )!;
          facts.push({ asked, answer: said.answer });
          const now = rowsThatFit(job, facts).length;
          expect(now).to.be.lessThan(left);
          left = now;
        }
        expect(rowsThatFit(job, facts)).to.include(truth);
      }
    }
  });
});

describe('the pace of a knitter', () => {
  const job = jobOfChart({ ...rope, part: 'piece' });
  const minute = 60_000;

  it('counts rows that follow each other within half an hour, by their loops', () => {
    const log = { 0: 10 * minute, 1: 16 * minute, 2: 22 * minute, 3: 200 * minute };
    expect(finishedRows(log).map(({ row }) => row)).to.deep.equal([0, 1, 2, 3]);
    const pace = paceOf(job, log);
    expect(pace).to.deep.equal({ rows: 2, hours: 0.2, loopsAnHour: 80, rowsAnHour: 10 });
    // Two rows of eight loops are left after the second of four.
    expect(leftFrom(job, 2, pace, 0.01)).to.deep.equal({ rows: 2, loops: 16, hours: 0.2, grams: 0.16 });
    expect(loopsBetween(job, 0, 4)).to.equal(32);
  });

  it('knows no pace of one row, and nothing of a clock that was set back', () => {
    expect(paceOf(job, { 0: 5 }).rowsAnHour).to.equal(null);
    expect(leftFrom(job, 1, paceOf(job, {}), null)).to.deep.include({ hours: null, grams: null });
    expect(paceOf(job, { 0: 9 * minute, 1: 3 * minute }).hours).to.equal(0.1);
  });

  it('tells how long hands have knitted without a pause', () => {
    const log = { 0: 0, 1: 100 * minute, 2: 110 * minute, 3: 125 * minute };
    expect(knittingSince(log, 130 * minute)).to.equal(30 * minute);
    expect(knittingSince(log, 190 * minute)).to.equal(0);
  });
});

describe('a pattern that changed while it was knitted', () => {
  const was = jobOfChart(diamond);
  const changed = (row: number, words: string) =>
    jobOfChart(withRow(diamond, row, rowFromWords(diamond, row, words, settings)).chart);

  it('tells rows that are otherwise, and whether they were worked already', () => {
    const now = changed(2, 'p3, 2/1 RC, 2/1 LPC, p3');
    expect(changedSince(was, now, 1)).to.deep.include({ castOn: null, touchesWorked: false });
    expect(changedSince(was, now, 1).rows).to.deep.equal([
      { from: 2, to: 3, now: { from: 2, to: 3 }, title: 'Row 3', where: 'ahead' },
    ]);
    expect(changedSince(was, now, 3).rows[0]!.where).to.equal('worked');
    expect(changedSince(was, now, 3).touchesWorked).to.be.true;
    expect(changedSince(was, was, 3)).to.deep.equal({ rows: [], castOn: null, touchesWorked: false });
  });

  it('tells another cast-on, and rows that came between', () => {
    const [s, m] = ['s', 'm'].map((size) =>
      jobOf({ charts: design.charts, piece: piece() }, { size }, settings),
    ) as [Job, Job];
    const told = changedSince(s, m, 4);
    expect(told.castOn).to.deep.equal({ was: s.castOn, now: m.castOn });
    expect(told.touchesWorked).to.be.true;
    const longer = jobOfChart({ ...diamond, rows: [...diamond.rows.slice(0, 4), ...diamond.rows.slice(2)] });
    const [rows] = changedSince(was, longer, 2).rows;
    expect(rows!.now.to - rows!.now.from - (rows!.to - rows!.from)).to.equal(2);
  });
});

describe('learning at the needles', () => {
  it('makes of any crossing a swatch that is proved', () => {
    for (const crossing of [
      simpleCrossing('left', 2, 2),
      simpleCrossing('right', 2, 1, 'p'),
      simpleCrossing('left', 1, 3, 'p'),
    ])
      for (const way of ['flat', 'round'] as const) {
        const chart = practiceChart(crossing, way);
        expect(chart.rows.length).to.equal(8);
        const { checked, problems } = writeAndProve(chart, settings);
        expect(checked, problems[0]?.message).to.be.true;
      }
  });

  it('asks for every group of a chart, has the answer among the choices, and what is missed comes again', () => {
    for (const hand of ['right', 'left-same-fabric'] as const) {
      const { chart } = braid(3, 2, 4, 2, 'left');
      let reading = readingOf({ ...chart, id: 'braid' }, SettingsSchema.parse({ hand }));
      const all = reading.tasks.length;
      expect(all).to.be.greaterThan(16);
      for (const { answer, choices } of reading.tasks) {
        expect(choices).to.include(answer);
        expect(new Set(choices).size).to.equal(choices.length);
      }
      const first = reading.queue[0]!;
      reading = answered(reading, 'something else');
      expect(reading.queue.length).to.equal(all);
      expect(reading.queue.indexOf(first)).to.equal(3);
      let tries = 0;
      while (reading.queue.length && tries++ < 2 * all)
        reading = answered(reading, reading.tasks[reading.queue[0]!]!.answer);
      expect(reading).to.deep.include({ right: all, missed: 1 });
      expect(answered(reading, 'k1')).to.equal(reading);
    }
  });
});
