import { expect } from 'chai';
import {
  acceptPlace,
  checkChart,
  ChartSchema,
  crossingId,
  CUSTOMS,
  deleteRows,
  findingsText,
  grouped,
  insertColumns,
  insertRows,
  meantKey,
  RulesSchema,
  simpleCrossing,
  takeBackPlaces,
  unmeant,
  type Stitch,
} from '../src/index.js';
import { USUAL_RULES } from '../src/chart/rules.js';
import { L, R, k, chart, panels, put, found, twist, plain8, narrow, p } from './panels.js';

describe('what is meant so', () => {
  const wrong = twist('LLRLL');
  const [finding] = found(wrong, 'over-under-broken');
  const place = { check: finding!.id, row: 10, column: 2, reason: 'it is a bud' };

  it('is accepted at a place, with its reason, and moves with the rows and columns', () => {
    const meant = acceptPlace(wrong, 'one', place).chart;
    expect(unmeant(checkChart(meant))).to.deep.equal([]);
    expect(checkChart(meant).map((f) => f.meant)).to.deep.equal(['it is a bud']);
    const moved = insertColumns(insertRows(meant, 0, [plain8, plain8]).chart, 0, 1).chart;
    expect(moved.meant.one).to.deep.include({ row: 12, column: 3 });
    expect(unmeant(checkChart(moved)).filter((f) => f.id === place.check)).to.deep.equal([]);
    const gone = deleteRows(meant, 10, 1);
    expect(gone.chart.meant).to.deep.equal({});
    expect(takeBackPlaces(meant, place.check, 10, 2).chart.meant).to.deep.equal({});
    expect(takeBackPlaces(meant, place.check, 9, 2).chart.meant).to.deep.equal(meant.meant);
  });

  it('is accepted for one crossing, or throughout', () => {
    const ofCrossing = { meant: { [meantKey(finding!.id, crossingId(R))]: 'always so' } };
    expect(unmeant(checkChart(wrong, ofCrossing))).to.deep.equal([]);
    const ofOther = { meant: { [meantKey(finding!.id, crossingId(L))]: 'always so' } };
    expect(unmeant(checkChart(wrong, ofOther)).map((f) => f.row)).to.deep.equal([11]);
    expect(unmeant(checkChart(wrong, { meant: { [finding!.id]: 'a free hand' } }))).to.deep.equal([]);
  });

  it('is never an error', () => {
    const short = ChartSchema.parse({ width: 3, rows: [k(3), k(2)] });
    expect(unmeant(checkChart(short, { meant: { 'row-short': 'so' } })).map((f) => f.id)).to.deep.equal([
      'row-short',
    ]);
  });

  it('leaves meant crossings as they lie, and turns the fewest others', () => {
    const two = twist('LLRLRLLL');
    const meant = acceptPlace(two, 'one', place).chart;
    expect(unmeant(checkChart(meant)).map((f) => f.row)).to.deep.equal([19]);
  });
});

describe('the lines of custom', () => {
  it('are what is usual until they are set', () => {
    for (const [name, { usual }] of Object.entries(CUSTOMS))
      expect(USUAL_RULES[name as keyof typeof USUAL_RULES]).to.equal(usual);
    expect(() => RulesSchema.parse({ mostHeld: 0 })).to.throw();
    expect(() => RulesSchema.parse({ mostHeld: 2.5 })).to.throw();
  });

  const wide = chart([k(14), [...k(2), simpleCrossing('left', 5, 5), ...k(2)]]);
  for (const [what, c, id, rules] of [
    ['stitches in a crossing', wide, 'wide-crossing', { mostCrossed: 10, mostHeld: 5 }],
    ['purls beside a rope', narrow(1), 'narrow-gutter', { purlsBeside: 1 }],
    [
      'rows before a rope crosses again',
      chart(put(panels(6, 'LL'), 4, [...p(2), L, ...p(2)])),
      'crossed-again',
      { rowsBeforeAgain: 1 },
    ],
    [
      'a float',
      chart([k(8), ['k', ...Array<Stitch>(6).fill('slyb'), 'k']]),
      'long-float',
      { longestFloat: 6 },
    ],
    [
      'rows slipped running',
      chart([k(3), ...Array<Stitch[]>(5).fill(['k', 'slyb', 'k'])]),
      'long-slip',
      { mostSlipped: 5 },
    ],
    ['the share that is a slip', twist('LLR'), 'over-under-broken', { shareAstray: 4 }],
  ] as const)
    it(`move: ${what}`, () => {
      const ids = (r?: object) => checkChart(c, r ? { rules: RulesSchema.parse(r) } : {}).map((f) => f.id);
      expect(ids()).to.include(id);
      expect(ids(rules)).to.not.include(id);
    });
});

describe('findings together', () => {
  it('stand by check, and are copied as text for the editor', () => {
    const c = acceptPlace(chart(panels(4, 'LLRLL', 'LLRLL')), 'one', {
      check: 'over-under-broken',
      row: 10,
      column: 2,
      reason: 'a bud',
    }).chart;
    const findings = checkChart(c);
    expect(grouped(findings).map((g) => `${g.title} ${g.findings.length}`)).to.deep.equal([
      'Over-under broken 2',
    ]);
    expect(findingsText('Scarf', findings)).to.equal(
      [
        'Scarf: 1 finding',
        '',
        'Over-under broken (caution)',
        '- Row 11: the crossing in columns 9–12 lies the wrong way over: elsewhere its ropes go over and under in turn.',
        '',
        'Meant so:',
        '',
        'Over-under broken (caution)',
        '- Row 11: the crossing in columns 3–6 lies the wrong way over: elsewhere its ropes go over and under in turn. Meant: a bud',
        '',
      ].join('\n'),
    );
  });
});
