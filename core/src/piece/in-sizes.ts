/**
 * Texts that hold for several sizes, in the trade's form: a number that is not the same in all of them is followed by the
 * others in brackets, "96 (104, 112, 120) sts". Taken apart again each size has its own text back, to the letter.
 */

const NUMBER = /\d+/g;

/** What stands between the numbers of a text. */
const between = (text: string): string => text.replace(NUMBER, '#');

/** How the numbers of several sizes are printed. */
export const sizesText = (numbers: readonly (number | string)[]): string =>
  numbers.every((n) => n === numbers[0]) ? `${numbers[0]}` : `${numbers[0]} (${numbers.slice(1).join(', ')})`;

/** The text of one size (from 0) out of one for `of` sizes. */
export function ofSize(text: string, size: number, of: number): string {
  if (of < 2) return text;
  const others = Array(of - 1)
    .fill('\\d+')
    .join(', ');
  return text.replace(new RegExp(`(\\d+) \\((${others})\\)`, 'g'), (_, first: string, rest: string) =>
    size === 0 ? first : rest.split(', ')[size - 1]!,
  );
}

/** Texts of several sizes as one; null where they differ by more than their numbers, or could not be told apart again. */
export function inSizes(texts: readonly string[]): string | null {
  const [first] = texts;
  if (first === undefined || texts.some((t) => between(t) !== between(first))) return null;
  const numbers = texts.map((t) => t.match(NUMBER) ?? []);
  let i = 0;
  const merged = first.replace(NUMBER, () => {
    const place = i++;
    return sizesText(numbers.map((n) => n[place]!));
  });
  return texts.every((t, size) => ofSize(merged, size, texts.length) === t) ? merged : null;
}

/** The same where it goes; else each size's text by itself, under the names of those it holds for. */
export function linesInSizes(
  texts: readonly string[],
  names: readonly string[],
): { text: string; sizes: string[] | null }[] {
  const merged = inSizes(texts);
  if (merged !== null) return [{ text: merged, sizes: null }];
  const groups = new Map<string, string[]>();
  texts.forEach((text, i) => groups.set(text, [...(groups.get(text) ?? []), names[i]!]));
  return [...groups].map(([text, held]) => ({ text, sizes: held }));
}
