import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  expandPiece,
  readPattern,
  SECTIONS,
  SettingsSchema,
  SheetSchema,
  sheetMarkdown,
  sheetOf,
  sheetText,
  simpleCrossing,
  startDesign,
  StyleSchema,
  writeDesign,
  type Design,
  type SheetBlock,
  type SheetSettings,
} from '../src/index.js';
import { blocksOf as blocksOfRows } from '../src/sheet/parts.js';

const P = (text: string) => [...text];
const rope = ChartSchema.parse({
  width: 10,
  rows: [
    P('ppkkkkppkk'),
    P('ppkkkkppkk'),
    ['p', 'p', simpleCrossing('left', 2, 2), ...P('ppkk')],
    P('ppkkkkppkk'),
  ],
  across: { before: 2, after: 2, times: 4 },
  up: { setup: 0, closing: 0, times: 3 },
});

function designWith(sheet: Partial<SheetSettings>, more: Partial<Design> = {}): Design {
  const design = startDesign('00000000-0000-4000-8000-000000000001', 'Scree cuff', rope);
  return { ...design, sheet: SheetSchema.parse(sheet), ...more };
}

function blocksOf(design: Design, isCurrent = true): SheetBlock[] {
  return sheetOf(design, writeDesign(design.charts, design.piece, design.settings), isCurrent);
}

const headings = (blocks: SheetBlock[]): string[] =>
  blocks.flatMap((b) => (b.type === 'heading' ? [b.text] : b.type === 'beside' ? headings(b.left) : []));

