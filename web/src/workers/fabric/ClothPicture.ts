import {
  boundsOf,
  boxAbout,
  dyed,
  fineStrips,
  fittedView,
  loopsAbout,
  movedLoops,
  newPlate,
  paintCloth,
  sameValue,
  showsPressed,
  wholeOf,
  type KnittedCloth,
  type Plate,
  type View,
  type Dye,
} from '@cordelina/core';
import type { Asked, Frame } from './asked.js';
import type { LyingCloth } from './LyingCloth.js';

/** A picture of so many pixels is painted at once, in full; so much of a cloth may have moved where only that is painted. */
const MOST_SHARP = 400_000;
const MOST_MOVED = 0.3;
/** A fitted cloth is looked at anew only when it has grown or shrunk by so much: else its picture would never stand still. */
const STILL_FITS = 0.01;

/** Of a picture that takes long to be painted finely what is done is shown every so many milliseconds. */
const SHOW_PART = 250;

/** The yarn of so many loops at most is laid against itself for one picture, in about a second: of more it lies loosely. */
const MOST_PRESSED = 3500;

/** A picture of pixels as the page takes it. */
export function bitmapOf({ rgba, width, height }: Pick<Plate, 'rgba' | 'width' | 'height'>): OffscreenCanvas {
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
  return canvas;
}

/** The view of a cloth that was asked for, where it is one; else that of all of it. */
export const viewAsked = (cloth: LyingCloth, { width, height, side, at }: Asked): View =>
  at ? { width, height, side, ...at } : fittedView(boundsOf(cloth.knitted), { width, height }, side);

/** The picture of a cloth on its plate: painted anew as far as it has changed, and finely when there is time. */
export class ClothPicture {
  private plate: Plate | null = null;
  /** The cloth as it was painted, and how: where only a part of it has changed, only that is painted again. */
  private painted: { cloth: KnittedCloth; view: View; dye: Dye } | null = null;

  /** Paints at once what was asked for; a large picture of a cloth that still settles half as sharp. */
  paint(cloth: LyingCloth, asked: Asked, isSettling: boolean): View {
    const { width, height, dye } = asked;
    const isDraft = isSettling && width * height > MOST_SHARP;
    const size = isDraft ? { width: Math.ceil(width / 2), height: Math.ceil(height / 2) } : { width, height };
    const plate = this.plateOf(size);
    const view = this.viewOf(cloth, asked, size, isDraft ? 0.5 : 1);
    this.paintChanged(plate, cloth, view, dye);
    return view;
  }

  /**
   * Paints it as well as can be, strip by strip for as long as `goesOn`; null where it was given up. What is done of it is shown
   * meanwhile, over the picture as it was painted at once.
   */
  async refine(
    cloth: LyingCloth,
    asked: Asked,
    goesOn: () => Promise<boolean>,
    show: (view: View) => void,
  ): Promise<View | null> {
    const { width, height, dye } = asked;
    const plate = this.plateOf({ width, height });
    const view = this.viewOf(cloth, asked, plate, 1);
    let { paths } = cloth;
    const { isTube, size } = cloth.knitted.fabric;
    const only = isTube ? null : loopsAbout(cloth.knitted, view, wholeOf(view));
    const many = only ? only.reduce((sum, is) => sum + is, 0) : size;
    if (showsPressed(view) && many <= MOST_PRESSED) {
      const pressing = cloth.pressing(only);
      for (let step = pressing.next(); ; step = pressing.next()) {
        if (step.done) {
          paths = step.value;
          break;
        }
        if (!(await goesOn())) return null;
      }
    }
    let shown = performance.now();
    for (const _ of fineStrips(plate, paths, view, dyed(dye))) {
      if (performance.now() - shown > SHOW_PART) {
        show(view);
        shown = performance.now();
      }
      // A picture that is given up half-way is no ground to paint changes on.
      this.painted = null;
      if (!(await goesOn())) return null;
    }
    return view;
  }

  /** The picture as it is handed to the page. */
  frame({ knitted }: LyingCloth, asked: Asked, view: View, isFine: boolean): Frame {
    const plate = this.plate!;
    this.painted = { cloth: { fabric: knitted.fabric, lie: knitted.lie.slice() }, view, dye: asked.dye };
    return {
      bitmap: bitmapOf(plate).transferToImageBitmap(),
      loopAt: plate.loop.slice(),
      view,
      asked,
      isFine,
    };
  }

  /** A plate of this size: the last one where it fits. */
  private plateOf({ width, height }: { width: number; height: number }): Plate {
    if (this.plate?.width === width && this.plate.height === height) return this.plate;
    this.painted = null;
    return (this.plate = newPlate(width, height));
  }

  /** The view that was asked for, in a picture so many times as large. */
  private viewOf(
    cloth: LyingCloth,
    asked: Asked,
    { width, height }: { width: number; height: number },
    times: number,
  ): View {
    const { side, at } = asked;
    if (at) return { width, height, side, ...at, scale: at.scale * times };
    const fitted = viewAsked(cloth, { ...asked, width, height });
    const last = this.painted?.view;
    const isStill =
      last?.side === side &&
      last.width === width &&
      last.height === height &&
      Math.abs(last.scale / fitted.scale - 1) < STILL_FITS &&
      Math.hypot(last.x - fitted.x, last.y - fitted.y) * fitted.scale < STILL_FITS * height;
    return isStill ? last : fitted;
  }

  /** Paints what has changed since the last picture; all of it where that was another view or another cloth. */
  private paintChanged(plate: Plate, cloth: LyingCloth, view: View, dye: Dye): void {
    const { knitted } = cloth;
    const { fabric, lie } = knitted;
    const before = this.painted;
    const isSameView = before !== null && sameValue(before.dye, dye) && sameValue(before.view, view);
    const moved = isSameView ? movedLoops(before.cloth, knitted) : null;
    if (!moved || moved.reduce((sum, m) => sum + m, 0) > MOST_MOVED * moved.length)
      return void paintCloth(plate, cloth.paths, view, dyed(dye));
    const box = boxAbout(fabric, [before!.cloth.lie, lie], moved, view);
    if (!box) return;
    const only = fabric.isTube ? null : loopsAbout(knitted, view, box);
    paintCloth(plate, cloth.pathsOf(only), view, dyed(dye), box);
  }
}
