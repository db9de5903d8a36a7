import {
  AT_REST,
  boundsOf,
  carriedOver,
  clothSvg,
  dyed,
  extentOf,
  finished,
  knitFabric,
  linesOfLoops,
  MOST_IN_LINES,
  newPlate,
  paintFinely,
  restingWidth,
  settle,
  showsPressed,
  settleNear,
  springsOf,
  unrelaxed,
  type Chart,
  type Extent,
  type Settling,
  type Springs,
  type View,
  type YarnPaths,
} from '@cordelina/core';
import type { Asked, ClothAs, Knitted, Progress, Told } from './asked.js';
import { bitmapOf, ClothPicture, viewAsked } from './ClothPicture.js';
import { LyingCloth } from './LyingCloth.js';

/** It looks up from its work this often, in milliseconds, and shows how far it is this often. */
const SLICE = 24;
const SHOW_EVERY = 320;
/** Of its time it gives at most so much to pictures of cloth that still moves. */
const SHOW_SHARE = 0.2;
/** After an edit the loops near it get so long before the first picture of it. */
const NEAR_TIME = 60;
/** Nothing was asked for so long: what is seen is worth painting finely. */
const QUIET = 120;

const pause = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));
const breathe = () => pause(0);

/** What was charted, and which cell of its chart each of the cloth's stands for. */
export interface Charted {
  chart: Chart;
  /** The chart it was drawn out of, whose width all rooms tell alike; null for a piece. */
  own: Chart | null;
  place: (row: number, column: number) => [number, number];
}

/** All of the yarn of a cloth lying against itself, at once. */
const pressedOf = (cloth: LyingCloth): YarnPaths => finished(cloth.pressing(null));

/**
 * One cloth at a time that is knitted, comes to rest and is looked at. It works a little at a time, so that what is
 * asked meanwhile is heard: what was asked last is shown first, then the cloth goes on settling, and when it lies still
 * the picture is made fine.
 */
export class ClothSession {
  private told: Told | null = null;
  private cloth: LyingCloth | null = null;
  private springs: Springs | null = null;
  private own: Chart | null = null;
  private settling: Settling | null = null;
  private asked: Asked | null = null;
  private progress: Progress | null = null;
  private readonly picture = new ClothPicture();
  private pullAtFirst = 1;
  private isRunning = false;
  private isToPaint = false;
  /** The picture shown is a quick one: a fine one follows when nothing else is asked. */
  private isToRefine = false;
  /** How long the last picture took, in milliseconds. */
  private paintTime = 0;

  /** Who is told of pictures and of how far it is. */
  listen(told: Told): void {
    this.told = told;
  }

  /** Knits a cloth and lets it settle; where it is the last one after an edit, only what is near that moves at first. */
  knit({ chart, own, place }: Charted, as: ClothAs): Omit<Knitted, 'leftOut' | 'fault'> {
    const { cloth: before } = this;
    const isAsBefore = JSON.stringify(before?.as) === JSON.stringify(as);
    const fabric = knitFabric(chart, as.ground);
    this.springs = springsOf(fabric, as.proportions);
    const carried = before && carriedOver(before.knitted, fabric, as.proportions);
    const knitted = { fabric, lie: carried?.lie ?? unrelaxed(fabric, as.proportions) };
    if (carried?.near && isAsBefore && !this.settling) {
      const near = settleNear(knitted, carried.near, as.proportions);
      const until = performance.now() + NEAR_TIME;
      while (!near.next().done && performance.now() < until);
    }
    this.cloth = new LyingCloth(knitted, as);
    this.own = own;
    this.settling = settle(knitted, as.proportions, this.springs);
    this.tell('settling', 0);
    this.look();
    const { size } = fabric;
    const [row, column] = [new Int32Array(size), new Int32Array(size)];
    const rowOf = (r: number) => (r < 0 ? r : fabric.rowOf[r]!);
    for (let i = 0; i < size; i++) [row[i], column[i]] = place(rowOf(fabric.row[i]!), fabric.column[i]!);
    return { loops: size, row, column };
  }

  /** There is nothing to show. */
  clear(): void {
    this.cloth = this.settling = null;
  }

  /** Shows it as it is asked for; as it was asked for last, anew. */
  look(asked = this.asked): void {
    this.asked = asked;
    this.isToPaint = true;
    void this.run();
  }

  /** Leaves the cloth as it lies. */
  stop(): void {
    if (!this.settling) return;
    this.settling = null;
    this.tell('stopped', this.progress?.share ?? 0);
    this.look();
  }

