import { z } from 'zod';
import { boundedText, sameValue } from '../values.js';
import { PartSchema, PIECE_LIMITS, SizeSchema, type PiecePart, type Size } from './piece-document.js';

/**
 * Lists of the piece whose things are told by their ids, its parts and its sizes: how they come, go and change places in steps, and
 * how such steps of two people are joined. What is set of one of them is set by its path, `piece/parts/<id>/…`.
 */

/** The lists, and what stands in each. */
export interface Listed {
  parts: PiecePart;
  sizes: Size;
}
export type ListName = keyof Listed;
const LISTS = ['parts', 'sizes'] as const;

/** One thing put in right after another (null: as the first), or taken out from there. */
export interface ItemStep {
  kind: 'item';
  of: ListName;
  done: 'in' | 'out';
  after: string | null;
  item: Listed[ListName];
}

/** All things of a list in another order, by their ids. */
export interface OrderStep {
  kind: 'order';
  of: ListName;
  was: readonly string[];
  now: readonly string[];
}

export type ListStep = ItemStep | OrderStep;

const id = boundedText(1, 64);
const ids = z.array(id).min(1).max(PIECE_LIMITS.parts).readonly();
export const ItemStepSchema = z.strictObject({
  kind: z.literal('item'),
  of: z.enum(LISTS),
  done: z.enum(['in', 'out']),
  after: id.nullable(),
  item: z.union([PartSchema, SizeSchema]),
});
export const OrderStepSchema = z.strictObject({
  kind: z.literal('order'),
  of: z.enum(LISTS),
  was: ids,
  now: ids,
});

export const isListStep = (step: { kind: string }): step is ListStep =>
  step.kind === 'item' || step.kind === 'order';

/** Whether a key of a document holds a list whose things are told by their ids. */
export const isListName = (key: string): key is ListName => (LISTS as readonly string[]).includes(key);

interface Named {
  id: string;
}
const idsOf = (list: readonly Named[]): string[] => list.map((o) => o.id);

/** Whether it is a list whose things can be told apart by their ids. */
export const isToldApart = (list: unknown): list is readonly Named[] =>
  Array.isArray(list) && new Set(idsOf(list as Named[])).size === list.length;

/** What a thing stands right after; null where it is the first. */
const before = (list: readonly string[], own: string): string | null => list[list.indexOf(own) - 1] ?? null;

/** A list with one more in it, right after another. */
const putAfter = <T>(list: readonly T[], after: number, one: T): T[] => list.toSpliced(after + 1, 0, one);

/** A list after a step. Null where it is not the list that the step was made for. */
export function listAfter<T extends Named>(list: readonly T[], step: ListStep): T[] | null {
  const held = idsOf(list);
  if (step.kind === 'order') {
    const places = step.now.map((own) => held.indexOf(own));
    return sameValue(held, step.was) && sameValue([...held].sort(), [...step.now].sort())
      ? places.map((i) => list[i]!)
      : null;
  }
  const { done, after, item } = step;
  const at = held.indexOf(item.id);
  if (done === 'out')
    return at >= 0 && before(held, item.id) === after && sameValue(list[at], item)
      ? list.toSpliced(at, 1)
      : null;
  const place = after === null ? -1 : held.indexOf(after);
  return at < 0 && (after === null || place >= 0) ? putAfter(list, place, item as unknown as T) : null;
}

/** The steps that bring things of one list into another and put them in its order; what both have is not looked into. */
export function listSteps<N extends ListName>(
  of: N,
  was: readonly Listed[N][],
  now: readonly Listed[N][],
): ListStep[] {
  const steps: ListStep[] = [];
  let list: readonly Listed[N][] = was;
  const take = (step: ListStep) => {
    steps.push(step);
    list = listAfter(list, step)!;
  };
  const [had, has] = [new Set(idsOf(was)), new Set(idsOf(now))];
  for (const item of was)
    if (!has.has(item.id)) take({ kind: 'item', of, done: 'out', after: before(idsOf(list), item.id), item });
  const kept = idsOf(now.filter((o) => had.has(o.id)));
  if (!sameValue(idsOf(list), kept)) take({ kind: 'order', of, was: idsOf(list), now: kept });
  for (const item of now)
    if (!had.has(item.id)) take({ kind: 'item', of, done: 'in', after: before(idsOf(now), item.id), item });
  return steps;
}

export const invertListStep = (step: ListStep): ListStep =>
  step.kind === 'order'
    ? { ...step, was: step.now, now: step.was }
    : { ...step, done: step.done === 'in' ? 'out' : 'in' };

/** How a step of a list is to be done after another: in its stead these; null where both cannot be had. */
export function mapListStep(mine: ListStep, other: ListStep): ListStep[] | null {
  if (mine.of !== other.of) return [mine];
  if (mine.kind === 'order') {
    if (other.kind === 'order') return sameValue(mine.now, other.now) ? [] : null;
    const moved = (list: readonly string[]) =>
      other.done === 'out'
        ? list.filter((own) => own !== other.item.id)
        : putAfter(list, other.after === null ? -1 : list.indexOf(other.after), other.item.id);
    return [{ ...mine, was: moved(mine.was), now: moved(mine.now) }];
  }
  const own = mine.item.id;
  if (other.kind === 'order') return [mine.done === 'in' ? mine : { ...mine, after: before(other.now, own) }];
  if (own === other.item.id)
    return mine.done === other.done && mine.after === other.after && sameValue(mine.item, other.item)
      ? []
      : null;
  if (other.done === 'out') return [mine.after === other.item.id ? { ...mine, after: other.after } : mine];
  if (mine.after !== other.after) return [mine];
  // Two put in at one place stand in the order of what they are, whoever was first; what is taken out has the other before it.
  const follows = mine.done === 'out' || JSON.stringify(mine.item) > JSON.stringify(other.item);
  return [follows ? { ...mine, after: other.item.id } : mine];
}

/** Whether a setting and a step of a list can both be had: not where the thing it is set of goes, or its list is set as a whole. */
export function isBeside(path: readonly string[], step: ListStep): boolean {
  const [head, of, own] = path;
  if (head !== 'piece') return true;
  if (of === undefined) return false;
  if (of !== step.of) return true;
  if (own === undefined) return false;
  return step.kind === 'order' || step.item.id !== own;
}
