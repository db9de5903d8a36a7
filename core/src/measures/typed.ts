import { NEEDLE_SIZES } from './trade.js';
import { LENGTH_UNITS, LONGEST, lengthOf, lengthText, type Length, type LengthUnit } from './length.js';

/** Numbers and measures as a person types them; what cannot be one is answered with one sentence. */
export type Typed<T> = { value: T } | { problem: string };

const FRACTIONS: Readonly<Record<string, number>> = { '¼': 1 / 4, '½': 1 / 2, '¾': 3 / 4 };

/** "7", "7.5", "7,5", "7½", "7 1/2", "1/2": null where it is none of these, or longer than any number here. */
function numberOf(text: string): number | null {
  if (text.length > 20) return null;
  const plain = /^(\d+)(?:[.,](\d+))?$/.exec(text) ?? /^()[.,](\d+)$/.exec(text);
  if (plain) return Number(`${plain[1] || 0}.${plain[2] ?? 0}`);
  const mixed = /^(\d+)?\s*(?:([¼½¾])|(\d{1,2})\/(\d{1,2}))$/.exec(text);
  if (!mixed || (mixed[1] && !mixed[2] && !/\s/.test(text))) return null;
  const [, whole = '0', sign, over, under] = mixed;
  const part = sign ? FRACTIONS[sign]! : Number(over) / Number(under);
  return Number.isFinite(part) ? Number(whole) + part : null;
}

/** A number within bounds; whole, unless halves and the like are meant. */
export function typedNumber(
  text: string,
  { what, least, most, isWhole = true }: { what: string; least: number; most: number; isWhole?: boolean },
): Typed<number> {
  const n = numberOf(text.trim());
  if (n === null) return { problem: `${what} is a number; "${text.trim().slice(0, 20)}" is none.` };
  if (isWhole && !Number.isInteger(n)) return { problem: `${what} is a whole number.` };
  if (n < least || n > most) return { problem: `${what} is from ${least} to ${most}.` };
  return { value: n };
}

const UNIT_WORDS: Readonly<Record<string, LengthUnit>> = {
  ...Object.fromEntries(LENGTH_UNITS.map((unit) => [unit, unit])),
  '"': 'in',
  '″': 'in',
  inch: 'in',
  inches: 'in',
};

/** A measure: in the unit it names, or else in the one that is in use. */
export function typedLength(
  text: string,
  unit: LengthUnit,
  { what, least, most = LONGEST }: { what: string; least: Length; most?: Length },
): Typed<Length> {
  const [, figures = '', word = ''] = /^([^a-z"″]*)(.*)$/i.exec(text.trim())!;
  const own = word ? UNIT_WORDS[word.toLowerCase()] : unit;
  const n = numberOf(figures.trim());
  if (n === null || !own)
    return {
      problem: `${what} is one measure, as 48 ${unit} or 7½ in; "${text.trim().slice(0, 20)}" is none.`,
    };
  const length = lengthOf(n, own);
  if (length < least || length > most)
    return { problem: `${what} is from ${lengthText(least, unit)} to ${lengthText(most, unit)}.` };
  return { value: length };
}

/** A length as it stands in a field: to a hundredth of a unit, without the unit's name. */
export const typedText = (length: Length, unit: LengthUnit): string =>
  String(Number((length / lengthOf(1, unit)).toFixed(2)));

/** A needle in millimetres across: by its measure, or by the number it goes by in the US or of old in the UK. */
export function typedNeedle(text: string): Typed<number> {
  const [, trade, name = ''] = /^(US|UK)?\s*(.*?)\s*(?:mm)?$/i.exec(text.trim())!;
  if (!trade) return typedNumber(name, { what: 'A needle', least: 0.5, most: 50, isWhole: false });
  const key = trade.toLowerCase() as 'us' | 'uk';
  const wanted = name.replace(/ ?1\/2$/, '½').replace(/\.5$/, '½');
  const size = NEEDLE_SIZES.find((n) => n[key] === wanted);
  return size
    ? { value: size.mm }
    : {
        problem: `The trade has no needle ${trade.toUpperCase()} ${name.slice(0, 8)} here: give its millimetres.`,
      };
}
