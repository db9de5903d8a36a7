import { expect } from 'chai';
import fc from 'fast-check';
import { lcm } from 'mathjs';
import { lengthOf, OVER, panelRowAt, allWays, FLAT } from '../src/index.js';
import {
  lengthWays,
  meetAgain,
  panelRows,
  sideClash,
  type PanelRows,
  type PanelUp,
} from '../src/piece/up.js';
import { type Way } from '../src/construction/way.js';

const panel = (repeat: number, more: Partial<PanelUp & PanelRows> = {}): PanelUp => {
  const { setup = 0, closing = 0, start = 1, begins = 1, side = 'RS' } = more;
  return { rows: { setup, repeat, closing }, start, begins, side, crossed: [] };
};
const anyPanel = fc
  .record({
    repeat: fc.integer({ min: 1, max: 12 }),
    setup: fc.nat(4),
    start: fc.integer({ min: 1, max: 5 }),
    begins: fc.integer({ min: 1, max: 9 }),
  })
  .map(({ repeat, ...more }) => panel(repeat, more));

describe('panels going up', () => {
  it('work their set-up rows once, then their repeat, and their closing rows at the end', () => {
    const one = panel(4, { setup: 2, closing: 1, start: 3 });
    const rows = Array.from({ length: 14 }, (_, i) => panelRowAt(one, i + 1, 14));
    expect(rows).to.deep.equal([null, null, 1, 2, 3, 4, 5, 6, 3, 4, 5, 6, 3, 7]);
    const late = panel(6, { begins: 4 });
    expect(Array.from({ length: 8 }, (_, i) => panelRowAt(late, i + 1))).to.deep.equal([
      4, 5, 6, 1, 2, 3, 4, 5,
    ]);
    expect(panelRows({ rows: Array.from({ length: 8 }, () => ['k']), up: null })).to.deep.equal({
      ...{ setup: 0, repeat: 8, closing: 0 },
    });
    expect(
      panelRows({ rows: Array.from({ length: 8 }, () => ['k']), up: { setup: 1, closing: 2, times: 3 } }),
    ).to.deep.equal({ setup: 1, repeat: 5, closing: 2 });
  });

  it('meet again after the least common multiple of their repeats (mathjs), and at no row before', () => {
    fc.assert(
      fc.property(fc.array(anyPanel, { minLength: 1, maxLength: 4 }), (panels) => {
        const { from, every } = meetAgain(panels);
        expect(every).to.equal(panels.reduce((all, { rows }) => lcm(all, rows.repeat), 1));
        const at = (row: number) => panels.map((p) => panelRowAt(p, row)).join();
        expect(at(from + every!)).to.equal(at(from));
        // From there on every panel only repeats; and no sooner do all of them stand as they did.
        for (const p of panels) expect(panelRowAt(p, from)).to.be.greaterThan(p.rows.setup);
        for (let row = from + 1; row < from + every!; row++) expect(at(row)).not.to.equal(at(from));
        for (let by = 0; by < 20; by++) expect(at(from + by + every!)).to.equal(at(from + by));
      }),
      { numRuns: 200 },
    );
    expect(meetAgain([panel(997), panel(991), panel(983)]).every).to.be.null;
    expect(meetAgain([])).to.deep.equal({ from: 1, every: 1 });
  });

  it('fall on their own sides in flat work, or clash', () => {
    expect(sideClash(panel(8), 'RS', FLAT)).to.be.null;
    expect(sideClash(panel(8), 'WS', FLAT)).to.equal('begins');
    expect(sideClash(panel(8, { start: 2 }), 'WS', FLAT)).to.be.null;
    expect(sideClash(panel(8, { begins: 2 }), 'WS', FLAT)).to.be.null;
    expect(sideClash(panel(7), 'RS', FLAT)).to.equal('odd');
    expect(sideClash(panel(7, { side: null }), 'RS', FLAT)).to.be.null;
  });
});

