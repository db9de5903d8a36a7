import {
  DocumentError,
  EditError,
  invertSteps,
  mergeSteps,
  StepMisfit,
  type Change,
  type KindName,
  type Step,
} from '@cordelina/core';
import { choicesAfter } from './joining.js';
import { newId } from './newId.js';
import { kindOf, nextTurn, outbox, type AnyOutbox, type Done } from './outbox.js';

/**
 * Doing, undoing and doing again: one mechanism for every document that is kept. What is done to several documents
 * of a room, as to the swatches of the book, is taken back in the order it was done.
 */

/** What the last undo, redo or change came to, for the person. */
export type Said = { text: string; tone: 'said' | 'refused' } | null;

type Dispatch = (action: unknown) => unknown;
type Thunk<T> = (dispatch: Dispatch) => T;

export const isRefusal = (error: unknown): error is Error =>
  [EditError, StepMisfit, DocumentError, RangeError].some((kind) => error instanceof kind);

/** Makes a change of a document. @throws StepMisfit when it does not fit; nothing is changed then */
function commit(box: AnyOutbox, change: Done, history: Pick<AnyOutbox, 'done' | 'undone'>): Thunk<void> {
  return (dispatch) => {
    const { id, label, steps } = change;
    const kind = kindOf(box);
    const document = steps.length ? kind.apply(box.document, steps) : box.document;
    const choices =
      box.choices.length && steps.length ? choicesAfter(kind, box.document, box.choices, steps) : box.choices;
    const out = change.out?.now ?? box.out;
    dispatch(
      outbox.changed({ id: box.id, change: { id, label, steps }, document, choices, out, ...history }),
    );
  };
}

/** Makes a change of a document. Those of one stroke are undone as one. @throws StepMisfit */
export function make(box: AnyOutbox, change: Change & Pick<Done, 'out'>, stroke?: number): Thunk<void> {
  const last = box.done.at(-1);
  const goesOn = last !== undefined && stroke !== undefined && last.stroke === stroke;
  const turn = nextTurn();
  const done: Done = goesOn
    ? { ...last, steps: mergeSteps([...last.steps, ...change.steps]), turn }
    : { ...change, turn, ...(stroke === undefined ? {} : { stroke }) };
  return commit(box, change, { done: [...box.done.slice(0, goesOn ? -1 : undefined), done], undone: [] });
}

/** A change grows to so many steps before another is begun. */
const MOST_RESTATED = 2000;

/**
 * Says anew what counts only as it was said last, as where a knitter is. There is nothing of it to undo, and of all that has not
 * been sent one change is left. @throws StepMisfit
 */
export function restate(box: AnyOutbox, label: string, steps: readonly Step[]): Thunk<void> {
  return (dispatch) => {
    const kind = kindOf(box);
    const last = box.save.kind === 'saving' ? undefined : box.unsaved.at(-1);
    const isSame = last?.label === label && last.steps.length < MOST_RESTATED;
    const before = isSame ? kind.apply(box.document, invertSteps(last.steps)) : box.document;
    const document = kind.apply(box.document, steps);
    const { id, done, undone, choices, out } = box;
    const change = { id: newId(), label, steps: kind.between(before, document) };
    const instead = isSame ? { instead: last.id } : {};
    dispatch(outbox.changed({ id, change, document, done, undone, choices, out, ...instead }));
  };
}

const otherWay = (out: Done['out']): Pick<Done, 'out'> =>
  out ? { out: { was: out.now, now: out.was } } : {};

/** Of several boxes the one to which something was done last, or undone last. */
function latest<B extends Pick<AnyOutbox, 'done' | 'undone'>>(
  boxes: readonly B[],
  list: 'done' | 'undone',
): { box: B; change: Done } | null {
  let found: { box: B; change: Done } | null = null;
  for (const box of boxes) {
    const change = box[list].at(-1);
    if (change && (!found || (change.turn ?? 0) > (found.change.turn ?? 0))) found = { box, change };
  }
  return found;
}

/** What undo would take back, and redo do again, in words; null where there is nothing. */
export const nextIn = (boxes: readonly Pick<AnyOutbox, 'done' | 'undone'>[]) => ({
  undo: latest(boxes, 'done')?.change.label ?? null,
  redo: latest(boxes, 'undone')?.change.label ?? null,
});

function moved(
  boxes: readonly AnyOutbox[],
  from: 'done' | 'undone',
  to: 'done' | 'undone',
  steps: (change: Done) => readonly Step[],
  words: string,
): Thunk<Said> {
  return (dispatch) => {
    const found = latest(boxes, from);
    if (!found) return null;
    const { box, change } = found;
    const out = from === 'done' ? otherWay(change.out) : { out: change.out };
    const history = {
      [from]: box[from].slice(0, -1),
      [to]: [...box[to], { ...change, turn: nextTurn() }],
    } as Pick<AnyOutbox, 'done' | 'undone'>;
    try {
      dispatch(commit(box, { id: newId(), label: change.label, steps: steps(change), ...out }, history));
      return { text: `${words}: ${change.label}`, tone: 'said' };
    } catch (error) {
      if (!isRefusal(error)) throw error;
      return { text: `That could not be done: ${error.message}`, tone: 'refused' };
    }
  };
}

/** Takes the last change of these documents back, as a change of its own. */
export const undoIn = (boxes: readonly AnyOutbox[]): Thunk<Said> =>
  moved(boxes, 'done', 'undone', ({ steps }) => invertSteps(steps), 'Undone');

export const redoIn = (boxes: readonly AnyOutbox[]): Thunk<Said> =>
  moved(boxes, 'undone', 'done', ({ steps }) => steps, 'Done again');

/**
 * Decides choices of a document: those named take this browser's side, as one change; all are settled by it. Where that
 * cannot be done all of them stay, and it is said.
 */
export function choose(box: AnyOutbox, mine: readonly string[]): Thunk<Said> {
  return (dispatch) => {
    const chosen = box.choices.filter((c) => mine.includes(c.id));
    try {
      const steps = chosen.flatMap((c) => [...c.steps]);
      if (steps.length) dispatch(make(box, { id: newId(), label: 'what was done here', steps }));
    } catch (error) {
      if (!isRefusal(error)) throw error;
      return { text: `That could not be done: ${error.message}`, tone: 'refused' };
    }
    dispatch(outbox.letGo({ id: box.id, choices: box.choices.map((c) => c.id) }));
    return null;
  };
}

/** All open documents of a kind. */
export const boxesOf = <N extends KindName>(boxes: Readonly<Record<string, AnyOutbox>>, kind: N) =>
  Object.values(boxes).filter((box) => box.kind === kind);
