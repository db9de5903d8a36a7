import type { ClothSettings } from '../chart/cloth-settings.js';
import type { Chart } from '../chart/schema.js';
import { knitFabric, type Fabric } from '../fabric/fabric.js';
import { seenFrom } from '../fabric/knitted-as.js';
import {
  newPlate,
  piecesOf,
  pixelOf,
  radiusOf,
  rasterise,
  type Box,
  type Plate,
  type View,
} from './raster.js';
import { settled, type KnittedCloth } from '../fabric/settle.js';
import { drawHalo, haloAt } from './halo.js';
import type { Yarn } from '../drawing/yarns.js';
import { shade } from './shade.js';
import { type Positions } from '../fabric/springs.js';
import { ORDINARY, type Proportions } from '../fabric/proportions.js';
import { yarnPaths, type YarnPaths } from './yarn-path.js';

/** Below so many pixels a stitch it is not seen how yarn lies against yarn. */
const PRESSED_FROM = 10;
export const showsPressed = ({ scale }: Pick<View, 'scale'>): boolean => scale >= PRESSED_FROM;

/** All of a picture. */
export const wholeOf = ({ width, height }: Pick<Plate, 'width' | 'height'>): Box => ({
  left: 0,
  top: 0,
  right: width,
  bottom: height,
});

/** Paints the cloth, or only a part of its picture anew. */
export function paintCloth(
  plate: Plate,
  paths: YarnPaths,
  view: View,
  yarn: Yarn,
  box: Box = wholeOf(plate),
): void {
  const radius = radiusOf(view);
  const pieces = piecesOf(paths, view, box);
  rasterise(plate, pieces, box, radius);
  shade(plate, pieces, box, view.scale, radius, yarn);
}

/** Yarn is drawn about a part of a picture as far as it can be seen there, or cast its shadow on it: stitch widths. */
const BESIDE = 4;

/** The part of a picture in which some loops are seen, as they lie in either of two lies; null where none are. */
export function boxAbout(
  fabric: Fabric,
  lies: readonly Positions[],
  loops: Uint8Array,
  view: View,
): Box | null {
  const margin = 2 * view.scale;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < fabric.size; i++) {
    if (!loops[i]) continue;
    for (const lie of lies) {
      const { x, y } = pixelOf(view, lie[3 * i]!, lie[3 * i + 1]!);
      left = Math.min(left, x - margin);
      right = Math.max(right, x + margin);
      top = Math.min(top, y - margin);
      bottom = Math.max(bottom, y + margin);
    }
  }
  const box = {
    left: Math.max(0, Math.floor(left)),
    top: Math.max(0, Math.floor(top)),
    right: Math.min(view.width, Math.ceil(right)),
    bottom: Math.min(view.height, Math.ceil(bottom)),
  };
  return box.left < box.right && box.top < box.bottom ? box : null;
}

/** The loops whose yarn may be seen in a part of a picture, or darken it. */
export function loopsAbout({ fabric, lie }: KnittedCloth, view: View, box: Box): Uint8Array {
  const about = BESIDE * view.scale;
  const loops = new Uint8Array(fabric.size);
  for (let i = 0; i < fabric.size; i++) {
    const { x, y } = pixelOf(view, lie[3 * i]!, lie[3 * i + 1]!);
    if (x > box.left - about && x < box.right + about && y > box.top - about && y < box.bottom + about)
      loops[i] = 1;
  }
  return loops;
}

/**
 * Yarn is painted twice as large and made smaller, so that its edges are smooth at every size: in strips that are no larger than this,
 * so that a large picture needs little room, but no lower than that. Light is put on it so many rows of the picture at a time.
 */
const MOST_LARGE = 7_000_000;
const LEAST_STRIP = 128;
const LIT_AT_ONCE = 80;
/** A picture of no more pixels, made twice as large, is painted in one go. */
const MOST_SMALL = 400_000;

/** Paints the cloth as well as it can be, which takes longer than `paintCloth`: for a picture that stays. */
export function paintFinely(plate: Plate, paths: YarnPaths, view: View, yarn: Yarn): void {
  for (const _ of fineStrips(plate, paths, view, yarn));
}

/** The same, strip by strip from the top, so that something else can be done between them. */
export function* fineStrips(plate: Plate, paths: YarnPaths, view: View, yarn: Yarn): Generator<void> {
  const { width, height } = plate;
  // What stands above and below a strip casts its shadow on it; a picture that is all one strip goes without what lies beyond it.
  const isOne = height * width * 4 <= MOST_SMALL;
  const beyond = isOne ? 0 : Math.ceil(2 * view.scale);
  const halo = haloAt(view.scale);
  const strip = isOne ? height : Math.max(LEAST_STRIP, Math.floor(MOST_LARGE / (4 * width)) - 2 * beyond);
  for (let top = 0; top < height; top += strip) {
    const rows = Math.min(strip, height - top);
    const large = newPlate(2 * width, 2 * (rows + 2 * beyond));
    const middle = top + rows / 2;
    const largeView: View = {
      ...view,
      width: large.width,
      height: large.height,
      scale: 2 * view.scale,
      y: view.y - (middle - height / 2) / view.scale,
    };
    // As thick as it is seen, not as it would be were it seen twice as large.
    const radius = 2 * radiusOf(view);
    const pieces = piecesOf(paths, largeView, wholeOf(large));
    rasterise(large, pieces, wholeOf(large), radius);
    for (let lit = 0; lit < rows; lit += LIT_AT_ONCE) {
      const many = Math.min(LIT_AT_ONCE, rows - lit);
      const from = 2 * (beyond + lit);
      const part = { ...wholeOf(large), top: from, bottom: from + 2 * many };
      shade(large, pieces, part, largeView.scale, radius, yarn);
      if (halo) drawHalo(large, pieces, part, largeView.scale, radius, yarn, halo);
      halve(large, from, plate, top + lit, many);
      yield;
    }
  }
}

