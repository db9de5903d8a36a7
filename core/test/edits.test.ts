import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyChange,
  bookOf,
  changeOf,
  ChartSchema,
  copyBlock,
  deleteColumns,
  deleteRows,
  DocumentError,
  EditError,
  groundRow,
  headChange,
  insertColumns,
  insertRows,
  invertSteps,
  mirrorBlock,
  placeStitches,
  readDesign,
  replaceEverywhere,
  rowFacts,
  setAcross,
  setUp,
  simpleCrossing,
  startChart,
  startDesign,
  StepMisfit,
  stitchUse,
  withRow,
  type Change,
  type Edit,
  type Step,
  type Stitch,
} from '../src/index.js';
import { applySteps } from '../src/chart/steps.js';
import { fillBlock, mirrorChart, pasteRows } from '../src/chart/edits.js';
import { anyChart, anyEdit } from './arbitrary.js';

const P = (text: string): Stitch[] => [...text];
const L22 = simpleCrossing('left', 2, 2);
const cloth = startChart({ columns: 8, rows: 4, construction: 'flat', ground: 'p' });
const ID = '00000000-0000-4000-8000-000000000001';

describe('edits of a chart', () => {
  it('set stitches leftwards from a column, and cut what they cover into plain ones', () => {
    const crossed = placeStitches(cloth, 1, 2, [L22]).chart;
    expect(crossed.rows[1]).to.deep.equal(['p', 'p', L22, 'p', 'p']);
    expect(placeStitches(crossed, 1, 4, ['p']).chart.rows[1]).to.deep.equal(P('ppkkpkpp'));
    expect(placeStitches(crossed, 1, 1, ['k', 'k']).chart.rows[1]).to.deep.equal(P('pkkkkkpp'));
    expect(crossed.rows[0], 'other rows are shared').to.equal(cloth.rows[0]);
  });

  it('let gaps slide beside a crossing that is set over them', () => {
    const gap = placeStitches(cloth, 0, 3, ['none']).chart;
    expect(placeStitches(gap, 0, 2, [L22]).chart.rows[0]).to.deep.equal(['p', 'p', L22, 'none', 'p']);
    expect(() => placeStitches(gap, 0, 5, [L22])).to.throw(EditError, '4 columns are needed');
  });

  for (const [what, act, why] of [
    ['a crossing wider than the row', () => placeStitches(cloth, 0, 6, [L22]).chart, '4 columns are needed'],
    [
      'a cut through an increase',
      () => placeStitches(placeStitches(cloth, 0, 2, ['kyok']).chart, 0, 3, ['k']).chart,
      'cut through a three out of one',
    ],
    ['the last row away', () => deleteRows(cloth, 0, 4).chart, 'keeps at least one row'],
    ['the last column away', () => deleteColumns(cloth, 0, 8).chart, 'keeps at least one column'],
    [
      'a repeat of nothing',
      () => setAcross(cloth, { before: 4, after: 4, times: 1, least: 1 }).chart,
      'nothing to repeat',
    ],
    [
      'fewer repeats than the least',
      () => setAcross(cloth, { before: 0, after: 0, times: 1, least: 2 }).chart,
      'at least 2',
    ],
    [
      'a repeat up of nothing',
      () => setUp(cloth, { setup: 2, closing: 2, times: 1 }).chart,
      'nothing to repeat',
    ],
    [
      'a fill that does not fit',
      () => fillBlock(cloth, { columns: { from: 0, to: 2 }, rows: { from: 0, to: 0 } }, L22).chart,
      'needs 4 columns',
    ],
    [
      'stitches of two sizes exchanged',
      () => replaceEverywhere(cloth, 'p', L22).chart,
      'only stitches of one size',
    ],
    [
      'more rows than a chart holds',
      () => insertRows(cloth, 0, Array(1200).fill(groundRow(cloth))).chart,
      'at most 1200',
    ],
    ['more columns than a chart holds', () => insertColumns(cloth, 0, 600).chart, 'at most 600'],
  ] as const)
    it(`refuse ${what}`, () => {
      expect(act).to.throw(EditError, why);
    });

  it('copy, paste and mirror blocks', () => {
    const block = { columns: { from: 0, to: 3 }, rows: { from: 0, to: 1 } };
    const drawn = placeStitches(placeStitches(cloth, 0, 0, P('kkpk')).chart, 1, 0, [
      simpleCrossing('left', 2, 1),
      'k2tog',
    ]).chart;
    expect(copyBlock(drawn, block)).to.deep.equal([P('kkpk'), [simpleCrossing('left', 2, 1), 'k2tog']]);
    const mirrored = mirrorBlock(drawn, block).chart;
    expect(mirrored.rows[1]!.slice(0, 2)).to.deep.equal(['ssk', simpleCrossing('right', 2, 1)]);
    const pasted = pasteRows(cloth, 2, 6, copyBlock(drawn, block)).chart;
    expect(pasted.rows[2], 'what reaches beyond the chart is left off').to.deep.equal(P('ppppppkk'));
    expect(mirrorChart(mirrorChart(drawn)).rows).to.deep.equal(drawn.rows);
  });

  it('move the repeat along when rows and columns come and go', () => {
    const framed = setUp(setAcross(cloth, { before: 2, after: 1, times: 3, least: 1 }).chart, {
      setup: 1,
      closing: 1,
      times: 2,
    }).chart;
    expect(insertColumns(framed, 1, 2).chart.across).to.include({ before: 4, after: 1 });
    expect(insertColumns(framed, 8, 1).chart.across).to.include({ before: 2, after: 2 });
    expect(insertColumns(framed, 4, 1).chart.across).to.include({ before: 2, after: 1 });
    expect(deleteColumns(framed, 0, 3).chart.across).to.include({ before: 0, after: 1 });
    expect(deleteColumns(framed, 2, 5).chart.across).to.equal(null);
    expect(insertRows(framed, 1, [groundRow(cloth)]).chart.up).to.include({ setup: 2, closing: 1 });
    expect(insertRows(framed, 2, [groundRow(cloth)]).chart.up).to.include({ setup: 1, closing: 1 });
    expect(deleteRows(framed, 0, 1).chart.up).to.include({ setup: 0, closing: 1 });
    expect(deleteRows(framed, 1, 2).chart.up).to.equal(null);
  });

  it('replace all of one kind by another and count what is used', () => {
    const drawn = fillBlock(cloth, { columns: { from: 0, to: 7 }, rows: { from: 0, to: 0 } }, L22).chart;
    const turned = replaceEverywhere(drawn, L22, simpleCrossing('right', 2, 2)).chart;
    expect(stitchUse(turned)).to.deep.equal([
      { stitch: 'p', count: 24 },
      { stitch: simpleCrossing('right', 2, 2), count: 2 },
    ]);
  });
});

