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

describe('numbers as people type them', () => {
  const inches = (text: string) => typedLength(text, 'cm', { what: 'It', least: 0 });
  const part = (text: string) => typedNumber(text, { what: 'It', least: 0, most: 100_000, isWhole: false });

  it('know every fraction there is a sign for, and every way of writing one', () => {
    for (const [text, value] of [
      ['⅛', 1 / 8],
      ['7⅜', 7.375],
      ['7 ⅜', 7.375],
      ['⅓', 1 / 3],
      ['2⅔', 2 + 2 / 3],
      ['⅝', 5 / 8],
      ['1⅞', 1.875],
      ['7-1/2', 7.5],
      ['7–1/2', 7.5],
      ['7\u00a01/2', 7.5],
      ['7 1⁄2', 7.5],
    ] as const)
      expect(part(text), text).to.deep.equal({ value });
  });

  it('know marks of inches, straight or curled, and metres', () => {
    for (const text of [
      '7½"',
      '7½”',
      '7½“',
      '7½″',
      "7½''",
      '7.5 in.',
      '7 1/2 inches',
      '190.5 mm',
      '19,05 cm',
    ])
      expect(inches(text), text).to.deep.equal({ value: 190_500 });
    for (const text of ['1.5 m', '1,5 metres', '1½ meter', '150 centimetres', '1500 millimeters'])
      expect(inches(text), text).to.deep.equal({ value: 1_500_000 });
  });

  it('know a needle by the mark of its number', () => {
    for (const [text, mm] of [
      ['#6', 4],
      ['# 6', 4],
      ['US #6', 4],
      ['no. 6', 4],
      ['#10½', 6.5],
      ['#10-1/2', 6.5],
    ] as const)
      expect(typedNeedle(text), text).to.deep.equal({ value: mm });
  });

  it('ask where a point may part thousands, and know where it must', () => {
    for (const text of ['1.000', '1,000', '12.500'])
      expect(part(text), text).to.have.property('problem').that.includes('may be');
    expect(part('1.000')).to.deep.equal({
      problem: '"1.000" may be 1 and a part, or 1000: write 1.0 or 1000.',
    });
    for (const [text, value] of [
      ['1 000', 1000],
      ["12'500", 12_500],
      ['1,234.5', 1234.5],
      ['1.234,5', 1234.5],
      ['0.125', 0.125],
      ['0,500', 0.5],
      ['1000', 1000],
    ] as const)
      expect(part(text), text).to.deep.equal({ value });
  });

  it('are no notations of machines', () => {
    for (const text of ['1e2', '0x10', '1_000', '+5', '٣', 'Infinity', '0b11', '1.', '1/2/3', '1..5', '--1'])
      expect(part(text), text).to.have.property('problem');
  });
});
