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
  return rebaseWith(design, changes, over, {
    apply: applySteps,
    map: (mine, other) => mapSteps(mine, other, books),
  });
}

/** How the steps of a kind of document are done and mapped. */
interface How<D> {
  /** @throws StepMisfit */
  apply: (document: D, steps: readonly Step[]) => D;
  /** Two runs of steps from one document, each as it is to be done after the other. @throws Clash */
  map: (mine: readonly Step[], other: readonly Step[]) => { mine: Step[]; other: Step[] };
}

/** The same for any kind of document. */
export function rebaseWith<D>(
  document: D,
  changes: readonly Change[],
  over: readonly Step[],
  { apply, map }: How<D>,
): Rebased {
  const kept: Change[] = [];
  const aside: Change[] = [];
  let rest: Step[] = [...over];
  let state = apply(document, over);
  for (const change of changes) {
    try {
      const { mine, other } = map(change.steps, rest);
      const next = mine.length ? apply(state, mine) : state;
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
