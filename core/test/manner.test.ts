import { expect } from 'chai';
import {
  mannerOf,
  NO_STITCH,
  rowFromWords,
  SettingsSchema,
  startChart,
  STITCH_KINDS,
  takesOf,
  bookOf,
} from '../src/index.js';
import { ABBREVIATED, keyWordOf, keyWordText, wordText } from '../src/words/manner.js';

const MANNERS = (['short', 'full'] as const).flatMap((form) =>
  (['US', 'UK'] as const).map((terms) => mannerOf({ form, terms })),
);

describe('manners of writing', () => {
  it('every word of the table, set in any manner, is read as the stitch it was, on both sides', () => {
    const settings = SettingsSchema.parse({});
    for (const kind of STITCH_KINDS.values()) {
      if (kind.id === NO_STITCH) continue;
      for (const firstRow of ['RS', 'WS'] as const)
        for (const manner of MANNERS) {
          const word = wordText((firstRow === 'RS' ? kind.rs : kind.ws).replace('#', '1'), manner);
          const cloth = startChart({ columns: 12, rows: 1, construction: 'flat', ground: 'k' });
          const chart = { ...cloth, firstRow };
          const rest = 12 - takesOf(kind.id, bookOf(chart));
          // Only the stitch is asked about: the widths of increases and decreases are another test's.
          const { row } = read(`${word}, ${wordText(`k${rest}`, manner)}`);
          function read(text: string) {
            const target = { ...chart, width: 11 + kind.span - (kind.takes - 1) };
            return { row: rowFromWords({ ...target, rows: [chart.rows[0]!] }, 0, text, settings) };
          }
          const at = firstRow === 'RS' ? 0 : row.length - 1;
          expect(row[at], `${word} on ${firstRow}`).to.equal(kind.id);
        }
    }
  });

  it('names of crossings stay as they are', () => {
    for (const manner of MANNERS)
      for (const name of ['2/2 LC', 'C4F', 'T3B', '2/1 right purl cable', 'Fold 3', 'K9'])
        expect(wordText(name, manner)).to.equal(name);
  });

  it('words of the key lose their number and come back', () => {
    for (const manner of MANNERS)
      for (const word of ['k', 'p tbl', 'sl wyib', 'yo', 'M1LP', 'ssk', 'cddp'])
        expect(keyWordOf(keyWordText(word, manner))).to.equal(word);
    expect(keyWordText('k', ABBREVIATED)).to.equal('k');
  });
});
