import { expect } from 'chai';
import fc from 'fast-check';
import Papa from 'papaparse';
import {
  applyStep,
  cellsOfRows,
  ChartSchema,
  csvOf,
  notInTables,
  readTables,
  rowsOfCells,
  sameValue,
  SettingsSchema,
  sheetOfCsv,
  startDesign,
  stepsFromTables,
  tabbed,
  tablesOf,
  type Chart,
  type Design,
} from '../src/index.js';
import { anyChart, THOROUGH } from './arbitrary.js';
import { design as pieced, piece, rope } from './pieces.js';

const ID = '00000000-0000-4000-8000-000000000001';
const OTHER = '00000000-0000-4000-8000-000000000002';

const designOf = (charts: readonly Chart[], more: Partial<Design> = {}): Design => ({
  ...startDesign(ID, 'Tables', charts[0]!),
  charts: charts.map((chart, i) => ({ ...chart, id: `c${i}` })),
  ...more,
});

/** A small chart as a person would type it. */
const TYPED = [
  ['Chart', 'Rope', 'c0'],
  ['Worked', 'flat'],
  [],
  ['Row', 'Side', '8', '7', '6', '5', '4', '3', '2', '1', 'Stitches'],
  ['2', 'WS', 'p', 'p', 'k', 'k', 'k', 'k', 'p', 'p', '8'],
  ['1', 'RS', 'p', 'p', '2/2 LC', '<', '<', '<', 'p', 'p', '8'],
];
const read = (cells: readonly (readonly string[])[], name = 'Rope') => readTables([{ name, cells }], OTHER);
const with_ = (row: number, column: number, text: string) =>
  TYPED.map((cells, r) => (r === row ? cells.with(column, text) : cells));

