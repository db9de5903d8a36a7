import { expect } from 'chai';
import fc from 'fast-check';
import { lengthOf, typedLength, typedNeedle, typedNumber, typedText } from '../src/index.js';
import { LENGTH_UNITS } from '../src/measures/length.js';

describe('numbers and measures as they are typed', () => {
  const length = (text: string, unit: 'cm' | 'in' = 'cm') =>
    typedLength(text, unit, { what: 'The width', least: 1000 });
  const count = (text: string) => typedNumber(text, { what: 'A count', least: 1, most: 2000 });

  it('are read with point or comma, as fractions, and in a unit of their own', () => {
    for (const [text, unit, micrometres] of [
      ['48', 'cm', 480_000],
      ['48.5', 'cm', 485_000],
      ['48,5', 'cm', 485_000],
      ['7½', 'in', 190_500],
      ['7 1/2', 'in', 190_500],
      ['1/2 in', 'cm', 12_700],
      ['¾"', 'cm', 19_050],
      ['480 mm', 'in', 480_000],
      ['19 inches', 'cm', 482_600],
      ['.5', 'cm', 5_000],
    ] as const)
      expect(length(text, unit), text).to.deep.equal({ value: micrometres });
    expect(count('26')).to.deep.equal({ value: 26 });
    expect(typedNumber('26½', { what: 'A count', least: 1, most: 2000, isWhole: false })).to.deep.equal({
      value: 26.5,
    });
  });

  it('name needles by their measure or by their number in the trade', () => {
    for (const [text, mm] of [
      ['4', 4],
      ['4.5 mm', 4.5],
      ['US 6', 4],
      ['us10 1/2', 6.5],
      ['UK 8', 4],
      ['UK 000', 10],
    ] as const)
      expect(typedNeedle(text), text).to.deep.equal({ value: mm });
    expect(typedNeedle('US 12')).to.have.property('problem').that.includes('US 12');
    expect(typedNeedle('70')).to.deep.equal({ problem: 'A needle is from 0.5 to 50.' });
  });

  it('are refused in one sentence when they are none, or none there can be', () => {
    for (const text of [
      '',
      '-4',
      '0',
      '10 cm 4 in',
      '10 ells',
      '1/0',
      'NaN',
      '1e9',
      '99999',
      '71/2',
      '4 4',
    ]) {
      const said = length(text);
      expect(said, text)
        .to.have.property('problem')
        .that.matches(/^The width is [^.]*("[^"]*"[^.]*)?\.?/);
    }
    expect(length('10 cm 4 in')).to.deep.equal({
      problem: 'The width is one measure, as 48 cm or 7½ in; "10 cm 4 in" is none.',
    });
    expect(count('2001')).to.deep.equal({ problem: 'A count is from 1 to 2000.' });
    expect(count('1.5')).to.deep.equal({ problem: 'A count is a whole number.' });
  });

  it('stand in a field so that they are read again as they were, to a hundredth', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 90_000 }), fc.constantFrom(...LENGTH_UNITS), (n, unit) => {
        const exact = lengthOf(n / 100, unit);
        const read = typedLength(typedText(exact, unit), unit, { what: 'It', least: 0, most: 1e9 });
        expect(read).to.deep.equal({ value: exact });
      }),
    );
  });
});
