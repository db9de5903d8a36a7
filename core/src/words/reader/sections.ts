import { outlineOf, type Segment, type Span } from './language.js';
import { withPlainMarks } from './spelling.js';

/** One pattern of a text that holds several, and what stands above its rows first. */
export interface Section extends Span {
  title: string | null;
}

const MOST_SECTIONS = 40;
const LONGEST_TITLE = 80;

const isRowOne = (text: string): boolean =>
  /^\W*(?:(?:rows?|rounds?|rnds?|r)\s*\.?\s*(?:1(?!\d)|one\b)|1st\b|first\b|1\s*[:.)])/i.test(text);

/** Whether a row is the first of its pattern: it is numbered 1, or called so. */
const isFirstRow = (text: string): boolean =>
  isRowOne(text) || /^\W*(?:set-?\s?up\b|foundation\b|prep)/i.test(text);

/**
 * The patterns of a text, each from what stands above its rows to what stands above the next one's. A new one begins
 * where rows are numbered from 1 again.
 */
export function sectionsOf(text: string): Section[] {
  const plain = withPlainMarks(text);
  const found: Section[] = [];
  let start = 0;
  let title: string | null = null;
  let hasRows = false;
  let hasFirst = false;
  /** Where what may stand above the next pattern begins: behind a blank line. */
  let gap: { from: number; title: string | null } | null = null;
  let isBlank = true;
  let inKey = false;
  const titleOf = ({ begins, from, to }: Segment) =>
    begins === 'other' ? plain.slice(from, to).trim().slice(0, LONGEST_TITLE) : null;
  for (const line of outlineOf(plain)) {
    const [first] = line;
    if (!first) {
      isBlank = true;
      continue;
    }
    const { begins } = first;
    if (begins === 'keyHead') inKey = true;
    if (begins === 'row' || begins === 'maybeRow') {
      inKey = false;
      if (hasFirst && isFirstRow(plain.slice(first.from, first.to)) && found.length < MOST_SECTIONS) {
        const at = gap?.from ?? first.from;
        found.push({ from: start, to: at, title });
        [start, title] = [at, gap?.title ?? null];
        hasFirst = false;
      }
      hasRows = true;
      // Row 1 goes on behind a set-up row, and may stand behind a line for all rows like row 2.
      hasFirst ||= isRowOne(plain.slice(first.from, first.to));
      gap = null;
    } else if (begins === 'key' || (begins === 'maybeKey' && inKey) || begins === 'keyHead') gap = null;
    else if (!hasRows) title ??= titleOf(first);
    else if (isBlank && !gap) gap = { from: first.from, title: titleOf(first) };
    else if (gap) gap.title ??= titleOf(first);
    isBlank = false;
  }
  return [...found, { from: start, to: text.length, title }];
}

/** The lines of a text that may be lines of a key, outside of a section. */
export function keyOutside(text: string, { from, to }: Span): string {
  const lines: string[] = [];
  let inKey = false;
  for (const line of outlineOf(withPlainMarks(text))) {
    const [first] = line;
    if (!first) continue;
    if (first.begins === 'keyHead') inKey = true;
    if (first.begins === 'row') inKey = false;
    const isKey = first.begins === 'key' || (inKey && first.begins !== 'keyHead');
    if (isKey && (first.from < from || first.from >= to)) lines.push(text.slice(first.from, line.at(-1)!.to));
  }
  return lines.join('\n');
}