/** Puts rows of a picture twice as large into another: colours are the mean of four pixels, the rest that of one. */
function halve(large: Plate, from: number, plate: Plate, top: number, rows: number): void {
  const { width } = plate;
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < width; x++) {
      const at = (top + y) * width + x;
      const first = (from + 2 * y) * large.width + 2 * x;
      const four = [first, first + 1, first + large.width, first + large.width + 1];
      let alpha = 0;
      let [r, g, b] = [0, 0, 0];
      for (const p of four) {
        const a = large.rgba[4 * p + 3]!;
        alpha += a;
        r += a * large.rgba[4 * p]!;
        g += a * large.rgba[4 * p + 1]!;
        b += a * large.rgba[4 * p + 2]!;
      }
      const over = alpha || 1;
      plate.rgba[4 * at] = r / over;
      plate.rgba[4 * at + 1] = g / over;
      plate.rgba[4 * at + 2] = b / over;
      plate.rgba[4 * at + 3] = alpha / 4;
      plate.depth[at] = large.depth[first]! / 2;
      plate.loop[at] = large.loop[first]!;
    }
}

/** The corners of a cloth, in stitch widths: its loops and the yarn about them. */
export interface Bounds {
  left: number;
  right: number;
  bottom: number;
  top: number;
}

/** Yarn reaches so far beyond the middle of a loop. */
const ABOUT = 0.75;

export function boundsOf({ fabric, lie }: KnittedCloth): Bounds {
  const bounds = fabric.size
    ? { left: Infinity, right: -Infinity, bottom: Infinity, top: -Infinity }
    : { left: 0, right: 0, bottom: 0, top: 0 };
  for (let i = 0; i < fabric.size; i++) {
    bounds.left = Math.min(bounds.left, lie[3 * i]!);
    bounds.right = Math.max(bounds.right, lie[3 * i]!);
    bounds.bottom = Math.min(bounds.bottom, lie[3 * i + 1]!);
    bounds.top = Math.max(bounds.top, lie[3 * i + 1]!);
  }
  return {
    left: bounds.left - ABOUT,
    right: bounds.right + ABOUT,
    bottom: bounds.bottom - ABOUT,
    top: bounds.top + ABOUT,
  };
}

/** How much of it is left at its foot and head, in rows, where edges are not looked for. */
const FOOT = 2;

/** The largest rectangle about the middle of a cloth in which there is cloth everywhere. */
function withinOf({ fabric, lie }: KnittedCloth): Bounds {
  const all = boundsOf({ fabric, lie });
  const { needles, isTube } = fabric;
  const within = { ...all, bottom: all.bottom + FOOT, top: all.top - FOOT };
  if (!isTube)
    for (const needle of needles.slice(FOOT, -FOOT)) {
      const [first, last] = [needle[0], needle.at(-1)];
      if (first === undefined || last === undefined) continue;
      within.right = Math.min(within.right, lie[3 * first]!);
      within.left = Math.max(within.left, lie[3 * last]!);
    }
  // So little cloth that nothing is left of it is shown as it is.
  return within.right - within.left > 2 && within.top - within.bottom > 2 ? within : all;
}

/** The largest a stitch is drawn when a cloth is fitted into a picture, in pixels. */
const LARGEST_FIT = 72;

/** The view that shows all of a cloth; `fill` leaves no room beside it, and what does not fit is cut off. */
export function fittedView(
  { left, right, bottom, top }: Bounds,
  { width, height }: Pick<View, 'width' | 'height'>,
  side: View['side'] = 'RS',
  fill = false,
): View {
  const [across, up] = [width / (right - left), height / (top - bottom)];
  const scale = fill ? Math.max(across, up) : Math.min(across, up) * 0.96;
  return {
    width,
    height,
    scale: Math.min(scale, fill ? Infinity : LARGEST_FIT),
    x: (left + right) / 2,
    y: (bottom + top) / 2,
    side,
  };
}

/** A small picture of a chart's cloth at rest, all at once: filled by its middle, or with all of it. */
export function smallPicture(
  chart: Chart,
  { width, height }: { width: number; height: number },
  yarn: Yarn,
  { side = 'RS', fill = true, proportions = ORDINARY, bobble = 5, ground }: SmallPicture = {},
): Plate {
  const seen = seenFrom(chart, side);
  const cloth = settled(knitFabric(seen.chart, ground), proportions);
  const view = fittedView(fill ? withinOf(cloth) : boundsOf(cloth), { width, height }, seen.side, fill);
  const plate = newPlate(width, height);
  // That yarn lies against yarn would take longer than a small picture is worth.
  const as = { height: proportions.height, bobble, loosely: true };
  paintFinely(plate, yarnPaths(cloth.fabric, cloth.lie, as), view, yarn);
  return plate;
}

export interface SmallPicture {
  side?: View['side'];
  fill?: boolean;
  proportions?: Proportions;
  bobble?: number;
  ground?: ClothSettings['ground'];
}
