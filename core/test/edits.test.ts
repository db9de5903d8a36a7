import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyChange,
  bookOf,
  chartChange,
  ChartSchema,
  copyBlock,
  deleteColumns,
  deleteRows,
  DocumentError,
  EditError,
  fillBlock,
  groundRow,
  headChange,
  insertColumns,
  insertRows,
  invertChange,
  mirrorBlock,
  mirrorChart,
  pasteRows,
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
  type Chart,
  type Stitch,
} from '../src/index.js';
import { anyChart, anyCrossing } from './arbitrary.js';

const P = (text: string): Stitch[] => [...text];
const L22 = simpleCrossing('left', 2, 2);
const cloth = startChart({ columns: 8, rows: 4, construction: 'flat', ground: 'p' });
const ID = '00000000-0000-4000-8000-000000000001';

describe('edits of a chart', () => {
  it('set stitches leftwards from a column, and cut what they cover into plain ones', () => {
    const crossed = placeStitches(cloth, 1, 2, [L22]);
    expect(crossed.rows[1]).to.deep.equal(['p', 'p', L22, 'p', 'p']);
    expect(placeStitches(crossed, 1, 4, ['p']).rows[1]).to.deep.equal(P('ppkkpkpp'));
    expect(placeStitches(crossed, 1, 1, ['k', 'k']).rows[1]).to.deep.equal(P('pkkkkkpp'));
    expect(crossed.rows[0], 'other rows are shared').to.equal(cloth.rows[0]);
  });

  for (const [what, act, why] of [
    ['a crossing wider than the row', () => placeStitches(cloth, 0, 6, [L22]), '4 columns are needed'],
    [
      'a crossing over a gap',
      () => placeStitches(placeStitches(cloth, 0, 3, ['none']), 0, 2, [L22]),
      'cannot reach over a gap',
    ],
    [
      'a cut through an increase',
      () => placeStitches(placeStitches(cloth, 0, 2, ['kyok']), 0, 3, ['k']),
      'cut through a three out of one',
    ],
    ['the last row away', () => deleteRows(cloth, 0, 4), 'keeps at least one row'],
    ['the last column away', () => deleteColumns(cloth, 0, 8), 'keeps at least one column'],
    [
      'a repeat of nothing',
      () => setAcross(cloth, { before: 4, after: 4, times: 1, least: 1 }),
      'nothing to repeat',
    ],
    [
      'fewer repeats than the least',
      () => setAcross(cloth, { before: 0, after: 0, times: 1, least: 2 }),
      'at least 2',
    ],
    ['a repeat up of nothing', () => setUp(cloth, { setup: 2, closing: 2, times: 1 }), 'nothing to repeat'],
    [
      'a fill that does not fit',
      () => fillBlock(cloth, { columns: { from: 0, to: 2 }, rows: { from: 0, to: 0 } }, L22),
      'needs 4 columns',
    ],
    [
      'stitches of two sizes exchanged',
      () => replaceEverywhere(cloth, 'p', L22),
      'only stitches of one size',
    ],
    [
      'more rows than a chart holds',
      () => insertRows(cloth, 0, Array(1200).fill(groundRow(cloth))),
      'at most 1200',
    ],
    ['more columns than a chart holds', () => insertColumns(cloth, 0, 600), 'at most 600'],
  ] as const)
    it(`refuse ${what}`, () => {
      expect(act).to.throw(EditError, why);
    });

  it('copy, paste and mirror blocks', () => {
    const block = { columns: { from: 0, to: 3 }, rows: { from: 0, to: 1 } };
    const drawn = placeStitches(placeStitches(cloth, 0, 0, P('kkpk')), 1, 0, [
      simpleCrossing('left', 2, 1),
      'k2tog',
    ]);
    expect(copyBlock(drawn, block)).to.deep.equal([P('kkpk'), [simpleCrossing('left', 2, 1), 'k2tog']]);
    const mirrored = mirrorBlock(drawn, block);
    expect(mirrored.rows[1]!.slice(0, 2)).to.deep.equal(['ssk', simpleCrossing('right', 2, 1)]);
    const pasted = pasteRows(cloth, 2, 6, copyBlock(drawn, block));
    expect(pasted.rows[2], 'what reaches beyond the chart is left off').to.deep.equal(P('ppppppkk'));
    expect(mirrorChart(mirrorChart(drawn)).rows).to.deep.equal(drawn.rows);
  });

  it('move the repeat along when rows and columns come and go', () => {
    const framed = setUp(setAcross(cloth, { before: 2, after: 1, times: 3, least: 1 }), {
      setup: 1,
      closing: 1,
      times: 2,
    });
    expect(insertColumns(framed, 1, 2).across).to.include({ before: 4, after: 1 });
    expect(insertColumns(framed, 8, 1).across).to.include({ before: 2, after: 2 });
    expect(insertColumns(framed, 4, 1).across).to.include({ before: 2, after: 1 });
    expect(deleteColumns(framed, 0, 3).across).to.include({ before: 0, after: 1 });
    expect(deleteColumns(framed, 2, 5).across).to.equal(null);
    expect(insertRows(framed, 1, [groundRow(cloth)]).up).to.include({ setup: 2, closing: 1 });
    expect(insertRows(framed, 2, [groundRow(cloth)]).up).to.include({ setup: 1, closing: 1 });
    expect(deleteRows(framed, 0, 1).up).to.include({ setup: 0, closing: 1 });
    expect(deleteRows(framed, 1, 2).up).to.equal(null);
  });

  it('replace all of one kind by another and count what is used', () => {
    const drawn = fillBlock(cloth, { columns: { from: 0, to: 7 }, rows: { from: 0, to: 0 } }, L22);
    const turned = replaceEverywhere(drawn, L22, simpleCrossing('right', 2, 2));
    expect(stitchUse(turned)).to.deep.equal([
      { stitch: 'p', count: 24 },
      { stitch: simpleCrossing('right', 2, 2), count: 2 },
    ]);
  });
});