const made = (edit: Edit): Change => changeOf(edit, 'edit', ID)!;

describe('changes', () => {
  it('keep every row filling its columns, and their inverse leads back', () => {
    fc.assert(
      fc.property(anyChart(), fc.array(anyEdit, { maxLength: 12 }), (chart, edits) => {
        let design = startDesign(ID, 'test', chart);
        const begun = design;
        const done: Step[] = [];
        for (const act of edits) {
          const { steps, chart: now } = act(design.charts[0]!);
          design = applySteps(design, steps);
          done.push(...steps);
          expect(design.charts[0], 'the steps lead where the edit leads').to.deep.equal(now);
          for (const row of now.rows) {
            // The count law of an edit: every stitch set takes what it makes here, so a row's loops are its columns.
            const { span, takes, makes } = rowFacts(row, bookOf(now));
            expect([span, takes, makes]).to.deep.equal([now.width, now.width, now.width]);
          }
          ChartSchema.parse(JSON.parse(JSON.stringify(now)));
        }
        const back = applySteps(design, invertSteps(done));
        expect(back).to.deep.equal(begun);
        expect(applySteps(back, done)).to.deep.equal(design);
      }),
      { numRuns: 200 },
    );
  });

  it('hold only what differs, cell by cell', () => {
    const design = startDesign(ID, 'test', cloth);
    const { steps } = withRow(cloth, 2, P('kppppkkp'));
    expect(steps.map((s) => s.kind === 'cells' && [s.row, s.column, s.now.length])).to.deep.equal([
      [2, 0, 1],
      [2, 5, 2],
    ]);
    expect(changeOf(withRow(cloth, 2, [...cloth.rows[2]!]), 'nothing', ID)).to.equal(null);
    expect(headChange(design, { title: 'test' }, 'nothing', ID)).to.equal(null);
    const named = headChange(design, { settings: { ...design.settings, names: { a: 'b' } } }, 'name', ID)!;
    expect(named.steps).to.deep.equal([{ kind: 'set', path: ['settings', 'names', 'a'], now: 'b' }]);
  });

  it('do not fit a document that has moved on, and fit one that moved on elsewhere', () => {
    const design = startDesign(ID, 'test', cloth);
    const mine = made(placeStitches(cloth, 2, 0, ['k']));
    const sameCell = applyChange(design, made(placeStitches(cloth, 2, 0, ['ktbl'])));
    const sameRow = applyChange(design, made(placeStitches(cloth, 2, 5, ['k'])));
    expect(() => applyChange(sameCell, mine)).to.throw(StepMisfit, 'Row 3 has changed');
    expect(applyChange(sameRow, mine).charts[0]!.rows[2]).to.deep.equal(P('kppppkpp'));
    const renamed = headChange(design, { title: 'ours' }, 'rename', ID)!;
    expect(() => applyChange({ ...design, title: 'theirs' }, renamed)).to.throw(StepMisfit);
  });

  for (const [what, step, why] of [
    ['a width of 601', insertedColumns(593), '1 to 600 columns'],
    [
      '9999 repeats',
      {
        kind: 'set',
        path: ['charts', 'chart', 'across'],
        was: null,
        now: { before: 0, after: 0, times: 9999, least: 1 },
      },
      'At most 500',
    ],
    [
      'a stitch nobody knows',
      { kind: 'cells', chart: 'chart', row: 0, column: 0, was: ['p'], now: ['wobble'] },
      'unknown kind',
    ],
    ['a title of nothing', { kind: 'set', path: ['title'], was: 'test', now: '  ' }, 'needs a title'],
    [
      'a school there is not',
      { kind: 'set', path: ['settings', 'school'], was: 'front-back', now: 'ours' },
      '',
    ],
    ['a field there is not', { kind: 'set', path: ['colour'], now: 'red' }, 'has no "colour"'],
    [
      'a chart there is not',
      { kind: 'set', path: ['charts', 'other', 'name'], was: '', now: 'x' },
      'no longer in the design',
    ],
    [
      'the width by itself',
      { kind: 'set', path: ['charts', 'chart', 'width'], was: 8, now: 9 },
      'has no "width"',
    ],
    ['the last chart away', { kind: 'charts', done: 'out', at: 0, charts: [cloth] }, '1 to 60 charts'],
  ] as [string, Step, string][])
    it(`are refused where they would make ${what}`, () => {
      expect(() => applySteps(startDesign(ID, 'test', cloth), [step])).to.throw(StepMisfit, why);
    });
});

