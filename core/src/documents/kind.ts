import type { Rebased } from '../chart/rebase.js';
import type { Change, Step } from '../chart/steps.js';

/** What kinds of documents are kept in versions and saved by steps. */
export type KindName = 'design' | 'swatch' | 'studio' | 'edition' | 'knitting' | 'note';

/**
 * A kind of document: all that saving, joining, undo and history ask of it. What is kept besides designs (and what
 * comes to be) goes the same way as they do, on the server and in the page.
 */
export interface Kind<D> {
  readonly name: KindName;
  /** So many of it a studio keeps; null for no bound. */
  readonly most: number | null;
  /** A list shows all of it: it is small. */
  readonly isListedWhole: boolean;
  /** A document that came from outside or from the store, brought up to date. @throws DocumentError */
  read(value: unknown): D;
  /** What a list and a history call it. */
  titleOf(document: D): string;
  /** The document after steps. @throws StepMisfit when one does not fit, or the outcome is none of this kind */
  apply(document: D, steps: readonly Step[]): D;
  /** Changes made one after the other from a document, as they are to be done after `over`, made from the same. */
  rebase(document: D, changes: readonly Change[], over: readonly Step[]): Rebased;
  /** The steps from one state to another. */
  between(was: D, now: D): Step[];
  /** What a step touches: one key for what is chosen together when two people changed it, and words for it. */
  placeOf(step: Step, document: D): readonly [key: string, label: string];
}
