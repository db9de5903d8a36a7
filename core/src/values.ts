import { z } from 'zod';

/** Plain values of documents: compared, bounded, and kept so that every store and file can hold them. */

/** Whether two JSON values are equal, whatever the order of their keys. An absent key equals `undefined`. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b))
    return (
      Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((v, i) => sameValue(v, b[i]))
    );
  const [x, y] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const held = (o: Record<string, unknown>) => Object.keys(o).filter((k) => o[k] !== undefined);
  const keys = held(x);
  return keys.length === held(y).length && keys.every((k) => Object.hasOwn(y, k) && sameValue(x[k], y[k]));
}

/** Whether a value is nested no deeper than `depth`: what comes from outside is looked at before it is walked. */
export function isShallow(value: unknown, depth = 6): boolean {
  if (typeof value !== 'object' || value === null) return true;
  return depth > 0 && Object.values(value).every((v) => isShallow(v, depth - 1));
}

/** NUL and halves of surrogate pairs: no database, file or font can hold them. */
const UNKEEPABLE = /\0|\p{Surrogate}/u;

const WELL_KEPT = 'This text holds a character that cannot be kept (NUL, or half of a pair).';

/** A text from outside, of so many characters, that every store can keep. */
export function boundedText(least: number, most: number) {
  return z
    .string()
    .min(least)
    .max(most)
    .refine((text) => !UNKEEPABLE.test(text), WELL_KEPT);
}

/** The same for a name or title: what stands blank around it is taken off. */
export function boundedTitle(most: number, missing?: string) {
  return z
    .string()
    .trim()
    .min(1, missing)
    .max(most)
    .refine((text) => !UNKEEPABLE.test(text), WELL_KEPT);
}

/** A text typed or pasted by a person, without what cannot be kept. */
export function keepable(text: string): string {
  return text.replace(new RegExp(UNKEEPABLE, 'gu'), '');
}

/** The beginning of a text, at most so many UTF-16 units, never cut through a character. */
export function cutText(text: string, most: number): string {
  return keepable(text.slice(0, most));
}

/** What is left of a number when `of` is taken away as often as it goes; never negative. */
export const modulo = (n: number, of: number): number => ((n % of) + of) % of;

/** The greatest common divisor, and the least common multiple, of whole numbers above 0. */
export const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);
export const lcm = (a: number, b: number): number => (a / gcd(a, b)) * b;

/** "1 stitch", "2 stitches", "3 finished repeats". */
export const counted = (n: number, one: string, many = one.endsWith('ch') ? `${one}es` : `${one}s`): string =>
  `${n} ${n === 1 ? one : many}`;
