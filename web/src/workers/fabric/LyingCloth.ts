import { yarnPaths, type KnittedCloth, type YarnPaths } from '@cordelina/core';
import type { ClothAs } from './asked.js';

type Loops = NonNullable<Parameters<typeof yarnPaths>[2]>['only'];

/** A knitted cloth as it lies, and the way of its yarn, which is worked out when it is first wanted. */
export class LyingCloth {
  private made: YarnPaths | null = null;

  constructor(
    readonly knitted: KnittedCloth,
    readonly as: ClothAs,
  ) {}

  get paths(): YarnPaths {
    return (this.made ??= this.pathsOf(null));
  }

  /** The way of the yarn of some of its loops only; null for all. */
  pathsOf(only: Loops): YarnPaths {
    const { fabric, lie } = this.knitted;
    const { proportions, bobble } = this.as;
    return yarnPaths(fabric, lie, { height: proportions.height, bobble, only });
  }

  /** It lies otherwise now: what was worked out of it is let go. */
  moved(): void {
    this.made = null;
  }
}
