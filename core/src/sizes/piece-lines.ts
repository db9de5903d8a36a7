import { linesInSizes, ofSize } from './in-sizes.js';

/** Rows of a piece as lines that hold for all its sizes, or for those they are told under. */

/** A row as it is printed; where sizes differ by more than numbers, for which it holds. */
export interface PieceLine {
  head: string;
  words: string;
  sizes: string | null;
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

/** Whether what is printed for all sizes gives each of them its own back. */
export function isToldApart(
  lines: readonly PieceLine[],
  bySize: readonly (readonly OwnLine[])[],
  names: readonly string[],
) {
  return bySize.every((own, s) => {
    const mine = lines
      .filter(({ sizes }) => sizes === null || sizes.split(', ').includes(names[s]!))
      .map(({ words }) => ofSize(words, s, bySize.length));
    return mine.length === own.length && own.every(({ words }, i) => words === mine[i]);
  });
}

/** Equal lines one after another, or taking turns, are told once: "Rows 2, 4 and 6". */
export function joinedLines(lines: readonly PieceLine[]): PieceLine[] {
  const told: (PieceLine & { numbers: number[] })[] = [];
  for (const line of lines) {
    const number = /^(\w+) (\d+)( \([^)]*\))?$/.exec(line.head);
    const same =
      number &&
      told.find(
        (t) =>
          t.numbers.length &&
          t.words === line.words &&
          t.sizes === line.sizes &&
          sideOfHead(t.head) === sideOfHead(line.head),
      );
    if (same) same.numbers.push(Number(number[2]));
    else told.push({ ...line, numbers: number ? [Number(number[2])] : [] });
  }
  return told.map(({ numbers, head, ...line }) => {
    if (numbers.length < 2) return { ...line, head };
    const [, word = '', , side = ''] = /^(\w+) (\d+)( \([^)]*\))?$/.exec(head)!;
    const list = `${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)}`;
    return { ...line, head: `${word}s ${list}${side}` };
  });
}

const sideOfHead = (head: string): string => / \(([^)]*)\)$/.exec(head)?.[1] ?? '';
