/**
 * Patterns for several sizes give the figures of the first, and those of the others in brackets: "cast on 20 (26, 32)
 * sts". A text is read for one size: the figures of the others are left out, and every character keeps its place.
 */

/** The sizes of a text: how many, and the stitches each casts on, as they are written. */
export interface Sizes {
  castOns: string[];
}

/** No pattern is graded for more. */
export const MOST_SIZES = 24;
/** A line may end within a list. */
const GAP = String.raw`[ ]*\n?[ ]*`;
const LIST = String.raw`(\d+)${GAP}[([][ ]*(\d+(?:[ ]*[,:;/]${GAP}\d+)*)[ ]*[)\]]`;
const CAST_ON = new RegExp(String.raw`\b(?:cast(?:ing|s)?[ -]*on|co)\b[^.\n\d]{0,40}${LIST}`, 'i');
/** The numbers of a row's head are no sizes, nor is a count of repeats. */
const ANY = new RegExp(String.raw`(?<!\b(?:rows?|rounds?|rnds?|r)[ ]*\.?[ ]*)(?<![\d.,/])${LIST}`, 'gi');

const figures = (list: string): string[] => list.split(/[^\d]+/).filter(Boolean);

/** The sizes that a text is for; null where it is for one. */
export function sizesIn(text: string): Sizes | null {
  const castOn = CAST_ON.exec(text);
  if (castOn) return sized([castOn[1]!, ...figures(castOn[2]!)]);
  // Without a cast-on, lists of two and more others say it.
  const lists = [...text.matchAll(ANY)].map((m) => figures(m[2]!)).filter((l) => l.length > 1);
  const [first] = lists;
  return first && lists.length > 1 && lists.every((l) => l.length === first.length)
    ? sized(Array.from({ length: first.length + 1 }, () => ''))
    : null;
}

const sized = (castOns: string[]): Sizes | null => (castOns.length <= MOST_SIZES ? { castOns } : null);

/** The text as one size works it, the first being 0. Figures that are not given for all sizes stay as they are. */
export function forSize(text: string, { castOns }: Sizes, size: number): string {
  return text.replace(ANY, (found: string, first: string, list: string) => {
    const all = [first, ...figures(list)];
    return all.length === castOns.length
      ? (all[size] ?? first).padEnd(found.length).slice(0, found.length)
      : found;
  });
}
