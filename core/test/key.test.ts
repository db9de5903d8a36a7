import { expect } from 'chai';
import {
  ChartSchema,
  crossing,
  crossingId,
  mirrorCrossing,
  readPattern,
  SettingsSchema,
  showTwists,
  simpleCrossing,
  STITCH_KINDS,
  writeAndProve,
  writeChart,
  type Chart,
  type Stitch,
} from '../src/index.js';
import { ABBREVIATED } from '../src/words/manner.js';
import { keyLineText } from '../src/words/render.js';

const settings = SettingsSchema.parse({});
const keyFor = (chart: Chart, over: Partial<typeof settings> = {}) =>
  writeChart(chart, { ...settings, ...over }).key;
/** A chart with one stitch on both sides, over ground that its counts do not mind. */
const showing = (stitch: Stitch, construction: 'flat' | 'round' = 'flat') =>
  ChartSchema.parse({
    width: 30,
    construction,
    rows: [[stitch], [stitch]].map((row) => [...row, ...Array(25).fill('k')]),
  });

describe('the key', () => {
  it('lists symbol, name, words and steps for both sides, takes and makes', () => {
    const [, entry] = keyFor(showing('k2tog'));
    expect(entry).to.deep.include({ stitch: 'k2tog', name: 'knit 2 together', takes: 2, makes: 1 });
    expect(entry!.sides.map(({ side, word, steps }) => [side, word, steps])).to.deep.equal([
      ['RS', 'k2tog', 'knit 2 stitches together'],
      ['WS', 'p2tog', 'purl 2 stitches together'],
    ]);
  });

  it('says nothing of wrong sides in the round', () => {
    expect(keyFor(showing('ssk', 'round'))[1]!.sides.map((s) => s.side)).to.deep.equal(['RS']);
  });

  it('has steps for every stitch on both sides', () => {
    for (const kind of STITCH_KINDS.values()) {
      if (kind.id === 'none') continue;
      const entry = keyFor(showing(kind.id)).find((e) => e.stitch === kind.id)!;
      expect(entry.sides, kind.id).to.have.length(2);
      for (const { steps } of entry.sides) expect(steps, kind.id).not.to.equal('');
    }
  });

  it('names a gap and gives it no steps', () => {
    const gap = keyFor(ChartSchema.parse({ width: 2, rows: [['k', 'none']] })).find(
      (e) => e.stitch === 'none',
    )!;
    expect(gap).to.deep.include({ name: 'no stitch', takes: 0, makes: 0, sides: [] });
  });

  it('tells sides apart where one word is worked in two ways', () => {
    const lines = writeChart(showing('mb'), settings).pattern.key.map((line) =>
      keyLineText(line, ABBREVIATED),
    );
    expect(lines.filter((l) => l.startsWith('MB'))).to.deep.equal([
      'MB (RS): knit, yarn over, knit, yarn over, knit into the stitch, turn, purl 5, turn, knit 5 together.',
      'MB (WS): purl, yarn over, purl, yarn over, purl into the stitch, turn, knit 5, turn, purl 5 together.',
    ]);
  });

  it('marks the steps of a crossing used on wrong-side rows only, by whatever name it goes', () => {
    const gate = simpleCrossing('left', 2, 2);
    const chart = ChartSchema.parse({ width: 6, rows: [Array(6).fill('k'), ['k', gate, 'k']] });
    for (const names of [{}, { [crossingId(gate)]: 'Gate' }]) {
      const { text, checked } = writeAndProve(chart, { ...settings, names });
      expect(text).to.match(/^(Gate|2\/2 LC) \(WS\): sl 2 to cable needle, hold in front, p2, p2/m);
      expect(checked).to.be.true;
    }
  });

  it('gives a left-handed knitter of the same fabric the steps of the mirror image', () => {
    const left = simpleCrossing('left', 2, 1, 'p');
    const chart = ChartSchema.parse({ width: 3, construction: 'round', rows: [[left]] });
    const mirrored = ChartSchema.parse({ width: 3, construction: 'round', rows: [[mirrorCrossing(left)]] });
    expect(keyFor(chart, { hand: 'left-same-fabric' })[0]!.sides[0]!.steps).to.equal(
      keyFor(mirrored)[0]!.sides[0]!.steps,
    );
    expect(keyFor(chart, { hand: 'left-same-words' })).to.deep.equal(keyFor(chart));
  });

  it('says twists by the method chosen where it makes the twist of the chart, on both sides', () => {
    const loose = (
      front: 'k' | 'ktbl',
      back: 'k' | 'ktbl',
      lean: 'left' | 'right',
      twist: typeof settings.twist,
    ) =>
      keyFor(showing(crossing(lean, [front], [back])), { twist })
        .find((e) => typeof e.stitch === 'object')!
        // Where a method is chosen, nothing is said of a cable needle.
        .sides.map((s) => (s.steps.includes('cable needle') ? undefined : s.steps));
    expect(loose('k', 'k', 'left', 'cable')).to.deep.equal([undefined, undefined]);
    // Knit through its back loop, the second stitch is twisted: a plain left twist is not worked so.
    expect(loose('k', 'k', 'left', 'together')).to.deep.equal([undefined, undefined]);
    expect(loose('k', 'ktbl', 'left', 'second-first')).to.deep.equal([
      'knit the second stitch through its back loop from behind, knit the first through the front, slip both off',
      undefined,
    ]);
    // On the wrong side the stitch purled second passes in front as the right side looks.
    expect(loose('ktbl', 'k', 'left', 'together')).to.deep.equal([
      undefined,
      'purl the second stitch through its back loop from behind, purl the first through the front, slip both off',
    ]);
    expect(loose('k', 'k', 'right', 'second-first')).to.deep.equal([
      'knit the second stitch in front of the first, knit the first, slip both off',
      'purl the second stitch in front of the first, purl the first, slip both off',
    ]);
    expect(loose('ktbl', 'ktbl', 'right', 'both-tbl')[0]).to.equal(
      // Knit together through the back loops the first stitch lies on top: that is a left twist, so this is worked otherwise.
      'knit the second stitch through its back loop in front of the first, knit the first through its back loop, slip both off',
    );
    expect(loose('k', 'k', 'right', 'left-tbl')[0]).to.contain('the second stitch in front of the first');
    expect(loose('ktbl', 'ktbl', 'left', 'left-tbl')[0]).to.contain('the first through its back loop');
    expect(loose('ktbl', 'ktbl', 'left', 'both-tbl')[0]).to.contain('the first through its back loop');
  });

  it('tells the method once the chart shows its twists as it makes them', () => {
    const rope = crossing('left', ['k'], ['k']);
    const chart = ChartSchema.parse({
      width: 4,
      rows: [
        ['p', rope, 'p'],
        ['p', rope, 'p'],
      ],
    });
    const { chart: shown } = showTwists(chart, 'second-first', 'right');
    expect(shown.rows.map((row) => row[1])).to.deep.equal([
      crossing('left', ['k'], ['ktbl']),
      crossing('left', ['ktbl'], ['k']),
    ]);
    const { text, checked } = writeAndProve(shown, { ...settings, twist: 'second-first' });
    expect(checked).to.be.true;
    expect(text.match(/through its back loop from behind/g)).to.have.length(2);
    expect(text).not.to.contain('cable needle');
    expect(showTwists(shown, 'second-first', 'right').steps).to.deep.equal([]);
    expect(showTwists(shown, 'cable', 'right').chart.rows).to.deep.equal(chart.rows);
  });

  it('defines a crossing so that a reader without a school knows it', () => {
    const c = crossing('right', ['ktbl', 'k'], ['p', 'k', 'p'], ['p']);
    const chart = ChartSchema.parse({ width: 8, rows: [['k', c, 'k']] });
    for (const school of ['total-hold', 'total-lean', 'total-ground', 'worked-order'] as const) {
      const { text } = writeChart(chart, { ...settings, school });
      const read = readPattern(text, { construction: 'flat', firstRow: 'RS' });
      expect(read.problems, school).to.deep.equal([]);
      expect(read.chart!.rows[0], school).to.deep.equal(['k', c, 'k']);
    }
  });
});