describe('the printed sheet', () => {
  it('has its sections in the order that is asked for, and none that has nothing to say', () => {
    expect(headings(blocksOf(designWith({})))).to.deep.equal(['Rows', 'Chart', 'Key']);
    const order = [...SECTIONS].reverse();
    const design = designWith({ order, materials: 'A needle of 4 mm.' }, { notes: 'For the wardens.' });
    expect(headings(blocksOf(design))).to.deep.equal([
      'Key',
      'Cloth',
      'Chart',
      'Rows',
      'Abbreviations',
      'Construction',
      'Materials',
    ]);
    expect(headings(blocksOf(designWith({ order: ['charts'] })))).to.deep.equal(['Chart']);
  });

  it('shows the cloth in the yarn of the design, its repeats drawn out, where it is asked for', () => {
    const design = designWith({ order: ['cloth'] });
    const settings = { ...design.settings, cloth: { ...design.settings.cloth, yarn: 'woad' as const } };
    const shown = blocksOf({ ...design, settings }).filter((b) => b.type === 'cloth');
    expect(shown).to.have.length(1);
    const [{ chart, dye, label }] = shown as [(typeof shown)[number]];
    expect([dye.yarn, label]).to.deep.equal(['woad', `The cloth of ${design.title}, right side`]);
    expect(chart.width).to.be.within(design.charts[0]!.width, 60);
    // However large the chart, its picture is of a corner of it.
    const [small] = design.charts;
    const tall = { ...small!, across: null, up: null, jogs: {}, rows: Array(1000).fill(small!.rows[0]) };
    const [block] = blocksOf({ ...design, charts: [tall] }).filter((b) => b.type === 'cloth');
    expect(block!.chart.rows.length).to.be.lessThan(60);
  });

  it('begins with the title, ends with the advice to swatch, and is sealed only when it is current', () => {
    const kinds = (isCurrent: boolean) =>
      blocksOf(designWith({ by: 'The hut' }), isCurrent).map((b) => b.type);
    expect(kinds(true)[0]).to.equal('title');
    expect(kinds(true).slice(-2)).to.deep.equal(['proof', 'text']);
    expect(kinds(false)).not.to.include('proof');
    const broken = { ...rope, rows: rope.rows.with(2, P('ppkkkkppk')) };
    expect(blocksOf(designWith({}, { charts: [broken] })).map((b) => b.type)).not.to.include('proof');
  });

  it('says in the seal what was proved, and at which repeats', () => {
    const proof = blocksOf(designWith({})).find((b) => b.type === 'proof')!;
    expect(proof.text).to.contain(
      'cast-on, multiple, every row with its count, how the rows follow, and the key',
    );
    expect(proof.text).to.contain('with 1, 4 and 5 repeats');
  });

  it('tells abbreviations once: in the list, and not again in the key', () => {
    const with_ = sheetText(blocksOf(designWith({ order: ['abbreviations', 'key'] })));
    expect(with_.match(/\bk: knit\./g)).to.have.length(1);
    expect(with_).to.contain('2/2 LC: sl 2 to cable needle');
  });

  it('has each chart beside its rows where that is asked for, and then in no section of its own', () => {
    const blocks = blocksOf(designWith({ beside: true }));
    const beside = blocks.find((b) => b.type === 'beside')!;
    expect(beside.right.map((b) => b.type)).to.deep.equal(['chart']);
    expect(blocks.map((b) => b.type)).not.to.include('chart');
    // Without the rows there is nothing to stand beside.
    const alone = blocksOf(designWith({ beside: true, order: ['charts'] })).map((b) => b.type);
    expect(alone).to.include('chart');
    // One that would be too small there stands below its rows.
    const wide = ChartSchema.parse({ width: 32, rows: [Array<string>(32).fill('k')] });
    const types = blocksOf(designWith({ beside: true }, { charts: [wide] })).map((b) => b.type);
    expect(types.slice(types.indexOf('rows'))).to.deep.equal([
      'rows',
      // How its rows follow, and how it comes off the needle.
      'text',
      'text',
      'chart',
      'heading',
      'key',
      'proof',
      'text',
    ]);
  });

  it('tells how a chart comes off the needle, and leaves that to the piece where it is a panel of one', () => {
    const said = (part: 'piece' | 'panel') => {
      const chart = ChartSchema.parse({ width: 6, rows: [Array<string>(6).fill('k')], part });
      return blocksOf(designWith({}, { charts: [chart] })).flatMap((b) =>
        b.type === 'text' ? [b.text] : [],
      );
    };
    expect(said('piece')).to.include('Bind off all 6 sts in pattern.');
    expect(said('panel').some((text) => text.startsWith('Bind off'))).to.equal(false);
  });

  it('shows a left-handed knitter of the same words the cloth she will have', () => {
    const settings = SettingsSchema.parse({ hand: 'left-same-words' });
    const charts = blocksOf(designWith({}, { settings })).filter((b) => b.type === 'chart');
    expect(charts.map((b) => b.caption !== null)).to.deep.equal([false, true]);
  });

  it('cuts a tall chart into blocks of all its rows, none taller than a page', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1200 }), (height) => {
        const parts = blocksOfRows({ from: 0, to: height - 1 });
        expect(
          parts
            .flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, i) => from + i))
            .sort((a, b) => a - b),
        ).to.deep.equal(Array.from({ length: height }, (_, r) => r));
        expect(Math.max(...parts.map(({ from, to }) => to - from + 1))).to.be.at.most(50);
      }),
    );
  });
});

describe('copies of the sheet', () => {
  it('in plain text are read back as the pattern they are of, in short and in full', () => {
    for (const form of ['short', 'full'] as const)
      for (const order of [undefined, [...SECTIONS]] as const) {
        const settings = SettingsSchema.parse({ style: StyleSchema.parse({ form }) });
        const design = designWith(order ? { order } : {}, { settings });
        const { chart, problems } = readPattern(sheetText(blocksOf(design)), {
          construction: 'flat',
          firstRow: 'RS',
        });
        expect(problems.filter((p) => p.level === 'error').map((p) => p.message)).to.deep.equal([]);
        expect(expandPiece(chart!).map((r) => r.stitches)).to.deep.equal(
          expandPiece(rope).map((r) => r.stitches),
        );
      }
  });

  it('in Markdown keep what Markdown would take for its own', () => {
    const design = designWith({ materials: '1. *Needle* [4 mm]\n- and a # of markers' });
    const text = sheetMarkdown(blocksOf(design));
    expect(text).to.contain('# Scree cuff\n\n');
    expect(text).to.contain('1\\. \\*Needle\\* \\[4 mm\\]\n\\- and a \\# of markers');
    expect(text).to.contain('- **Row 1 (RS):** p2, \\*k4, p2; rep from \\* to last 2 sts, k2. (28 sts)');
    expect(text).to.contain('10 columns, rows 1 to 4; a drawing, not in this copy');
  });
});
