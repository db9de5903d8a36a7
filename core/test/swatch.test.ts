import { expect } from 'chai';
import {
  drawInOf,
  gaugeIn,
  gaugeOf,
  gramsPerLoop,
  growthOf,
  plainFor,
  SwatchSchema,
  type Swatch,
} from '../src/index.js';

const swatch = (more: object): Swatch =>
  SwatchSchema.parse({ id: '00000000-0000-4000-8000-000000000001', name: 'Swatch', ...more });
const over10 = (...counts: number[]) => counts.map((count) => ({ count, over: 100_000 }));
const measured = (stitches: number[], rows: number[] = []) => ({
  stitches: over10(...stitches),
  rows: over10(...rows),
});

describe('a swatch', () => {
  it('is measured before and after washing; a piece goes by what it is washed', () => {
    const both = swatch({ before: measured([26, 27], [30]), after: measured([25], [32]) });
    expect(gaugeIn(both, 'before', 'stitches')!.gauge).to.deep.equal({ count: 53, over: 200_000 });
    expect(gaugeOf(both, 'stitches')).to.deep.equal({ gauge: { count: 25, over: 100_000 }, isWashed: true });
    expect(growthOf(both, 'stitches')).to.be.closeTo(26.5 / 25 - 1, 1e-12);
    expect(growthOf(both, 'rows')).to.be.closeTo(30 / 32 - 1, 1e-12);
    const unwashed = swatch({ before: measured([26]) });
    expect(gaugeOf(unwashed, 'stitches')!.isWashed).to.be.false;
    expect([gaugeOf(unwashed, 'rows'), growthOf(unwashed, 'stitches')]).to.deep.equal([null, null]);
  });

  it('of cables is held against a plain one of its yarn and needle, in the same state', () => {
    const cables = swatch({ yarn: 'Moraine worsted', needle: 4, after: measured([26]) });
    const plain = swatch({ cloth: 'plain', yarn: ' moraine Worsted', needle: 4, after: measured([20.8]) });
    const others = [
      swatch({ cloth: 'plain', yarn: 'Moraine worsted', needle: 4.5, after: measured([19]) }),
      swatch({ cloth: 'plain', yarn: 'Scree sport', needle: 4, after: measured([24]) }),
      swatch({ cloth: 'plain', yarn: 'Moraine worsted', needle: 4 }),
    ];
    expect(plainFor(cables, [...others, cables, plain])).to.equal(plain);
    expect(drawInOf(cables, plain)).to.be.closeTo(0.2, 1e-12);
    expect(plainFor(cables, others)).to.be.null;
    expect(plainFor(plain, [plain])).to.be.null;
    expect(plainFor({ ...cables, yarn: '' }, [{ ...plain, yarn: '' }])).to.be.null;
    // Washed and unwashed are not held against each other.
    expect(drawInOf(cables, swatch({ before: measured([20]) }))).to.be.null;
  });

  it('tells the yarn of a piece only where it was weighed and counted', () => {
    // Rows that were not counted are not made up.
    expect(gramsPerLoop(swatch({ grams: 24, whole: { stitches: 40, rows: null } }))).to.equal(null);
    const weighed = swatch({ grams: 24, whole: { stitches: 40, rows: 60 } });
    expect(gramsPerLoop(weighed)).to.equal(0.01);
  });
});