function insertedColumns(count: number): Step {
  const cells = cloth.rows.map(() => Array<Stitch>(count).fill('p'));
  return {
    kind: 'columns',
    done: 'in',
    chart: 'chart',
    at: 0,
    count,
    wide: 8,
    cells,
    short: false,
    outside: [0, 0],
  };
}

describe('reading a document', () => {
  const good = JSON.parse(JSON.stringify(startDesign(ID, 'test', placeStitches(cloth, 0, 0, [L22]).chart)));

  it('gives back what was written, crossings shared', () => {
    const design = readDesign(good);
    expect(design.charts[0]!.rows[0]![0]).to.equal(L22);
    expect(JSON.parse(JSON.stringify(design))).to.deep.equal(good);
  });

  const chartOf = (over: object) => ({ ...good, charts: [{ ...good.charts[0], ...over }] });
  for (const [what, value, path, why] of [
    ['not an object', 'nonsense', 'format', 'not a Cordelina design'],
    ['of a newer format', { ...good, format: 99 }, 'format', 'format 99'],
    ['without a title', { ...good, title: ' ' }, 'title', ''],
    [
      'with an unknown stitch',
      chartOf({ rows: [['k', 'wobble']] }),
      'charts.0.rows.0.1',
      'unknown kind, "wobble"',
    ],
    [
      'with a crossing of nothing',
      chartOf({ rows: [[{ lean: 'left', front: [], back: ['k'] }]] }),
      'charts.0.rows.0.0',
      '',
    ],
    [
      'with a repeat wider than the chart',
      chartOf({ across: { before: 5, after: 5, times: 1 } }),
      'charts.0.across',
      'nothing to repeat',
    ],
    ['with fields nobody knows', chartOf({ colour: 'red' }), 'charts.0', ''],
  ] as const)
    it(`refuses one ${what}, and says where`, () => {
      let refused: unknown;
      try {
        readDesign(value);
      } catch (error) {
        refused = error;
      }
      expect(refused).to.be.instanceOf(DocumentError);
      expect((refused as DocumentError).path).to.equal(path);
      expect((refused as DocumentError).message).to.contain(why);
    });
});
