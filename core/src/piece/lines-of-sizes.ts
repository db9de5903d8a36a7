import { sameValue } from '../values.js';
import { linesInSizes, ofSize } from './in-sizes.js';

/** Rows of a piece as lines that hold for all its sizes, or for those they are told under. */

/** A row as it is printed; where sizes differ by more than numbers, for which it holds. */
export interface PieceLine {
  head: string;
  words: string;
  sizes: readonly string[] | null;
}

/** A row of one size. */
export type OwnLine = Pick<PieceLine, 'head' | 'words'>;

const SEPARATOR = '\u0001';

/** Lines of each size as lines of all: those that differ by their numbers alone are told once. */
export function merged(bySize: readonly (readonly OwnLine[])[], names: readonly string[]): PieceLine[] {
  const [first] = bySize;
  const split = (text: string) => {
    const at = text.indexOf(SEPARATOR);
    return { head: text.slice(0, at), words: text.slice(at + 1) };
  };
  const text = ({ head, words }: OwnLine) => head + SEPARATOR + words;
  if (bySize.some((lines) => lines.length !== first!.length)) {
    // Not the same rows in all sizes: each tells its own.
    const groups = linesInSizes(
      bySize.map((lines) => lines.map(text).join('\n')),
      names,
    );
    return groups.flatMap(({ text: all, sizes }) => all.split('\n').map((t) => ({ ...split(t), sizes })));
  }
  return first!.flatMap((_, i) =>
    linesInSizes(
      bySize.map((lines) => text(lines[i]!)),
      names,
    ).map(({ text: t, sizes }) => ({ ...split(t), sizes })),
  );
}

/** The lines of one size (from 0), in its own numbers. */
export const ofOneSize = (lines: readonly PieceLine[], s: number, names: readonly string[]): OwnLine[] =>
  lines.flatMap(({ head, words, sizes }): OwnLine[] => {
    if (sizes) return sizes.includes(names[s]!) ? [{ head, words }] : [];
    const [ownHead, ownWords] = [head, words].map((t) => ofSize(t, s, names.length));
    return [{ head: ownHead!, words: ownWords! }];
  });

/** Whether what is printed, taken apart again, gives each size its own rows to the letter, and no others. */
export const isToldApart = (
  lines: readonly PieceLine[],
  bySize: readonly (readonly OwnLine[])[],
  names: readonly string[],
): boolean => bySize.every((own, s) => sameValue(ofOneSize(lines, s, names), own));
