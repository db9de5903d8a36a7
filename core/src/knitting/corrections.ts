import type { Note } from './document.js';

/** What of knitters' notes is printed among the corrections of a sheet, the oldest first: the answer, or what was noticed. */
export function correctionsOf(notes: readonly Note[]): string[] {
  return notes
    .filter(({ errata, text, answer, count }) => errata && (text || answer || count))
    .sort((a, b) => a.at - b.at)
    .map(({ where, text, answer, count }) => {
      const counted = count ? `The row leaves ${count.found} stitches, not ${count.said}.` : '';
      return `${where}: ${(answer || [text, counted].filter(Boolean).join(' ')).replace(/\s+/g, ' ').trim()}`;
    });
}
