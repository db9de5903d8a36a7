import { expect } from 'chai';
import fc from 'fast-check';
import { readPattern, simpleCrossing, type ReadOptions, type Stitch } from '../src/index.js';
import { withRowCorrected } from '../src/words/correct.js';

const OPTIONS: ReadOptions = { construction: 'flat', firstRow: 'RS' };
const text = `Two ropes

Cast on 12 sts.
Row 1 (RS): p2, *k4, p2; rep from * to last 4 sts, k2, p2.
`;
const sound = `Cuff

Cast on 14 sts.
Row 1 (RS): *p2, k4; rep from * to last 2 sts, p2. (14 sts)
Row 2 and all WS rows: work the stitches as they present.
Rows 3 and 7: p2, C4F, p2, C4F, p2.
Row 5: as row 1.
Row 8: k2, p4, k2, p4, k2.

C4F: sl 2 to cable needle, hold in front, k2, k2 from cable needle.
`;
const C4F = simpleCrossing('left', 2, 2);

/** The chart of a text, which must be sound. */
function chartOf(said: string) {
  const { chart, problems } = readPattern(said, OPTIONS);
  expect(problems.filter((p) => p.level === 'error').map((p) => p.message)).to.deep.equal([]);
  return chart!;
}

describe('a row corrected on the chart', () => {
  const corrected = (r: number, row: readonly Stitch[]) => withRowCorrected(sound, OPTIONS, r, row);
  const rows = chartOf(sound).rows;

  it('is written anew in its own line', () => {
    expect(corrected(7, [...'kkppppkkppppkk'])).to.contain('Row 8: p2, k4, p2, k4, p2.\n');
  });

  it('leaves the line of several rows to the others', () => {
    const said = corrected(2, ['p', 'p', C4F, 'p', 'p', ...'kkkk', 'p', 'p'])!;
    expect(said).to.contain('Row 3: p2, C4F, p2, k4, p2.\nRow 7: p2, C4F, p2, C4F, p2.\n');
  });

  it('gets a line of its own beside one that stands for all like it', () => {
    const said = corrected(3, [...'kkkkkkkkkkkkkk'])!;
    expect(said).to.contain('as they present.\nRow 4: purl.\nRows 3 and 7');
    const told = corrected(1, [...'kkkkkkkkkkkkkk'])!;
    expect(told).to.contain('Row 2: purl.\nRow 4 and all WS rows: work the stitches as they present.\n');
  });

  it('is told with a crossing spelled out where no name of the text is sure', () => {
    const turned = simpleCrossing('right', 2, 2);
    const said = corrected(6, ['p', 'p', C4F, 'p', 'p', turned, 'p', 'p'])!;
    expect(said).to.contain('(sl 2 to cable needle, hold in back, k2, k2 from cable needle), p2.');
    expect(chartOf(said).rows[6]).to.deep.equal(['p', 'p', C4F, 'p', 'p', turned, 'p', 'p']);
  });

  it('lets rows above that only present follow it', () => {
    const row = ['p', 'p', ...'kkkk', 'p', 'p', ...'pppp', 'p', 'p'];
    const read = chartOf(corrected(6, row)!).rows;
    expect(read[6]).to.deep.equal(row);
    expect(chartOf(corrected(0, row)!).rows[1]).to.deep.equal(row);
  });

  it('is refused where the text has errors that it would hide, or no such row', () => {
    expect(withRowCorrected(text, OPTIONS, 5, [...'kk'])).to.equal(null);
    expect(withRowCorrected('nothing', OPTIONS, 0, [...'kk'])).to.equal(null);
  });

  it('makes of any row just that chart, or is refused', () => {
    let said = 0;
    fc.assert(
      fc.property(
        fc.nat(rows.length - 1),
        fc.array(fc.constantFrom<Stitch>('k', 'p', 'ktbl'), { minLength: 14, maxLength: 14 }),
        (r, row) => {
          const made = corrected(r, row);
          if (made === null) return;
          said++;
          const read = chartOf(made).rows;
          // Rows that present follow the row below them: they are what the text says, and were looked at.
          expect(read[r]).to.deep.equal(row);
        },
      ),
      { numRuns: 60 },
    );
    expect(said).to.be.greaterThan(10);
  });
});