type Act = (c: Chart) => Chart;
const place = (n: number, most: number) => Math.min(Math.floor(n * most), most - 1);
const unit = fc.double({ min: 0, max: 0.999, noNaN: true });

/** Any edit, at any place; one that is refused leaves the chart as it was. */
const anyEdit: fc.Arbitrary<Act> = fc
  .tuple(
    unit,
    unit,
    fc.oneof(anyCrossing(), fc.constantFrom<Stitch>('k', 'p', 'ktbl', 'mb')),
    fc.integer({ min: 0, max: 7 }),
  )
  .map(([x, y, stitch, kind]) => (c: Chart) => {
    const [column, row] = [place(x, c.width), place(y, c.rows.length)];
    const block = { columns: { from: 0, to: column }, rows: { from: row, to: c.rows.length - 1 } };
    try {
      switch (kind) {
        case 0:
          return insertRows(c, row, [groundRow(c)]);
        case 1:
          return deleteRows(c, row, 1);
        case 2:
          return insertColumns(c, column, 2);
        case 3:
          return deleteColumns(c, column, 1);
        case 4:
          return mirrorBlock(c, block);
        case 5:
          return pasteRows(c, row, column, copyBlock(c, block));
        case 6:
          return setAcross(c, { before: column, after: 0, times: 2, least: 1 });
        default:
          return placeStitches(c, row, column, [stitch]);
      }
    } catch (error) {
      if (error instanceof EditError) return c;
      throw error;
    }
  });

describe('changes', () => {
  it('keep every row filling its columns, and their inverse leads back', () => {
    fc.assert(
      fc.property(anyChart(), fc.array(anyEdit, { maxLength: 12 }), (chart, edits) => {
        let design = startDesign(ID, 'test', chart);
        const begun = JSON.stringify(design);
        const done = [];
        for (const act of edits) {
          const change = chartChange(design, 0, act(design.charts[0]!), 'edit');
          if (!change) continue;
          design = applyChange(design, change);
          done.push(change);
          const now = design.charts[0]!;
          for (const row of now.rows) {
            // The count law of an edit: every stitch set takes what it makes here, so a row's loops are its columns.
            const { span, takes, makes } = rowFacts(row, bookOf(now));
            expect([span, takes, makes]).to.deep.equal([now.width, now.width, now.width]);
          }
          ChartSchema.parse(JSON.parse(JSON.stringify(now)));
        }
        const end = JSON.stringify(design);
        for (const change of [...done].reverse()) design = applyChange(design, invertChange(change));
        expect(JSON.stringify(design)).to.equal(begun);
        for (const change of done) design = applyChange(design, change);
        expect(JSON.stringify(design)).to.equal(end);
      }),
      { numRuns: 300 },
    );
  });

  it('hold only the rows that differ', () => {
    const design = startDesign(ID, 'test', cloth);
    const change = chartChange(design, 0, placeStitches(cloth, 2, 0, ['k']), 'set');
    expect(change!.steps).to.have.length(1);
    expect(change!.steps[0]).to.include({ kind: 'rows', at: 2 });
    expect(chartChange(design, 0, { ...cloth }, 'nothing')).to.equal(null);
    expect(headChange(design, { title: 'test' }, 'nothing')).to.equal(null);
  });

  it('do not fit a document that has moved on, and fit one that moved on elsewhere', () => {
    const design = startDesign(ID, 'test', cloth);
    const mine = chartChange(design, 0, placeStitches(cloth, 2, 0, ['k']), 'mine')!;
    const sameRow = applyChange(design, chartChange(design, 0, placeStitches(cloth, 2, 5, ['k']), 'theirs')!);
    const otherRow = applyChange(
      design,
      chartChange(design, 0, placeStitches(cloth, 0, 5, ['k']), 'theirs')!,
    );
    expect(() => applyChange(sameRow, mine)).to.throw(StepMisfit, 'Row 3 has changed');
    expect(applyChange(otherRow, mine).charts[0]!.rows[2]![0]).to.equal('k');
    const renamed = headChange(design, { title: 'ours' }, 'rename')!;
    expect(() => applyChange({ ...design, title: 'theirs' }, renamed)).to.throw(StepMisfit);
  });
});

describe('reading a document', () => {
  const good = JSON.parse(JSON.stringify(startDesign(ID, 'test', placeStitches(cloth, 0, 0, [L22]))));

  it('gives back what was written, crossings shared', () => {
    const design = readDesign(good);
    expect(design.charts[0]!.rows[0]![0]).to.equal(L22);
    expect(JSON.stringify(design)).to.equal(JSON.stringify(good));
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
      'at least one column',
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