describe('designs as tables', () => {
  it('come back as they were, by sheets and by commas', () => {
    fc.assert(
      fc.property(fc.array(anyChart(), { minLength: 1, maxLength: 3 }), (charts) => {
        const design = designOf(charts);
        const sheets = tablesOf(design);
        for (const [how, given] of [
          ['sheets', sheets],
          ['commas', [sheetOfCsv(csvOf(sheets), 'all')]],
        ] as const) {
          const back = readTables(given, OTHER);
          expect(back.faults, how).to.deep.equal([]);
          expect(back.notes, how).to.deep.equal([]);
          expect(sameValue(back.design!.charts, design.charts), how).to.equal(true);
          expect(notInTables(design, back.design!)).to.deep.equal([]);
          expect(stepsFromTables(design, back), how).to.deep.equal([]);
        }
      }),
      { numRuns: 60 * THOROUGH },
    );
  });

  it('stand as the right side looks, row 1 at the bottom, each row with its side and what it leaves', () => {
    const { cells } = tablesOf(designOf([{ ...rope, name: 'Rope' }]))[1]!;
    const head = cells.findIndex(([first]) => first === 'Row');
    const numbers = cells[head]!.filter((cell) => /^\d+$/.test(cell)).map(Number);
    expect(numbers).to.deep.equal(Array.from({ length: rope.width }, (_, i) => rope.width - i));
    expect(cells.slice(head + 1).map(([row]) => Number(row))).to.deep.equal(
      rope.rows.map((_, i) => rope.rows.length - i),
    );
    expect(cells.at(-1)!.slice(0, 2)).to.deep.equal(['1', 'RS']);
  });

  it('are read as a person types them, with names of the school for crossings', () => {
    const { design, faults } = read(TYPED);
    expect(faults).to.deep.equal([]);
    expect(design!.charts[0]!.rows[0]).to.deep.equal([
      'p',
      'p',
      { lean: 'left', front: ['k', 'k'], centre: [], back: ['k', 'k'] },
      'p',
      'p',
    ]);
  });

  for (const [what, cells, cell, says] of [
    ['an unknown stitch', with_(4, 3, 'quux'), 'D5', /"quux" is no stitch/],
    ['a blank cell within a row', with_(4, 4, ''), 'E5', /empty/],
    ['a crossing over too few columns', with_(5, 7, 'k'), 'E6', /covers 4 columns; here it has 3: put 1/],
    ['a stitch over too many columns', with_(4, 9, '<'), 'I5', /covers 1 column; here it has 2/],
    ['nothing to go on from', with_(4, 2, '<'), 'C5', /there is none/],
    ['columns numbered the other way', with_(3, 2, '1'), 'C4', /from the right/],
    ['an unknown way', with_(1, 1, 'sideways'), 'B2', /"Worked" cannot be "sideways"/],
    ['rows from the top', [...TYPED.slice(0, 4), TYPED[5]!, TYPED[4]!], 'A6', /Row 1 stands at the bottom/],
    ['a name of several meanings', with_(5, 4, 'C5F'), 'E6', /may mean \d+ crossings/],
  ] as const)
    it(`tell the cell of ${what}`, () => {
      const { design, faults } = read(cells);
      expect(design).to.equal(null);
      expect(faults[0]).to.include({ sheet: 'Rope', cell });
      expect(faults[0]!.message).to.match(says);
    });

  it('say where what is written beside the cells is otherwise, and go by the cells', () => {
    const { design, notes } = read(with_(4, 10, '7'));
    expect(design).to.not.equal(null);
    expect(notes.map(({ cell, message }) => [cell, message])).to.deep.equal([
      ['K5', 'Row 2 leaves 8 stitches; 7 is written. The cells count.'],
    ]);
    expect(read(with_(5, 1, 'WS')).notes[0]).to.include({ cell: 'B6' });
  });

  it('tell cells of comma-separated text by their place in the whole file', () => {
    const sheets = tablesOf(designOf([rope]));
    const lines = csvOf(sheets).split('\n');
    const line = lines.findIndex((one) => one.startsWith('3,'));
    const text = lines.with(line, lines[line]!.replace(',p,', ',nonsense,')).join('\n');
    const { faults } = readTables([sheetOfCsv(text, 'file')], OTHER);
    expect(faults[0]!.cell).to.match(new RegExp(`^[A-Z]+${line + 1}$`));
  });

  it('bring an edit back as steps of the design they were made of, and leave what they do not hold', () => {
    const sized = {
      ...pieced,
      tags: ['rope'],
      piece: piece({
        sizes: [
          { id: 'a', name: 'S', measure: 920_000, ease: 40_000, length: null, counts: {} },
          { id: 'b', name: 'M', measure: 1_000_001, ease: 0, length: 600_000, counts: {} },
        ],
      }),
    } as Design;
    const sheets = tablesOf(sized);
    const back = readTables(sheets, OTHER);
    expect(stepsFromTables(sized, back)).to.deep.equal([]);
    expect(notInTables(sized, back.design!)).to.include.members(['tags', 'the piece it is set out in']);
    const text = csvOf(sheets)
      .replace('92 cm', '96.5 cm')
      .replace(/(\n1,RS,.*?)p/, '$1k');
    const edited = readTables([sheetOfCsv(text, 'file')], OTHER);
    expect(edited.faults).to.deep.equal([]);
    const now = stepsFromTables(sized, edited).reduce(applyStep, sized);
    expect(now.piece!.sizes.map(({ measure }) => measure)).to.deep.equal([965_000, 1_000_001]);
    expect(now.tags).to.deep.equal(['rope']);
    expect(now.charts[0]!.rows[0]).to.not.deep.equal(sized.charts[0]!.rows[0]);
    expect(now.charts[0]!.rows.slice(1)).to.deep.equal(sized.charts[0]!.rows.slice(1));
  });

  it('hold no formula that a spreadsheet would run, and give the text back', () => {
    const titles = ['=1+1', '+1', '-1', '@sum(A1)', "'=x", "''@", '\t=1', 'plain', "it's"];
    for (const notes of titles) {
      const sheets = tablesOf(designOf([rope], { notes }));
      const cells = Papa.parse<string[]>(csvOf(sheets)).data.flat();
      expect(cells.filter((cell) => /^[=+\-@\t\r]/.test(cell))).to.deep.equal([]);
      expect(Papa.parse<string[]>(tabbed([[notes]]), { delimiter: '\t' }).data[0]![0]).to.not.match(
        /^[=+\-@]/,
      );
      expect(readTables([sheetOfCsv(csvOf(sheets), 'file')], OTHER).design!.notes).to.equal(notes);
    }
  });

  it('read the separators of other countries', () => {
    const text = csvOf(tablesOf(designOf([rope])));
    const { data } = Papa.parse<string[]>(text);
    for (const delimiter of [';', '\t']) {
      const back = readTables([sheetOfCsv(Papa.unparse(data, { delimiter }), 'file')], OTHER);
      expect(sameValue(back.design!.charts[0]!.rows, rope.rows)).to.equal(true);
    }
  });

  it('are bounded before anything is made of them', () => {
    expect(() => sheetOfCsv('k\n'.repeat(2_000_000), 'x')).to.throw(/too many cells/);
    expect(() => sheetOfCsv(','.repeat(5000), 'x')).to.throw(/line 1 has too many cells/);
    const tall = [...TYPED.slice(0, 4), ...Array.from({ length: 1300 }, () => TYPED[4]!.with(0, ''))];
    expect(read(tall).faults[0]!.message).to.match(/1 to 1200 rows; here are 1300/);
    expect(read([['hello']]).faults[0]!.message).to.match(/No table begins with "Chart"/);
    expect(readTables([], OTHER).design).to.equal(null);
  });

  it('of anything at all: a design or a fault, never a crash', () => {
    const word = fc.oneof(
      fc.constantFrom(
        'Chart',
        'Row',
        'Side',
        'Key',
        'Design',
        'Size',
        'k',
        'p',
        '<',
        'x',
        '1',
        '2',
        'crossing',
        'left',
        'yes',
        'Repeat across',
        'before 1',
        'Own stitch',
        'Meant so',
        '{}',
        'every 5, rounds 3',
      ),
      fc.string({ maxLength: 12 }),
    );
    fc.assert(
      fc.property(fc.array(fc.array(word, { maxLength: 9 }), { maxLength: 12 }), (cells) => {
        const { design, faults } = read([['Chart', 'any'], ...cells]);
        expect(design === null).to.equal(faults.length > 0);
        if (design) expect(ChartSchema.safeParse(design.charts[0]).success).to.equal(true);
      }),
      { numRuns: 400 * THOROUGH },
    );
  });
});

