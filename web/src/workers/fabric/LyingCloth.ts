import { pressing, yarnPaths, type KnittedCloth, type YarnPaths } from '@cordelina/core';
import type { ClothAs } from './asked.js';

type Loops = NonNullable<Parameters<typeof yarnPaths>[2]>['only'];

/** A knitted cloth as it lies, and the way of its yarn, which is worked out when it is first wanted. */
export class LyingCloth {
  private made: YarnPaths | null = null;
  private pressed: { paths: YarnPaths; of: Loops } | null = null;

  constructor(
    readonly knitted: KnittedCloth,
    readonly as: ClothAs,
  ) {}

  /** Its yarn as each loop by itself has it: quick to tell. */
  get paths(): YarnPaths {
    return (this.made ??= this.pathsOf(null));
  }

  /** The same of some of its loops only; null for all. */
  pathsOf(only: Loops): YarnPaths {
    const { fabric, lie } = this.knitted;
    return yarnPaths(fabric, lie, { ...this.asDrawn(only), loosely: true });
  }

  /** The yarn of some loops lying against each other's, a little at a time: it is kept for as long as the cloth lies so. */
  *pressing(only: Loops): Generator<void, YarnPaths> {
    const { fabric, lie } = this.knitted;
    if (this.pressed && hasAll(this.pressed.of, only)) return this.pressed.paths;
    const paths = yield* pressing(fabric, lie, this.asDrawn(only));
    this.pressed = { paths, of: only };
    return paths;
  }

  /** Where the yarn of some loops is seen: as it was pressed where it was, else as it lies by itself. */
  seenOf(loops: readonly number[]): YarnPaths {
    const { pressed } = this;
    return pressed && loops.every((i) => !pressed.of || pressed.of[i]) ? pressed.paths : this.paths;
  }

  /** It lies otherwise now: what was worked out of it is let go. */
  moved(): void {
    this.made = this.pressed = null;
  }

  private asDrawn(only: Loops) {
    const { proportions, bobble } = this.as;
    return { height: proportions.height, bobble, only };
  }
}

/** Whether some loops hold all of others; null stands for all there are. */
const hasAll = (some: Loops, others: Loops): boolean =>
  !some || (!!others && others.every((is, i) => !is || some[i] === 1));
