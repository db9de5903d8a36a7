import { counted } from '@cordelina/core';
import type { Across } from '@cordelina/core';

/** A repeat as the trade writes it, `8 + 2`: so many columns repeat, and so many stand beside them. */

export interface TypedRepeat {
  before: number;
  after: number;
  /** How often it is worked; null where that is not said. */
  times: number | null;
}

const WRITTEN = /^(\d{1,3})(?:\+(\d{1,3}))?(?:\+(\d{1,3}))?(?:[x×*](\d{1,3}))?$/;

/** The repeat a text says for a chart so many columns wide, or a sentence about what is wrong with it. */
export function readRepeat(text: string, width: number): TypedRepeat | string {
  const said = WRITTEN.exec(text.toLowerCase().replaceAll(/\s/g, ''));
  if (!said) return 'A repeat is written 8 + 2, or 1 + 8 + 1; × 5 behind it says how often.';
  const [first, second, third] = said.slice(1, 4).map((n) => (n === undefined ? null : Number(n))) as [
    number,
    number | null,
    number | null,
  ];
  const times = said[4] === undefined ? null : Number(said[4]);
  const [repeat, edges] = third === null ? [first, second ?? 0] : [second!, first + third];
  if (!repeat) return 'A repeat of no columns repeats nothing.';
  const drawn = (width - edges) / repeat;
  if (!Number.isInteger(drawn) || drawn < 1)
    return `A repeat of ${inColumns(repeat)}${edges ? ` and ${edges} beside it` : ''} makes charts of ${repeat + edges}, ${2 * repeat + edges}, ${3 * repeat + edges} … columns; this one has ${width}.`;
  // What stands beside the repeat balances it: half on either side. Further repeats that are drawn stand to the left.
  const before = third === null ? Math.ceil(edges / 2) : first;
  const left = times === null ? null : Math.max(1, times - (drawn - 1));
  return { before, after: width - before - repeat, times: left };
}

const inColumns = (n: number) => counted(n, 'column');

/** The same written out. */
export function repeatText(width: number, { before, after, times }: Across): string {
  const repeat = width - before - after;
  const balanced = before === Math.ceil((before + after) / 2);
  const edges = before + after;
  const form = !edges ? `${repeat}` : balanced ? `${repeat} + ${edges}` : `${before} + ${repeat} + ${after}`;
  return `${form} × ${times}`;
}
