import { expect } from 'chai';
import {
  checkChart,
  closedRopesHeight,
  convertClosedRopes,
  crossing,
  drawClosedRopes,
  EditError,
  placeStitches,
  SettingsSchema,
  simpleCrossing,
  slipBelow,
  startChart,
  workChart,
  writeAndProve,
  type Chart,
  type ClosedRopes,
  type ClosedSchool,
} from '../src/index.js';

const cloth = (columns = 13, rows = 40): Chart =>
  startChart({ columns, rows, construction: 'flat', ground: 'p' });
const ring = (over: Partial<ClosedRopes> = {}): ClosedRopes => ({
  row: 2,
  column: 6,
  school: 'between',
  lean: 'left',
  spread: 2,
  rest: 1,
  ...over,
});
const counts = (c: Chart) => workChart(c).map((w) => w.makes);
const errors = (c: Chart) => checkChart(c).filter((f) => f.level === 'error');
const settings = SettingsSchema.parse({});

describe('closed ropes', () => {
  // The two schools' openings and endings: common practice, no source.
  for (const school of ['between', 'within'] as ClosedSchool[])
    for (const construction of ['flat', 'round'] as const)
      for (const [spread, rest] of [
        [0, 0],
        [0, 1],
        [1, 0],
        [3, 2],
      ] as const)
        it(`${school} stitches, ${construction}, parting by ${spread}: end with the count they began with, and are written and proved`, () => {
          const drawn = drawClosedRopes({ ...cloth(), construction }, ring({ school, spread, rest })).chart;
          const made = counts(drawn);
          expect([made[0], made.at(-1)]).to.deep.equal([13, 13]);
          expect(Math.max(...made)).to.equal(17);
          expect(errors(drawn)).to.deep.equal([]);
          expect(writeAndProve(drawn, settings)).to.include({ checked: true });
          expect(drawn.width).to.equal(17);
        });

  it('rise between stitches over three rows, 0 → 2 → 4, and end over two', () => {
    const drawn = drawClosedRopes(cloth(), ring()).chart;
    expect(counts(drawn).slice(1, 6)).to.deep.equal([13, 15, 15, 17, 17]);
    const end = 2 + closedRopesHeight(ring()) - 1;
    expect(counts(drawn).slice(end - 2, end + 1)).to.deep.equal([17, 15, 13]);
    expect(drawn.rows[6]).to.deep.include(simpleCrossing('left', 2, 2));
  });

  it('rise within a stitch in one row, 1 → 5, with a centre where they meet', () => {
    const figure = ring({ school: 'within' });
    const drawn = drawClosedRopes(cloth(), figure).chart;
    expect(counts(drawn).slice(1, 4)).to.deep.equal([13, 17, 17]);
    expect(drawn.rows[4]).to.deep.include(crossing('left', ['k', 'k'], ['k', 'k'], ['p']));
  });

  for (const school of ['between', 'within'] as ClosedSchool[])
    it(`drawn ${school}, are converted and back again to the very same chart`, () => {
      const drawn = drawClosedRopes(
        { ...cloth(), across: { before: 0, after: 0, times: 2, least: 1 } },
        ring({ row: 4, school }),
      ).chart;
      const { chart, said } = convertClosedRopes(drawn, 10, 8);
      expect(chart.width).to.equal(school === 'between' ? 18 : 16);
      expect(said).to.contain(school === 'between' ? 'one stitch wider' : 'one stitch narrower');
      expect(errors(chart)).to.deep.equal([]);
      expect(new Set([counts(chart)[0], counts(chart).at(-1)])).to.deep.equal(
        new Set([school === 'between' ? 14 : 12]),
      );
      expect(writeAndProve(chart, settings)).to.include({ checked: true });
      expect(convertClosedRopes(chart, 10, 8).chart).to.deep.equal(drawn);
    });

  it('get the rows that the other school needs', () => {
    const figure = ring({ row: 0, school: 'within' });
    const tight = drawClosedRopes(cloth(13, closedRopesHeight(figure)), figure).chart;
    const { chart, said } = convertClosedRopes(tight, 5, 8);
    expect(chart.rows.length).to.equal(tight.rows.length + 5);
    expect(said).to.contain('5 rows were added');
    expect(errors(chart)).to.deep.equal([]);
    expect(counts(chart).at(-1)).to.equal(12);
  });

  it('are not lifted where no row lies below, and rest in rows added beside crossings and bobbles', () => {
    expect(() => drawClosedRopes(cloth(), ring({ row: 0, school: 'between' }))).to.throw(
      EditError,
      'row 1 has none',
    );
    const figure = ring({ row: 0, school: 'within' });
    const tight = drawClosedRopes(cloth(17, closedRopesHeight(figure)), figure).chart;
    const top = tight.rows.length - 1;
    const beside = tight.rows.with(top, [crossing('left', ['k'], ['p']), ...tight.rows[top]!.slice(2)]);
    const bobbled = { ...tight, rows: beside.with(0, ['mb', ...tight.rows[0]!.slice(1)]) };
    const { chart } = convertClosedRopes(bobbled, 5, 8);
    expect(chart.rows[0]![0]).to.equal('k');
    // After a left crossing its back group lies at the right.
    expect(chart.rows.at(-1)!.slice(0, 2)).to.deep.equal(['p', 'k']);
  });

  it('stand beside each other in one chart and are converted one at a time', () => {
    const two = drawClosedRopes(
      drawClosedRopes(cloth(24), ring({ column: 18, school: 'within' })).chart,
      ring({ column: 5 }),
    ).chart;
    expect(errors(two)).to.deep.equal([]);
    const { chart } = convertClosedRopes(two, 8, 7);
    expect(errors(chart)).to.deep.equal([]);
    expect(chart.rows.flat().filter((s) => s === 'kyokyok')).to.have.length(2);
  });

  for (const [what, act, why] of [
    [
      'on a wrong-side row',
      () => drawClosedRopes(cloth(), ring({ row: 1 })).chart,
      'begin on a right-side row',
    ],
    [
      'too near the edge',
      () => drawClosedRopes(cloth(), ring({ column: 1 })).chart,
      'needs 3 purl stitches on each side',
    ],
    [
      'too near the top',
      () => drawClosedRopes(cloth(13, 10), ring()).chart,
      'rows high; from row 3 there are 8',
    ],
    [
      'over other stitches',
      () => drawClosedRopes(placeStitches(cloth(), 7, 6, ['k']).chart, ring()).chart,
      'row 8 has something else in column 7',
    ],
    [
      'across a crossing elsewhere',
      () => drawClosedRopes(placeStitches(cloth(), 0, 5, [simpleCrossing('left', 2, 2)]).chart, ring()).chart,
      'Row 1 works one stitch across',
    ],
    ['wider than ropes part', () => drawClosedRopes(cloth(), ring({ spread: 9 })).chart, 'up to eight'],
    ['where there is none to convert', () => convertClosedRopes(cloth(), 3, 3), 'No closed ropes were found'],
  ] as const)
    it(`say why they cannot be drawn ${what}`, () => {
      expect(act).to.throw(EditError, why);
    });
});

