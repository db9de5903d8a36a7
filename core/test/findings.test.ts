import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyChange,
  checkChart,
  ChartSchema,
  crossing,
  placeStitches,
  plaitsOf,
  plaitText,
  ropesLayer,
  setPart,
  simpleCrossing,
  startDesign,
  turnOver,
  type Chart,
  type Finding,
  type Stitch,
} from '../src/index.js';
import { anyChart, anyCrossing, THOROUGH } from './arbitrary.js';
import { L, R, k, p, chart, panels, put, found, places, twist, plain8, narrow } from './panels.js';

/** A check, charts that trip it, with the places it names, and near misses that must not. */
interface Case {
  id: string;
  rule: string;
  trips: [name: string, chart: Chart, places: string[]][];
  passes: [name: string, chart: Chart][];
}

const CASES: Case[] = [
  {
    id: 'over-under-broken',
    rule: 'in an interlace each rope goes over and under (domain knowledge of the craft; common practice, no source)',
    trips: [
      ['one crossing of a rope turned', twist('LLRLL'), ['11:3-6']],
      ['the last of three', twist('LLR'), ['11:3-6']],
      ['one of a plait', turnOver(chart(plaitRows(6)), [{ row: 10, column: 2 }]).chart, ['11:3-6']],
      ['one of a wave, where the same rope stays on top elsewhere', twist('LRLRRR'), ['19:3-6']],
      ['a cell of a honeycomb', chart(panels(4, 'LRLRLLLR'.replace('LLL', 'LRL'), 'LRLRRRLR')), ['19:9-12']],
      [
        'over the line of the repeat up',
        chart(panels(4, 'LRL'), { up: { setup: 0, closing: 0, times: 4 } }),
        ['7:3-6'],
      ],
    ],
    passes: [
      ['a rope', twist('LLLL')],
      ['a wave', twist('LRLR')],
      ['two that change their way', twist('LLRR')],
      ['three that change their way', twist('LLLRRR')],
      ['a wave that turns about', twist('LRLRRLRL')],
      ['a rope and its mirror image', chart(panels(4, 'LLLL', 'RRRR'))],
      ['a plait', chart(plaitRows(6))],
    ],
  },
  {
    id: 'rope-purled',
    rule: 'a rope is knit from its first crossing to its last',
    trips: [
      [
        'one stitch, one row',
        chart(put(panels(6, 'LL'), 4, [...p(2), 'k', 'p', 'k', 'k', ...p(2)])),
        ['5:4-4'],
      ],
      ['all of it, between two crossings', chart(put(panels(6, 'LL'), 5, p(8))), ['6:3-6']],
      [
        'a purl crossing laid over two ropes',
        chart(put(panels(4, 'LLL'), 10, [...p(2), simpleCrossing('right', 2, 2, 'p'), ...p(2)])),
        ['11:3-6'],
      ],
      [
        'knit columns that have not crossed yet',
        chart([plain8, plain8, [...p(2), simpleCrossing('left', 2, 2, 'p'), ...p(2)], plain8]),
        ['3:3-6'],
      ],
    ],
    passes: [
      [
        'a rope that travels over purls',
        chart([
          [...p(4), ...k(2), ...p(4)],
          [...p(4), ...k(2), ...p(4)],
          [...p(4), simpleCrossing('left', 2, 1, 'p'), ...p(3)],
        ]),
      ],
      ['a garter border above the last crossing', chart([...panels(4, 'LL'), p(8), k(8), p(8), k(8)])],
      ['a rope that ends in the ground', chart([...panels(4, 'LL'), p(8), p(8)])],
      [
        'one that begins anew higher up',
        chart([...panels(4, 'LL'), ...Array<Stitch[]>(6).fill(p(8)), ...panels(8, 'LL')]),
      ],
    ],
  },
  {
    id: 'rope-split',
    rule: 'strands that always move together are one rope',
    trips: [
      ['a crossing a column too far', chart(put(panels(4, 'LL'), 6, [...p(3), L, 'p'])), ['7:4-7']],
      [
        'one inside a rope',
        chart(put(panels(4, 'LLL'), 6, [...p(2), 'k', simpleCrossing('left', 1, 1), 'k', ...p(2)])),
        ['7:4-5'],
      ],
    ],
    passes: [
      ['a plait', chart(plaitRows(6))],
      [
        'a single stitch across the middle before anything has crossed',
        chart([plain8, plain8, [...p(2), 'k', simpleCrossing('left', 1, 1), 'k', ...p(2)]]),
      ],
    ],
  },
  {
    id: 'crossed-again',
    rule: 'the same loops crossed again in the next row but one or sooner (common practice, no source)',
    trips: [['after two rows', chart(put(panels(6, 'LL'), 4, [...p(2), L, ...p(2)])), ['5:3-6']]],
    passes: [
      ['after four', twist('LLL')],
      [
        'twists of single stitches every second row',
        chart([0, 1, 0, 1, 0].map((i) => [...p(2), ...(i ? [simpleCrossing('left', 1, 1)] : k(2)), ...p(2)])),
      ],
      ['other ropes of a plait two rows higher', chart(plaitRows(6, 2))],
    ],
  },
  {
    id: 'mirror-broken',
    rule: 'in a symmetrical panel crossings at mirror columns lean opposite ways',
    trips: [
      ['one of four pairs', chart(panels(4, 'LLLL', 'RRLR')), ['11:9-12']],
      [
        'a horseshoe turned once',
        chart(
          [...'....'].flatMap((_, i) => [
            [...p(2), ...k(8), ...p(2)],
            [...p(2), ...k(8), ...p(2)],
            [...p(2), i === 1 ? L : R, L, ...p(2)],
            [...p(2), ...k(8), ...p(2)],
          ]),
        ),
        ['7:3-6'],
      ],
      [
        'where a half turn is set',
        chart(panels(4, 'LLL', 'LRL'), { mirror: { axis: 14, turn: 13 } }),
        ['7:9-12'],
      ],
      ['where a mirror line is set', chart(panels(4, 'LL', 'RL'), { mirror: { axis: 14 } }), ['7:9-12']],
    ],
    passes: [
      ['mirror images', chart(panels(4, 'LLLL', 'RRRR'))],
      ['two ropes alike', chart(panels(4, 'LLLL', 'LLLL'))],
      ['a woven row, where all lean alike', chart(plaitRows(4))],
    ],
  },
  {
    id: 'irregular-rhythm',
    rule: 'irregular spacing on one rope is usually a slip of the pencil (common practice, no source)',
    trips: [
      [
        'one crossing two rows late',
        chart(put(put(panels(6, 'LLLLLL'), 14, plain8), 16, [...p(2), L, ...p(2)])),
        ['17:3-6'],
      ],
      [
        'one distance longer than the others',
        chart([...panels(6, 'LLL'), plain8, plain8, ...panels(6, 'LL')]),
        ['23:3-6'],
      ],
    ],
    passes: [
      ['even', chart(panels(6, 'LLLLL'))],
      [
        'a rest of twice the distance',
        chart([...panels(4, 'LLL'), ...Array<Stitch[]>(4).fill(plain8), ...panels(4, 'LLL')]),
      ],
      ['distances that grow', chart([4, 6, 8, 10].flatMap((gap) => panels(gap, 'L')))],
    ],
  },
  {
    id: 'narrow-gutter',
    rule: 'fewer than two purls beside a rope and it does not stand out (common practice, no source)',
    trips: [['a single purl', narrow(1), ['7:7-7']]],
    passes: [
      ['two purls', narrow(2)],
      ['ropes that cross each other in turn', chart(plaitRows(4))],
      [
        'a knit stitch at the edge, which is no rope',
        chart(panels(4, 'LLL').map((r) => ['k', 'p', ...r.slice(2)] as Stitch[])),
      ],
    ],
  },
  {
    id: 'odd-ribbed-group',
    rule: 'even groups of 2, 4 or 6 look right on both faces (common practice, no source)',
    trips: [['three and three', ribbed(3), ['3:3-8']]],
    passes: [
      ['two and two', ribbed(2)],
      ['four and four', ribbed(4)],
      ['plain groups of three', chart([[...p(2), simpleCrossing('left', 3, 3), ...p(2)]])],
    ],
  },
  {
    id: 'ground-changes-face',
    rule: 'a crossing whose back stitches were purl and are now knit changes the ground',
    trips: [
      [
        'a purl that is knit',
        chart([
          [...p(3), ...k(2), ...p(3)],
          [...p(3), ...k(2), ...p(3)],
          [...p(3), simpleCrossing('left', 2, 1, 'k'), ...p(2)],
        ]),
        ['3:4-6'],
      ],
    ],
    passes: [
      [
        'a purl that stays one',
        chart([
          [...p(3), ...k(2), ...p(3)],
          [...p(3), ...k(2), ...p(3)],
          [...p(3), simpleCrossing('left', 2, 1, 'p'), ...p(2)],
        ]),
      ],
      ['a rope', twist('LL')],
    ],
  },
  {
    id: 'dense-cloth',
    rule: 'a needle one size up and a blocked swatch for dense all-over crossings (common practice, no source)',
    trips: [['crossings all over', chart(dense()), ['undefined:']]],
    passes: [
      ['ropes on a ground', chart(panels(6, 'LLLL', 'RRRR'))],
      ['the same as a panel', setPart(chart(dense()), 'panel').chart],
    ],
  },
  {
    id: 'crossing-at-edge',
    rule: 'a crossing that includes the edge stitch (common practice, no source)',
    trips: [['at the right edge', chart([k(6), [L, 'k', 'k']]), ['2:1-4']]],
    passes: [
      ['in a panel', setPart(chart([k(6), [L, 'k', 'k']]), 'panel').chart],
      ['in the round', chart([k(6), [L, 'k', 'k']], { construction: 'round' })],
    ],
  },
  {
    id: 'wrong-side-crossing',
    rule: 'flat, crossings are kept to right-side rows',
    trips: [['in row 2', chart([plain8, [...p(2), L, ...p(2)], plain8]), ['2:3-6']]],
    passes: [['in row 3', chart([plain8, plain8, [...p(2), L, ...p(2)]])]],
  },
];