  /** Goes on from where it was stopped. */
  goOn(): void {
    const { cloth } = this;
    if (!cloth || this.settling) return;
    this.settling = settle(cloth.knitted, cloth.as.proportions, this.springs ?? undefined);
    void this.run();
  }

  /** The yarn of some loops, as lines of points in stitch widths. */
  lines(loops: readonly number[]): [number, number][][] {
    return this.cloth ? linesOfLoops(this.cloth.seenOf(loops), new Set(loops)) : [];
  }

  /** A picture for other programs. */
  async png(asked: Asked): Promise<Blob> {
    const { cloth } = this;
    if (!cloth) throw new Error('There is no cloth.');
    const plate = newPlate(asked.width, asked.height);
    const view = viewAsked(cloth, asked);
    paintFinely(plate, showsPressed(view) ? pressedOf(cloth) : cloth.paths, view, dyed(asked.dye));
    return bitmapOf(plate).convertToBlob({ type: 'image/png' });
  }

  /** Lines for other programs; null where there are too many loops for a file that can be opened. */
  svg(asked: Asked): string | null {
    const { cloth } = this;
    if (!cloth || cloth.knitted.fabric.size > MOST_IN_LINES) return null;
    return clothSvg(pressedOf(cloth), viewAsked(cloth, asked), dyed(asked.dye), cloth.knitted.fabric);
  }

  private tell(state: Progress['state'], share: number): void {
    const { cloth } = this;
    if (!cloth) return;
    const extent = this.extent(cloth, state === 'rest');
    this.progress = { state, share, extent, bounds: boundsOf(cloth.knitted) };
    this.told?.progress(this.progress);
  }

  /** How the cloth lies; once it is at rest its width is the one that every room tells. */
  private extent({ knitted, as }: LyingCloth, isAtRest: boolean): Extent | null {
    const lies = extentOf(knitted, as.proportions);
    const wide =
      isAtRest && this.own && as.ground === 'charted' ? restingWidth(this.own, as.proportions) : null;
    return lies && { ...lies, wide: wide ?? lies.wide };
  }

  private paint(): void {
    this.isToPaint = false;
    const { cloth, asked } = this;
    if (!cloth || !asked) return;
    const begun = performance.now();
    const view = this.picture.paint(cloth, asked, this.settling !== null);
    this.paintTime = performance.now() - begun;
    this.isToRefine = true;
    this.told?.frame(this.picture.frame(cloth, asked, view, false));
  }

  private async refine(): Promise<void> {
    const { cloth, asked } = this;
    if (!cloth || !asked) return;
    const show = (view: View, isFine: boolean) =>
      this.told?.frame(this.picture.frame(cloth, asked, view, isFine));
    const goesOn = async () => {
      await breathe();
      return !this.isToPaint && !this.settling;
    };
    const view = await this.picture.refine(cloth, asked, goesOn, (part) => show(part, false));
    if (!view) return;
    this.isToRefine = false;
    show(view, true);
  }

  /** Steps for so long; whether the cloth has come to rest. */
  private stepFor(ms: number): boolean {
    const until = performance.now() + ms;
    while (this.settling && performance.now() < until) {
      const { value, done } = this.settling.next();
      this.cloth?.moved();
      if (value.steps === 1) this.pullAtFirst = Math.max(value.pull, AT_REST * 2);
      if (done) {
        this.settling = null;
        return true;
      }
      const pull = Math.log(Math.max(value.pull, AT_REST) / AT_REST);
      const share = 1 - pull / Math.log(this.pullAtFirst / AT_REST);
      const { progress } = this;
      if (progress) progress.share = Math.max(progress.share, Math.min(0.99, share));
    }
    return !this.settling;
  }

  /** Does what there is to do, a little at a time. */
  private async run(): Promise<void> {
    if (this.isRunning) return;
    this.isRunning = true;
    let shown = performance.now();
    try {
      while (this.isToPaint || this.settling || this.isToRefine) {
        if (this.isToPaint) this.paint();
        await breathe();
        if (!this.settling) {
          if (this.isToPaint || !this.isToRefine) continue;
          await pause(QUIET);
          if (!this.isToPaint && !this.settling) await this.refine();
          continue;
        }
        const isAtRest = this.stepFor(SLICE);
        if (isAtRest) {
          this.tell('rest', 1);
          this.isToPaint = true;
        } else if (performance.now() - shown > Math.max(SHOW_EVERY, this.paintTime / SHOW_SHARE)) {
          this.tell('settling', this.progress?.share ?? 0);
          this.isToPaint = true;
          shown = performance.now();
        }
        await breathe();
      }
    } finally {
      this.isRunning = false;
    }
  }
}
