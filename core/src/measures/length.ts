/** Lengths, kept exact: whole micrometres, of which an inch has 25,400 and a centimetre 10,000. */
export type Length = number;

export const LENGTH_UNITS = ['cm', 'in', 'mm'] as const;
export type LengthUnit = (typeof LENGTH_UNITS)[number];

/** Micrometres in a unit: the inch by its definition of 1959, 25.4 mm exactly. */
export const UNIT: Readonly<Record<LengthUnit, Length>> = { mm: 1000, cm: 10_000, in: 25_400 };

/** Metres in a yard, by the same definition. */
export const YARD = 0.9144;

/** Longer than any piece of knitting: ten metres. */
export const LONGEST: Length = 10_000_000;

/** A measure in a unit as a length, to the micrometre. */
export const lengthOf = (measure: number, unit: LengthUnit): Length => Math.round(measure * UNIT[unit]);

/** A length as a measure in a unit, not rounded. */
export const measureOf = (length: Length, unit: LengthUnit): number => length / UNIT[unit];

const QUARTERS = ['', '¼', '½', '¾'];

/** A length as it is printed: to the millimetre, or to the quarter of an inch (common practice, no source). */
export function lengthText(length: Length, unit: LengthUnit): string {
  if (unit === 'in') {
    const quarters = Math.round((4 * length) / UNIT.in);
    const whole = Math.floor(quarters / 4);
    const part = QUARTERS[quarters % 4]!;
    return `${whole || !part ? whole : ''}${part} in`;
  }
  const digits = unit === 'cm' ? 1 : 0;
  return `${Number(measureOf(length, unit).toFixed(digits))} ${unit}`;
}
