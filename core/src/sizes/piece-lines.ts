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

/** What heads a line that is told for one row, and for several. */
const ONE = /^(\w+) (\d+)( \([^)]*\))?$/;
const SEVERAL = /^(\w+)s (\d+(?:, \d+)* and \d+)( \([^)]*\))?$/;

/** The rows that a head stands for, each under a head of its own. */
function headsOf(head: string): string[] {
  const [, word, numbers, side = ''] = SEVERAL.exec(head) ?? [];
  return numbers ? numbers.split(/, | and /).map((n) => `${word} ${n}${side}`) : [head];
}

/** Each row of some lines by itself. */
const rowsOf = (lines: readonly OwnLine[]): string[] =>
  lines.flatMap(({ head, words }) => headsOf(head).map((h) => h + SEPARATOR + words)).sort();

/** Whether what is printed, taken apart again, gives each size its own rows to the letter, and no others. */
export function isToldApart(
  lines: readonly PieceLine[],
  bySize: readonly (readonly OwnLine[])[],
  names: readonly string[],
): boolean {
  return bySize.every((own, s) => {
    const mine = lines.flatMap(({ head, words, sizes }): OwnLine[] => {
      if (sizes) return sizes.includes(names[s]!) ? [{ head, words }] : [];
      const [ownHead, ownWords] = [head, words].map((t) => ofSize(t, s, bySize.length));
      return [{ head: ownHead!, words: ownWords! }];
    });
    return sameValue(rowsOf(mine), rowsOf(own));
  });
}

/** Equal lines one after another, or taking turns, are told once: "Rows 2, 4 and 6". */
export function joinedLines(lines: readonly PieceLine[]): PieceLine[] {
  const told: (PieceLine & { numbers: number[] })[] = [];
  for (const line of lines) {
    const number = ONE.exec(line.head);
    const same =
      number &&
      told.find(
        (t) =>
          t.numbers.length &&
          t.words === line.words &&
          sameValue(t.sizes, line.sizes) &&
          sideOfHead(t.head) === sideOfHead(line.head),
      );
    if (same) same.numbers.push(Number(number[2]));
    else told.push({ ...line, numbers: number ? [Number(number[2])] : [] });
  }
  return told.map(({ numbers, head, ...line }) => {
    if (numbers.length < 2) return { ...line, head };
    const [, word = '', , side = ''] = ONE.exec(head)!;
    const list = `${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)}`;
    return { ...line, head: `${word}s ${list}${side}` };
  });
}

const sideOfHead = (head: string): string => / \(([^)]*)\)$/.exec(head)?.[1] ?? '';
