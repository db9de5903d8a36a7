import { expect } from 'chai';
import {
  fileRead,
  folderLine,
  folderQuestions,
  plainly,
  questionsIn,
  readPattern,
  readPatterns,
  SAID_SO,
} from '../src/index.js';

const flat = { construction: 'flat', firstRow: 'RS' } as const;
const ROWS = 'Cast on 8 sts.\nRow 1 (RS): p2, k4, p2.\nRow 2: k2, p4, k2.';
/** A sentence before the rows, or behind them. */
const around = (said: string, isBehind = false) => (isBehind ? `${ROWS}\n\n${said}` : `${said}\n\n${ROWS}`);
const problemsOf = (text: string) =>
  readPattern(text, flat)
    .problems.filter((p) => p.level === 'error')
    .map((p) => p.id);

// What printed patterns say besides their rows: common practice, no source.
describe('what is left aside', () => {
  for (const said of [
    'Moorland cable scarf',
    'Left front',
    'BACK',
    'Rope and plait sampler',
    'Materials: 3 balls of aran wool, 4.5 mm needles, a cable needle, 2 stitch markers.',
    'You will need 200 g of worsted yarn and 5 mm needles.',
    'Needles: 1 pair no. 8',
    'Gauge: 22 sts and 30 rows = 10 cm in stocking stitch.',
    'Tension – 20 stitches and 26 rows to 4 inches over cable pattern',
    'Check your tension before you begin.',
    'To fit chest 86 (91, 97) cm.',
    'Finished length 150 cm, width 20 cm.',
    'Wash by hand at 30 degrees and dry flat.',
    'Page 4 of 9',
    '© 1974 by the Valley Press. All rights reserved.',
    'First published 1958',
    'www.example.org/k2p2',
    'This is an easy scarf for your first cables.',
    'I named it for the hills behind our house.',
    'Happy knitting!',
    'A rope between twisted columns.',
    'The wool is from the valley.',
    'Make 2.',
    'RS = right side',
    'beg: beginning',
    'sts = stitches',
    'Instructions',
    'Abbreviations',
    'Slip markers as you come to them.',
    'If you work in the round, leave out the edge stitches.',
  ])
    it(`is "${said}"`, () => expect(problemsOf(around(said))).to.deep.equal([]));

  for (const said of [
    'Cast off in pattern.',
    'Bind off all 8 sts loosely.',
    'Fasten off and weave in ends.',
    'Sew the side seams.',
    'Block to measurements.',
    'Leave the remaining stitches on a holder.',
    'Break yarn.',
  ])
    it(`is "${said}" behind the rows`, () => expect(problemsOf(around(said, true))).to.deep.equal([]));

  // Whatever speaks of rows, stitches, directions or numbers as rows do may be one of them.
  for (const said of [
    'Keep the first stitch of every row slipped.',
    'Then work k2, p3 for the border.',
    'Decrease 2 sts evenly across the next row.',
    'Work 5 cm in k1, p1 rib.',
    'Turn the crossings of the left front the other way.',
    'Purl back.',
    'Knit back.',
    'The ropes cross every sixth row.',
    'All wrong-side stitches are purled through the back loop.',
    'On needles of 4 mm work 3 rows more.',
    'Begin with the wrong side facing.',
    'Gauge is checked over 4 rows of k2, p2.',
    'Join the last two stitches together.',
    'Instead of row 2 knit all stitches.',
    'Increase one stitch at each end of every 4th row until there are 30 sts.',
    'Bind off 2 sts at the beginning of the next 2 rows.',
    'Finished size is reached after 12 repeats; then repeat row 1 once.',
    'Use a cable needle for every third crossing.',
    'Press lightly after row 6 and cast on 4 sts.',
    'Wool is changed after the second row.',
  ])
    it(`is not "${said}"`, () => {
      const told = problemsOf(around(said));
      expect(told.length + problemsOf(around(said, true)).length, told.join()).to.be.greaterThan(1);
    });

  it('is what the designer says of it, and nothing but the very sentence', () => {
    const said = 'Work the edge as you like it.';
    const text = around(said);
    expect(problemsOf(text)).to.deep.equal(['line-not-read']);
    const { problems, asides } = readPattern(text, { ...flat, asides: [plainly(said)] });
    expect(problems).to.deep.equal([]);
    expect(asides.map((a) => [a.text, a.why])).to.deep.equal([[said, SAID_SO]]);
    expect(problemsOf(text.replace('like it', 'like it twice'))).to.deep.equal(['line-not-read']);
  });

  it('tells a sentence once, at its words, with the word that rows have too', () => {
    const text = `${ROWS}\nWork 5 cm in k1, p1 rib, then 2 sts more.`;
    const { problems } = readPattern(text, flat);
    expect(problems.map((p) => p.id)).to.deep.equal(['line-not-read']);
    expect(problems[0]!.message).to.contain('speaks of "k1", as rows do');
    expect(text.slice(problems[0]!.at!.from, problems[0]!.at!.to)).to.contain('Work 5 cm in k1');
  });
});