function plaitRows(crossings: number, between = 4): Stitch[][] {
  const plain = [...p(2), ...k(6), ...p(2)];
  const crossed = Array.from({ length: crossings }, (_, i) => [
    [...p(2), ...(i % 2 ? [...k(2), R] : [L, ...k(2)]), ...p(2)] as Stitch[],
    ...Array<Stitch[]>(between - 1).fill(plain),
  ]).flat();
  return [plain, plain, ...crossed];
}
function ribbed(n: number): Chart {
  const rib = Array.from({ length: n }, (_, i) => (i % 2 ? 'p' : 'k'));
  const plain = [...p(2), ...rib, ...rib, ...p(2)];
  return chart([plain, plain, [...p(2), crossing('left', rib, rib), ...p(2)]]);
}
function dense(): Stitch[][] {
  return Array.from({ length: 12 }, (_, r) => (r % 4 === 2 ? ['k', L, L, L, L, 'k'] : k(18)));
}

describe('findings of the editor’s eye', () => {
  for (const { id, rule, trips, passes } of CASES)
    describe(`${id}: ${rule}`, () => {
      for (const [name, c, where] of trips)
        it(`is told of ${name}`, () => expect(places(c, id)).to.deep.equal(where));
      for (const [name, c] of passes)
        it(`is not told of ${name}`, () => expect(places(c, id)).to.deep.equal([]));
    });

  it('every mend takes its finding away and adds no error', () => {
    let mended = 0;
    for (const { id, trips } of CASES)
      for (const [, c] of trips)
        for (const finding of found(c, id)) {
          if (!finding.fix) continue;
          const after = applyChange(startDesign('', '', c), finding.fix).charts[0]!;
          const left = checkChart(after);
          expect(
            left.filter((f) => f.id === id && f.row === finding.row),
            finding.message,
          ).to.deep.equal([]);
          expect(left.filter((f) => f.level === 'error')).to.deep.equal([]);
          mended++;
        }
    expect(mended).to.be.greaterThan(15);
  });

  it('mends on random turns of a panel too, until nothing is left', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(7), fc.nat(1)), { maxLength: 2 }), (turns) => {
        const sound = chart(panels(4, 'LLLLLLLL', 'RRRRRRRR'));
        const spoilt = turnOver(
          sound,
          [...new Map(turns.map(([i, side]) => [i, side]))].map(([i, side]) => ({
            row: 4 * i + 2,
            column: side ? 8 : 2,
          })),
        ).chart;
        let now = spoilt;
        for (let i = 0; i < 8; i++) {
          const [first] = checkChart(now).filter((f) => f.fix);
          if (!first) break;
          now = applyChange(startDesign('', '', now), first.fix!).charts[0]!;
        }
        expect(checkChart(now)).to.deep.equal([]);
      }),
      { numRuns: 30 },
    );
  });

  // Cells put in and left out anywhere: charts that nobody could knit, with crossings across lines, edges and gaps.
  const damage = fc.tuple(
    fc.nat(6),
    fc.nat(20),
    fc.oneof(
      anyCrossing(),
      fc.constantFrom<Stitch>('k', 'p', 'yo', 'k2tog', 'kyok', 'none', 'slyb', 'lli', 'k5tog'),
    ),
    fc.boolean(),
  );
  const FILLING = ['row-short', 'row-long'];

  it('come to an end whatever a chart holds, and no mend of a slip makes an error', () => {
    fc.assert(
      fc.property(anyChart(), fc.array(damage, { maxLength: 4 }), (sound, damages) => {
        const rows = sound.rows.map((row) => [...row]);
        for (const [r, i, stitch, isOut] of damages) {
          const row = rows[r % rows.length]!;
          if (isOut) row.splice(i % (row.length + 1), 1);
          else row.splice(i % (row.length + 1), 1, stitch);
        }
        const c = ChartSchema.parse({ ...sound, rows });
        const findings = checkChart(c);
        plaitsOf(c).forEach((one) => plaitText(c, one));
        expect(ropesLayer(c, findings).id).to.equal('ropes');
        const errors = (all: readonly Finding[]) => all.filter((f) => f.level === 'error').length;
        for (const { id, fix } of findings) {
          if (!fix) continue;
          const after = applyChange(startDesign('', '', c), fix).charts[0]!;
          if (!FILLING.includes(id)) expect(errors(checkChart(after)), id).to.be.at.most(errors(findings));
        }
      }),
      { numRuns: 60 * THOROUGH },
    );
  });

  it('tell nothing of ropes above a row that does not come out', () => {
    const short = chart(panels(4, 'LLL'));
    const broken = { ...short, rows: short.rows.with(4, short.rows[4]!.slice(1)) };
    expect(new Set(checkChart(broken).map((f) => f.id))).to.deep.equal(new Set(['row-short']));
  });

  // What is remembered from row to row must be what a chart of its own would be told.
  it('are the same whether a chart was edited into its state or laid down so', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.nat(19),
            fc.nat(7),
            fc.constantFrom<Stitch>('k', 'p', 'ktbl', L, R, simpleCrossing('left', 2, 2, 'p')),
          ),
          {
            maxLength: 10,
          },
        ),
        (edits) => {
          let now = chart(panels(4, 'LLLLL', 'RRRRR'));
          for (const [r, column, stitch] of edits) {
            now = placeStitches(now, r, column, [stitch]).chart;
            checkChart(now);
          }
          expect(checkChart(now)).to.deep.equal(
            checkChart(ChartSchema.parse(JSON.parse(JSON.stringify(now)))),
          );
        },
      ),
      { numRuns: 60 },
    );
  });
});