describe('length', () => {
  const gauge = { count: 28, over: OVER.cm };
  const rowsFor = (rows: PanelRows, cm: number, way: Way = FLAT) =>
    lengthWays(rows, gauge, lengthOf(cm, 'cm'), way);

  it('comes to whole repeats on both sides of what is wished, to the nearest row, or centred', () => {
    // 50 cm are 140 rows; 16 of them are 8.75 repeats.
    const ways = rowsFor({ setup: 0, repeat: 16, closing: 0 }, 50);
    const told = Object.fromEntries(ways.map((w) => [`${w.kind} ${w.rows}`, [w.begins, w.ends, w.passes]]));
    expect(told).to.deep.equal({
      'whole 128': [1, 16, 8],
      'whole 144': [1, 16, 9],
      'part 140': [1, 12, 9],
      'centred 140': [3, 14, 9],
    });
    expect(ways[0]!.off).to.equal(0);
    expect(
      rowsFor({ setup: 3, repeat: 16, closing: 1 }, 50).map(({ kind, rows, ends }) => [kind, rows, ends]),
    ).to.deep.equal([
      ['part', 140, 11],
      ['whole', 132, 19],
      ['whole', 148, 19],
    ]);
  });

  it('is that of its rows, which work as told and end where they say', () => {
    const anyRows = fc.record({
      setup: fc.nat(5),
      repeat: fc.integer({ min: 1, max: 24 }),
      closing: fc.nat(5),
    });
    fc.assert(
      fc.property(
        anyRows,
        fc.integer({ min: 1, max: 90 }),
        fc.constantFrom(...allWays()),
        (rows, cm, way) => {
          const ways = rowsFor(rows, cm, way);
          for (const { kind, begins, ends, passes, rows: high, length, off } of ways) {
            expect(length).to.equal(Math.round((high * OVER.cm) / 28));
            expect(off).to.equal(length - lengthOf(cm, 'cm'));
            const at = (row: number) =>
              panelRowAt({ rows, start: 1, begins, side: null, crossed: [] }, row, high);
            expect(at(1)).to.equal(begins);
            expect(at(high - rows.closing)).to.equal(ends);
            const begun = Array.from({ length: high - rows.closing }, (_, i) => at(i + 1)).filter(
              (row, i) => row === rows.setup + 1 || (i === 0 && row! > rows.setup),
            );
            expect(passes).to.equal(begun.length);
            if (kind === 'whole') expect(ends).to.equal(rows.setup + rows.repeat);
            if (kind === 'centred') {
              expect(begins - 1).to.equal(rows.repeat - ends);
              expect((begins - 1) % way.rowsToSameSide).to.equal(0);
            }
          }
          // No number of rows lies nearer than the nearest.
          const least = rows.setup + rows.closing + 1;
          const nearest = Math.max(least, Math.round(cm * 2.8));
          expect(Math.abs(ways[0]!.rows - nearest)).to.be.at.most(ways[0]!.kind === 'whole' ? 0 : 1);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('begins and ends alike by where it is crossed: as many rows before the first crossing as after the last', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 32 }).chain((repeat) =>
          fc.record({
            repeat: fc.constant(repeat),
            crossed: fc.uniqueArray(fc.integer({ min: 1, max: repeat }), { minLength: 1, maxLength: 5 }),
          }),
        ),
        fc.integer({ min: 2, max: 90 }),
        fc.constantFrom(...allWays()),
        ({ repeat, crossed }, cm, way) => {
          const rows = { setup: 0, repeat, closing: 0 };
          const found = lengthWays(rows, gauge, lengthOf(cm, 'cm'), way, crossed).find(
            ({ kind }) => kind === 'centred',
          );
          if (!found) return;
          const up = { rows, start: 1, begins: found.begins, side: null, crossed };
          const isCrossed = Array.from({ length: found.rows }, (_, i) =>
            crossed.includes(panelRowAt(up, i + 1, found.rows)!),
          );
          expect(isCrossed.indexOf(true)).to.be.at.least(0);
          expect(isCrossed.indexOf(true)).to.equal(isCrossed.length - 1 - isCrossed.lastIndexOf(true));
          expect((found.begins - 1) % way.rowsToSameSide).to.equal(0);
          // Never farther off than a repeat, where there is room for one.
          if (cm * 2.8 > 2 * repeat) expect(Math.abs(found.rows - cm * 2.8)).to.be.at.most(repeat / 2 + 1);
        },
      ),
      { numRuns: 400 },
    );
    // A rope crossed every eight rows: begun on its fifth, so that four rows lie below the first crossing, and four above the last.
    const [best] = lengthWays(
      { setup: 0, repeat: 8, closing: 0 },
      gauge,
      lengthOf(20, 'cm'),
      FLAT,
      [1],
    ).filter(({ kind }) => kind === 'centred');
    expect(best).to.include({ begins: 5, rows: 57 });
  });
});
