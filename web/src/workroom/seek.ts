import type { Card } from '@cordelina/core';

/** Finding a design among hundreds: by its title, its tags, the words of its stitches and what it says. */

export const ORDERS = [
  ['touched', 'Last touched'],
  ['title', 'Title'],
  ['errors', 'What is wrong first'],
  ['size', 'Largest first'],
] as const;
export type Order = (typeof ORDERS)[number][0];

export interface Sought {
  text: string;
  /** Only designs of this tag; null for all. */
  tag: string | null;
  order: Order;
}

/** A card that was found, and where, when that is not seen on it. */
export interface Found {
  card: Card;
  why: string | null;
}

const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

const AROUND = 24;

/** A few words about the place where something is said. */
function snippet(said: string, word: string): string {
  const flat = said.replace(/\s+/g, ' ');
  const at = plain(flat).indexOf(word);
  const from = Math.max(0, at - AROUND);
  const to = at + word.length + AROUND;
  return `${from > 0 ? '… ' : ''}${flat.slice(from, to).trim()}${to < flat.length ? ' …' : ''}`;
}

/** Where one word of what is sought stands in a card: '' where that is seen on it, null where nowhere. */
function whereIn({ title, summary }: Card, word: string): string | null {
  if (plain(title).includes(word)) return '';
  if (!summary) return null;
  if (summary.tags.some((tag) => plain(tag).includes(word))) return '';
  const stitch =
    summary.stitches.find((s) => plain(s) === word) ?? summary.stitches.find((s) => plain(s).includes(word));
  if (stitch) return `uses ${stitch}`;
  return plain(summary.said).includes(word) ? snippet(summary.said, word) : null;
}

/** What is sought: words apart by spaces; what stands in quotation marks, or is a crossing's name as "2/2 LC", together. */
function wordsOf(text: string): string[] {
  const words = plain(text).match(/"[^"]+"|\d+(?:\/\d+)+ [a-z]+|[^\s"]+/g) ?? [];
  return words.map((word) => word.replaceAll('"', '').trim()).filter(Boolean);
}

const collator = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });

const AFTER: Readonly<Record<Order, (a: Card, b: Card) => number>> = {
  touched: (a, b) => b.savedAt.localeCompare(a.savedAt),
  title: (a, b) => collator.compare(a.title, b.title),
  errors: (a, b) =>
    (b.summary?.errors ?? 0) - (a.summary?.errors ?? 0) ||
    (b.summary?.cautions ?? 0) - (a.summary?.cautions ?? 0),
  size: (a, b) =>
    (b.summary ? b.summary.columns * b.summary.rows : 0) -
    (a.summary ? a.summary.columns * a.summary.rows : 0),
};

/** The cards that have every word that is sought, in order. Those only this browser has yet stand as they are given. */
export function seek(cards: readonly Card[], { text, tag, order }: Sought): Found[] {
  const words = wordsOf(text);
  const found = cards.flatMap((card): Found[] => {
    if (tag !== null && !card.summary?.tags.includes(tag)) return [];
    const where = words.map((word) => whereIn(card, word));
    if (where.includes(null)) return [];
    return [{ card, why: where.find(Boolean) ?? null }];
  });
  return found.sort((a, b) => AFTER[order](a.card, b.card));
}

/** The tags in use, and how many designs have each. */
export function tagsOf(cards: readonly Card[]): [tag: string, designs: number][] {
  const count = new Map<string, number>();
  for (const { summary } of cards)
    for (const tag of summary?.tags ?? []) count.set(tag, (count.get(tag) ?? 0) + 1);
  return [...count].sort(([a], [b]) => collator.compare(a, b));
}
