import { NEEDLE_SIZES } from './trade.js';
import { LENGTH_UNITS, LONGEST, lengthOf, lengthText, type Length, type LengthUnit } from './length.js';

/** Numbers and measures as a person types them; what cannot be one is answered with one sentence. */
export type Typed<T> = { value: T } | { problem: string };

/** What a text of figures is: a number, none, or one that can be read two ways. */
type Figures = number | null | 'ambiguous';

/** Longer than any number here. */
const LONGEST_TEXT = 20;
/** The spaces, and the mark, that part thousands. */
const PARTS = /(?<=\d)[ \u00a0\u2009\u202f'’](?=\d{3}(?:\D|$))/g;
/** Between a whole and its fraction: a space, a hyphen or a dash. */
const JOINS = /[\s\u00a0\u2009\u202f\u2010-\u2013-]/;

/** Signs of fractions as figures, by Unicode's own taking apart: "7½" is "7 1/2". */
const withFigures = (text: string): string =>
  text
    .replace(/\s*([\u00bc-\u00be\u2150-\u215e])/g, (_, sign: string) => ` ${sign.normalize('NFKD')}`)
    .replaceAll('\u2044', '/');

/**
 * "7", "7.5", "7,5", "7½", "7 1/2", "7-1/2", "1/2", "1 000", "1,234.5". "1.000" may be one or a thousand (both are written so, by
 * country) and is asked; "1e2" and "0x10" are no numbers as people write them.
 */
function figuresOf(text: string): Figures {
  if (text.length > LONGEST_TEXT) return null;
  const plain = withFigures(text).replace(PARTS, '').trim();
  if (/^[1-9]\d{0,2}[.,]\d{3}$/.test(plain)) return 'ambiguous';
  const grouped = /^[1-9]\d{0,2}(?:(,\d{3})+(?:\.\d+)?|(\.\d{3})+(?:,\d+)?)$/.test(plain);
  if (grouped) {
    const point = /[.,](?=\d*$)/.exec(plain)![0];
    const isGrouping = plain.split(point).length > 2;
    const [whole, part = '0'] = isGrouping ? [plain] : plain.split(point);
    return Number(`${whole!.replace(/\D/g, '')}.${part}`);
  }
  const decimal = /^(\d*)[.,]?(\d*)$/.exec(plain);
  if (decimal && /\d/.test(plain) && !/[.,]$/.test(plain))
    return Number(`${decimal[1] || 0}.${decimal[2] || 0}`);
  const mixed = new RegExp(`^(?:(\\d+)${JOINS.source}+)?(\\d{1,2})/(\\d{1,2})$`).exec(plain);
  if (!mixed) return null;
  const [over, under] = [Number(mixed[2]), Number(mixed[3])];
  // "71/2" lacks a space somewhere.
  if (over > 9 && over >= under) return null;
  const part = over / under;
  return Number.isFinite(part) ? Number(mixed[1] ?? 0) + part : null;
}

/** Why a text can be read two ways, and how either is written. */
function twoWays(text: string): string {
  const [whole, part] = text.trim().split(/[.,]/) as [string, string];
  return `"${text.trim()}" may be ${whole} and a part, or ${whole}${part}: write ${whole}.${part.replace(/0+$/, '') || '0'} or ${whole}${part}.`;
}

/** A number as a person types it; NaN where it is none, or can be read two ways. */
export function numberTyped(text: string): number {
  const n = figuresOf(text.trim());
  return typeof n === 'number' ? n : NaN;
}

/** A number within bounds; whole, unless halves and the like are meant. */
export function typedNumber(
  text: string,
  { what, least, most, isWhole = true }: { what: string; least: number; most: number; isWhole?: boolean },
): Typed<number> {
  const n = figuresOf(text.trim());
  if (n === 'ambiguous') return { problem: twoWays(text) };
  if (n === null) return { problem: `${what} is a number; "${text.trim().slice(0, 20)}" is none.` };
  if (isWhole && !Number.isInteger(n)) return { problem: `${what} is a whole number.` };
  if (n < least || n > most) return { problem: `${what} is from ${least} to ${most}.` };
  return { value: n };
}

const UNIT_WORDS: Readonly<Record<string, LengthUnit>> = {
  ...Object.fromEntries(LENGTH_UNITS.map((unit) => [unit, unit])),
  ...Object.fromEntries(['"', '″', '”', '“', '„', "''", '’’', '′′'].map((mark) => [mark, 'in' as const])),
  'in.': 'in',
  inch: 'in',
  inches: 'in',
  centimetre: 'cm',
  centimetres: 'cm',
  centimeter: 'cm',
  centimeters: 'cm',
  millimetre: 'mm',
  millimetres: 'mm',
  millimeter: 'mm',
  millimeters: 'mm',
};

/** Metres, which no piece is measured in, and yarn is. */
const METRES = /^(?:m|met(?:re|er)s?)$/;

/** A measure: in the unit it names, or else in the one that is in use. */
export function typedLength(
  text: string,
  unit: LengthUnit,
  { what, least, most = LONGEST }: { what: string; least: Length; most?: Length },
): Typed<Length> {
  const [, figures = '', word = ''] =
    /^([^a-z"″”“„′]*?)\s*((?:''|’’|[a-z"″”“„′]).*)?$/i.exec(text.trim()) ?? [];
  const named = word.toLowerCase();
  const inMetres = METRES.test(named);
  const own = inMetres ? 'cm' : named ? UNIT_WORDS[named] : unit;
  const read = figuresOf(figures.trim());
  if (read === 'ambiguous') return { problem: twoWays(figures) };
  const n = read === null ? null : inMetres ? read * 100 : read;
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
  // "#6" is how a shop in the US writes it.
  const said = text.trim().replace(/^(?:US\s*)?(?:#|no\.?\s)\s*/i, 'US ');
  const [, trade, name = ''] = /^(US|UK)?\s*(.*?)\s*(?:mm)?$/i.exec(said)!;
  if (!trade) return typedNumber(name, { what: 'A needle', least: 0.5, most: 50, isWhole: false });
  const key = trade.toLowerCase() as 'us' | 'uk';
  const wanted = name.replace(/[ -]?1\/2$/, '½').replace(/[.,]5$/, '½');
  const size = NEEDLE_SIZES.find((n) => n[key] === wanted);
  return size
    ? { value: size.mm }
    : {
        problem: `The trade has no needle ${trade.toUpperCase()} ${name.slice(0, 8)} here: give its millimetres.`,
      };
}
