import { booksOf, Clash, mapSteps } from './map.js';
import type { Design } from './schema.js';
import { applySteps, invertSteps, StepMisfit, type Change, type Step } from './steps.js';

/** Work that was rebased: what could be kept, what was set aside, and what leads from the old state to the new. */
export interface Rebased {
  kept: Change[];
  aside: Change[];
  /** The steps that turn the document with all the old work into the document with all that was kept. */
  over: Step[];
}

/**
 * Changes made one after the other from a document, as they are to be done after `over`, made from the same
 * document elsewhere. A change that cannot be had beside it is set aside, with what was built on it.
 */
export function rebase(design: Design, changes: readonly Change[], over: readonly Step[]): Rebased {
  const books = booksOf(design, over, ...changes.map((c) => c.steps));
  const kept: Change[] = [];
  const aside: Change[] = [];
  let rest: Step[] = [...over];
  let state = applySteps(design, over);
  for (const change of changes) {
    try {
      const { mine, other } = mapSteps(change.steps, rest, books);
      const next = mine.length ? applySteps(state, mine) : state;
      state = next;
      rest = other;
      if (mine.length) kept.push({ ...change, steps: mine });
    } catch (error) {
      if (!(error instanceof Clash || error instanceof StepMisfit)) throw error;
      aside.push(change);
      rest = [...invertSteps(change.steps), ...rest];
    }
  }
  return { kept, aside, over: rest };
}
