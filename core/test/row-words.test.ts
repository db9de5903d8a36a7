import { expect } from 'chai';
import {
  completionsFor,
  EditError,
  LIMITS,
  readRowWords,
  rowFromWords,
  SCHOOLS,
  SettingsSchema,
  simpleCrossing,
  startChart,
  writeRowsFrom,
} from '../src/index.js';

const settings = SettingsSchema.parse({});
const cloth = (rows = 4) => startChart({ columns: 8, rows, construction: 'flat', ground: 'p' });
const P = (text: string) => [...text];

describe('the words of a row while they are written', () => {
  const read = (text: string) => readRowWords(cloth(), 0, text, settings);

  // Where the words are wrong, and how many of the eight loops they take up to there: counted by hand.
  for (const [text, wrong, taken] of [
    ['p2, wobble, p4', 'wobble', 2],
    ['p2, *k2, 9/9 XX; rep from * to end', '9/9 XX', 2],
    ['p2, k2, (p', '(p', 4],
    ['p2, k9', 'k9', 2],
    ['Row 1: p2, k2, zz', 'zz', 4],
    ['p2, *k2; rep from * to last 9 sts', '*k2; rep from * to last 9 sts', 2],
    ['p2, 2/2 LC', null, 6],
    ['k1, [k2, p1] twice', null, 7],
  ] as const)
    it(`"${text}" says where it is wrong and what is left`, () => {
      const { row, problem, taken: took, waiting } = read(text);
      expect(row).to.equal(null);
      expect(problem!.at && text.slice(problem!.at.from, problem!.at.to)).to.equal(wrong);
      expect([took, waiting]).to.deep.equal([taken, 8]);
    });

  it('come out when every loop is worked', () => {
    const { row, problem, taken } = read('p2, 2/2 LC, p2');
    expect(row).to.deep.equal(['p', 'p', simpleCrossing('left', 2, 2), 'p', 'p']);
    expect([problem, taken]).to.deep.equal([null, 8]);
  });

  it('may be completed by words that are each read as what they stand for', () => {
    for (const school of SCHOOLS) {
      const by = { ...settings, school };
      const wide = startChart({ columns: 12, rows: 1, construction: 'flat', ground: 'p' });
      const crossings = completionsFor(wide, 0, by).filter(({ meaning }) => meaning.includes('cable needle'));
      // Where crossings are spelled out there is no name to complete.
      expect(crossings.length > 0).to.equal(school !== 'spelled');
      for (const { word, meaning } of crossings) {
        const row = readRowWords(wide, 0, `${word}, p to end`, by).row;
        const spelled = readRowWords(wide, 0, `(${meaning}), p to end`, by).row;
        expect(row, word).to.deep.equal(spelled);
      }
    }
  });
});

describe('several rows of words at once', () => {
  it('go to the rows they name, lines for all like them too, and lines without a number go on', () => {
    const text = 'Row 1: p2, k4, p2\nRow 2 and all WS rows: k2, p4, k2. (8 sts)\nRow 3: p2, 2/2 LC,\n  p2\n';
    const { edit, drafts, set } = writeRowsFrom(cloth(), 0, text, settings);
    expect([drafts, set]).to.deep.equal([[], 4]);
    const ground = P('ppkkkkpp');
    expect(edit.chart.rows).to.deep.equal([
      ground,
      ground,
      ['p', 'p', simpleCrossing('left', 2, 2), 'p', 'p'],
      ground,
    ]);
  });

  it('without numbers go one above the other, and put in the rows that are missing', () => {
    const { edit, set } = writeRowsFrom(cloth(2), 1, 'p8\nk8\n\nk4, p4', settings);
    expect(set).to.equal(3);
    expect(edit.chart.rows.map((r) => r.join(''))).to.deep.equal([
      'pppppppp',
      'kkkkkkkk',
      'kkkkkkkk',
      'kkkkpppp',
    ]);
  });

  it('leave a row that does not come out as it was, and give its words back', () => {
    const { edit, drafts, set } = writeRowsFrom(cloth(), 0, 'Row 1: k9\nRow 2: k8', settings);
    expect(set).to.equal(1);
    expect(drafts).to.deep.equal([{ row: 0, text: 'Row 1: k9' }]);
    expect(edit.chart.rows[0]).to.deep.equal(P('pppppppp'));
    expect(rowFromWords(cloth(), 1, 'k8', settings)).to.deep.equal(edit.chart.rows[1]);
  });

  it('are refused beyond the rows a chart may have, before anything is built', () => {
    expect(() => writeRowsFrom(cloth(), 0, `Row ${LIMITS.rows + 1}: k8`, settings)).to.throw(EditError);
    expect(() => writeRowsFrom(cloth(), 0, 'Row 1: k8\nRow 99999: k8', settings)).to.throw(EditError);
  });
});