describe('a text for several sizes', () => {
  const text =
    'Cast on 20 (26: 32) sts.\nRow 1 (RS): *p2, k4; rep from * to last 2 (2: 2) sts, p2.\nRow 2: k2, p4, k2 (8: 14) sts.';
  it('is read for one of them, which is told, and the others can be chosen', () => {
    const castOns = [0, 1, 2].map((size) => {
      const { sizes, problems } = readPattern(text.replace(/\nRow 2.*/, ''), { ...flat, size });
      expect(problems.map((p) => p.id)).to.deep.equal(['size-taken']);
      return [sizes!.read, sizes!.castOns[sizes!.read]];
    });
    expect(castOns).to.deep.equal([
      [0, '20'],
      [1, '26'],
      [2, '32'],
    ]);
    const wide = readPattern(text.replace(/\nRow 2.*/, ''), { ...flat, size: 2 });
    expect(wide.chart!.across!.times).to.equal(5);
    const broken = text.replace(/\nRow 2.*/, '').replace('2 (2: 2)', '2 (2:\n2)');
    expect(readPattern(broken, { ...flat, size: 2 }).chart!.rows, 'a line ends in a list').to.deep.equal(
      wide.chart!.rows,
    );
  });

  it('has no sizes where brackets count repeats, rows or stitches', () => {
    for (const said of [
      'Cast on 24 sts (4 repeats).\nRow 1: k24.',
      'Cast on 8 sts.\nRow 1: k8.\nRow 2 (4, 6 and 8): p8.\nRows 3, 5 and 7: k8.',
      'Cast on 8 sts.\nRow 1: k8. (8 sts)',
    ])
      expect(readPattern(said, flat).sizes, said).to.equal(null);
  });
});

describe('figures that a scanner mistook', () => {
  it('are read, and told', () => {
    const { chart, problems } = readPattern('Cast on 12 sts.\nRow 1: kl, p1O, Kl.', flat);
    expect(chart!.rows[0]!.join('')).to.equal(`k${'p'.repeat(10)}k`);
    expect(problems.map((p) => p.id)).to.deep.equal(Array(3).fill('figure-taken'));
  });
});

describe('a folder of texts', () => {
  const read = (name: string, text: string) => ({ name, sections: readPatterns(text, flat) });
  const files = [
    read('ropes/one.txt', 'A rope\n\nCast on 8 sts.\nRow 1: p2, C4F, p2.'),
    read('ropes/two.txt', 'Row 1: p2, C5F, p2.\nRow 2: k2, p5, k2.'),
    read('ropes/three.txt', 'Row 1: k2, C5F, C3B.'),
    read('ropes/four.txt', 'Cast on 8 sts.\nRow 1: k9.\nThen knit 4 more.'),
    read('ropes/five.txt', 'Good morning.'),
  ];
  it('has a table of what was read, asked and refused', () => {
    const table = files.map(({ name, sections }) => fileRead(name, sections));
    expect(table.map((f) => [f.title, f.outcome, f.rows, f.castOn, f.asked])).to.deep.equal([
      ['A rope', 'read', 1, 8, []],
      ['two', 'asked', 0, null, ['c5f']],
      ['three', 'asked', 0, null, ['c5f', 'c3b']],
      ['four', 'refused', 0, null, []],
      ['Good morning.', 'refused', 0, null, []],
    ]);
    expect([table[3]!.told, table[3]!.more]).to.deep.equal([
      '"Then knit 4 more." speaks of "knit", as rows do, and was not understood. Tell it as a row or a line of the key, or say that it says nothing of the rows.',
      1,
    ]);
    expect(folderLine(table[1]!).slice(0, 3)).to.deep.equal(['ropes/two.txt', 'two', 'asked']);
  });

  it('asks each name once, the most asked first', () => {
    expect(
      folderQuestions(files.map(({ name, sections }) => ({ name, questions: questionsIn(sections) }))).map(
        ({ question, files: of }) => [question.word, of.length],
      ),
    ).to.deep.equal([
      ['c5f', 2],
      ['c3b', 1],
    ]);
  });
});