describe('slipped ropes', () => {
  const rope = placeStitches(
    ['p', 'k', 'k', 'k', 'k', 'p'].reduce(
      (c, _, r) => placeStitches(c, r, 1, ['k', 'k', 'k', 'k']).chart,
      cloth(6, 6),
    ),
    4,
    1,
    [simpleCrossing('right', 2, 2)],
  ).chart;

  it('slip the front stitches on one row more below their crossing each time', () => {
    const once = slipBelow(rope, 4, 3).chart;
    expect(once.rows[3]).to.deep.equal(['p', 'k', 'k', 'slyb', 'slyb', 'p']);
    const twice = slipBelow(once, 4, 3).chart;
    expect(twice.rows[2]).to.deep.equal(['p', 'k', 'k', 'slyb', 'slyb', 'p']);
    expect(errors(twice)).to.deep.equal([]);
    expect(writeAndProve(twice, settings).rows[3]!.words).to.equal('k1, sl 2 wyif, p2, k1');
  });

  it('are told when the same loops are slipped over many rows', () => {
    const long = Array.from({ length: 6 }).reduce<Chart>((c) => slipBelow(c, 9, 3).chart, {
      ...rope,
      rows: [...Array(9).fill(rope.rows[0]), rope.rows[4]!, rope.rows[5]!],
    });
    expect(checkChart(long).map((f) => f.id)).to.include('long-slip');
  });

  it('refuse where there is no crossing or no plain rope below it', () => {
    expect(() => slipBelow(rope, 0, 1).chart).to.throw(EditError, 'Put the cursor on a crossing');
    const bottom = Array.from({ length: 4 }).reduce<Chart>((c) => slipBelow(c, 4, 3).chart, rope);
    expect(() => slipBelow(bottom, 4, 3).chart).to.throw(EditError, 'no row left');
    expect(() => slipBelow(placeStitches(rope, 3, 3, ['p']).chart, 4, 3).chart).to.throw(
      EditError,
      'Row 4 does not knit',
    );
  });
});