describe('cells of the clipboard', () => {
  const settings = SettingsSchema.parse({});
  it('are the rows that were copied, the topmost first, and come back', () => {
    fc.assert(
      fc.property(anyChart(), (chart) => {
        const cells = cellsOfRows(chart.rows, chart, settings);
        expect(cells.length).to.equal(chart.rows.length);
        const back = rowsOfCells(sheetOfCsv(tabbed(cells), '').cells, chart, settings);
        if ('problem' in back) {
          // Rows that fill only a part of theirs leave gaps that no spreadsheet keeps; a name may mean two crossings.
          expect(back.problem).to.match(/may mean|no stitch that is known/);
          return;
        }
        expect(sameValue(back.rows, chart.rows)).to.equal(true);
      }),
      { numRuns: 40 * THOROUGH },
    );
  });

  it('of a spreadsheet are read by their words, and what is none is told by its cell', () => {
    const read = (text: string) => rowsOfCells(sheetOfCsv(text, '').cells, rope, settings);
    expect(read('k\tp\nP\tK\n')).to.deep.equal({
      rows: [
        ['k', 'p'],
        ['p', 'k'],
      ],
    });
    expect(read('2/2 LC\t<\t<\t<')).to.deep.include({
      rows: [[{ lean: 'left', front: ['k', 'k'], centre: [], back: ['k', 'k'] }]],
    });
    expect(read('k\tfrog'))
      .to.have.property('problem')
      .that.matches(/^B1 of what was copied: "frog"/);
    expect(read('')).to.have.property('problem');
  });
});
