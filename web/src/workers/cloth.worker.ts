import {
  assemble,
  boundsOf,
  boxAbout,
  carriedOver,
  ChartSchema,
  clothSvg,
  extentOf,
  fitCloth,
  fittedView,
  knitFabric,
  linesOfLoops,
  loopsAbout,
  MOST_IN_LINES,
  movedLoops,
  newPlate,
  paintCloth,
  FINE_BELOW,
  fineStrips,
  paintFinely,
  PieceFault,
  PieceSchema,
  sameValue,
  settle,
  settleNear,
  smallPicture,
  springsOf,
  unfold,
  unrelaxed,
  yarnPaths,
  AT_REST,
  YARNS,
  type Bounds,
  type Chart,
  type Extent,
  type FittedCloth,
  type KnittedCloth,
  type Piece,
  type Plate,
  type Proportions,
  type Sample,
  type Settling,
  type SmallPicture,
  type Springs,
  type View,
  type YarnName,
  type YarnPaths,
} from '@cordelina/core';
import { expose, transfer } from 'comlink';
import { HeldCharts, type Sent } from './held-charts.js';

/** Of what the cloth is to be: a chart with its repeats drawn out, or the piece in one size. */
export type ClothOf =
  | { kind: 'chart'; sent: Sent; times: number; passes: number }
  | { kind: 'piece'; sent: readonly Sent[]; piece: Piece; size: string };

/** How it is worked and looks. */
export interface ClothAs {
  proportions: Proportions;
  bobble: number;
}

/** What the page is told of a cloth when it has been knitted. */
export interface Knitted {
  loops: number;
  /** Of each loop: the row (from 0; −1 for the cast-on) and the column of its chart that it is a stitch of. */
  row: Int32Array;
  column: Int32Array;
  /** Rows that are left out at the top, since there would be too many loops. */
  leftOut: number;
  /** A sentence where there is nothing to show. */
  fault: string | null;
}

/** What may be asked to be seen: a view, or all of the cloth. */
export interface Asked {
  width: number;
  height: number;
  side: View['side'];
  yarn: YarnName;
  /** Null for all of it. */
  at: { scale: number; x: number; y: number } | null;
}

/** One picture, as it was asked for, with the loop at each of its pixels (−1 where there is none). */
export interface Frame {
  bitmap: ImageBitmap;
  loopAt: Int32Array;
  view: View;
  /** What it answers, and whether it is painted as well as it can be. */
  asked: Asked;
  isFine: boolean;
}

export interface Progress {
  state: 'settling' | 'rest' | 'stopped';
  /** From 0 to 1, by how little the loops are still pulled. */
  share: number;
  extent: Extent | null;
  bounds: Bounds;
}

export interface Told {
  frame: (frame: Frame) => void;
  progress: (progress: Progress) => void;
}

/** So many loops are drawn at once; a larger piece is drawn from its foot. About a kilobyte each is held. */
export const MOST_LOOPS = 120_000;
/** The worker looks up from its work this often, in milliseconds, and shows how far it is this often. */
const SLICE = 24;
const SHOW_EVERY = 320;
/** Of its time it gives at most so much to pictures of cloth that still moves. */
const SHOW_SHARE = 0.2;
/** After an edit the loops near it get so long before the first picture of it. */
const NEAR_TIME = 60;

/** Nothing was asked for so long: what is seen is worth painting finely. */
const QUIET = 120;
/** A picture of so many pixels is painted at once, in full; so much of a cloth may have moved where only that is painted. */
const MOST_SHARP = 400_000;
const MOST_MOVED = 0.3;

const pause = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));
const breathe = () => pause(0);

const charts = new HeldCharts();
let told: Told | null = null;
let cloth: KnittedCloth | null = null;
let as: ClothAs | null = null;
let springs: Springs | null = null;
let settling: Settling | null = null;
let paths: YarnPaths | null = null;
let plate: Plate | null = null;
let asked: Asked | null = null;
let progress: Progress | null = null;
let pullAtFirst = 1;
let isRunning = false;
let isToPaint = false;
/** How long the last picture took, in milliseconds. */
let paintTime = 0;
/** The picture shown is a quick one: a fine one follows when nothing else is asked. */
let isToRefine = false;
/** The cloth as it was painted, and how: where only a part of it has changed, only that is painted again. */
let painted: { cloth: KnittedCloth; view: View; yarn: YarnName } | null = null;

/** The chart that is knitted, which chart of the design each of its cells stands for, and what is left out. */
function chartOf(of: ClothOf): { chart: Chart; place: (row: number, column: number) => [number, number] } {
  if (of.kind === 'chart') {
    const [chart] = charts.take([of.sent]);
    const drawn = unfold(chart!, of.times, of.passes);
    return {
      chart: drawn.chart,
      place: (row, column) => {
        const own = drawn.rowOf(Math.max(0, row));
        return [row < 0 ? -1 : own, drawn.columnOf(own, column)];
      },
    };
  }
  const piece = PieceSchema.parse(of.piece);
  const size = piece.sizes.find((s) => s.id === of.size) ?? piece.sizes[0]!;
  const { chart } = assemble({ charts: charts.take(of.sent) }, piece, size);
  return { chart: unfold(chart).chart, place: (row, column) => [row, column] };
}

function repath(): void {
  if (cloth && as)
    paths = yarnPaths(cloth.fabric, cloth.lie, { height: as.proportions.height, bobble: as.bobble });
}

/** A fitted cloth is looked at anew only when it has grown or shrunk by so much: else its picture would never stand still. */
const STILL_FITS = 0.01;

/** The view that was asked for, in a picture so many times as large. */
function viewOf({ width, height }: { width: number; height: number }, times: number): View {
  const { side, at } = asked!;
  if (at) return { width, height, side, ...at, scale: at.scale * times };
  const fitted = fittedView(boundsOf(cloth!), { width, height }, side);
  const last = painted?.view;
  const isStill =
    last?.side === side &&
    last.width === width &&
    last.height === height &&
    Math.abs(last.scale / fitted.scale - 1) < STILL_FITS &&
    Math.hypot(last.x - fitted.x, last.y - fitted.y) * fitted.scale < STILL_FITS * height;
  return isStill ? last : fitted;
}

/** Paints what has changed since the last picture; all of it where that was another view or another cloth. */
function paintChanged(view: View, yarn: YarnName): void {
  const isSameView = painted !== null && painted.yarn === yarn && sameValue(painted.view, view);
  const moved = isSameView ? movedLoops(painted!.cloth, cloth!) : null;
  if (!moved || moved.reduce((sum, m) => sum + m, 0) > MOST_MOVED * moved.length) {
    if (!paths) repath();
    paintCloth(plate!, paths!, view, YARNS[yarn]);
    return;
  }
  const box = boxAbout(cloth!.fabric, [painted!.cloth.lie, cloth!.lie], moved, view);
  if (!box) return;
  const { proportions, bobble } = as!;
  const only = cloth!.fabric.isTube ? null : loopsAbout(cloth!, view, box);
  paintCloth(
    plate!,
    yarnPaths(cloth!.fabric, cloth!.lie, { height: proportions.height, bobble, only }),
    view,
    YARNS[yarn],
    box,
  );
}

/** A plate of this size: the last one where it fits. */
function plateOf({ width, height }: { width: number; height: number }): Plate {
  if (plate?.width !== width || plate.height !== height) {
    plate = newPlate(width, height);
    painted = null;
  }
  return plate;
}

/** Paints at once what was asked for; while the cloth settles, a large picture half as sharp. */
function paint(): void {
  isToPaint = false;
  if (!asked || !cloth) return;
  const { width, height, yarn } = asked;
  const isDraft = settling !== null && width * height > MOST_SHARP;
  const size = isDraft ? { width: Math.ceil(width / 2), height: Math.ceil(height / 2) } : { width, height };
  plateOf(size);
  const view = viewOf(size, isDraft ? 0.5 : 1);
  const begun = performance.now();
  paintChanged(view, yarn);
  paintTime = performance.now() - begun;
  const isFine = !settling && view.scale >= FINE_BELOW;
  isToRefine = !isFine;
  show(view, isFine);
}

/** Paints it as well as can be, unless something else is asked for meanwhile. */
async function refine(): Promise<void> {
  if (!asked || !cloth) return;
  if (!paths) repath();
  const { width, height, yarn } = asked;
  const own = plateOf({ width, height });
  const view = viewOf(own, 1);
  for (const _ of fineStrips(own, paths!, view, YARNS[yarn])) {
    // A picture that is given up half-way is no ground to paint changes on.
    painted = null;
    await breathe();
    if (isToPaint || settling) return;
  }
  isToRefine = false;
  show(view, true);
}

/** Hands the picture to the page. */
function show(view: View, isFine: boolean): void {
  if (!told || !plate || !cloth || !asked) return;
  painted = { cloth: { fabric: cloth.fabric, lie: cloth.lie.slice() }, view, yarn: asked.yarn };
  const loopAt = plate.loop.slice();
  const canvas = new OffscreenCanvas(plate.width, plate.height);
  canvas.getContext('2d')!.putImageData(new ImageData(plate.rgba, plate.width, plate.height), 0, 0);
  const bitmap = canvas.transferToImageBitmap();
  told.frame(transfer({ bitmap, loopAt, view, asked, isFine }, [bitmap, loopAt.buffer]));
}

function tell(state: Progress['state'], share: number): void {
  if (!cloth || !as) return;
  const extent = extentOf(cloth, as.proportions);
  progress = { state, share, extent, bounds: boundsOf(cloth) };
  told?.progress(progress);
}

/** Steps for so long; whether the cloth has come to rest. */
function stepFor(ms: number): boolean {
  const until = performance.now() + ms;
  while (settling && performance.now() < until) {
    const { value, done } = settling.next();
    paths = null;
    if (value.steps === 1) pullAtFirst = Math.max(value.pull, AT_REST * 2);
    if (done) {
      settling = null;
      return true;
    }
    const share = 1 - Math.log(Math.max(value.pull, AT_REST) / AT_REST) / Math.log(pullAtFirst / AT_REST);
    if (progress) progress.share = Math.max(progress.share, Math.min(0.99, share));
  }
  return !settling;
}

/** Does what there is to do, a little at a time, so that what is asked meanwhile is heard. */
async function run(): Promise<void> {
  if (isRunning) return;
  isRunning = true;
  let shown = performance.now();
  try {
    while (isToPaint || settling || isToRefine) {
      if (isToPaint) paint();
      await breathe();
      if (!settling) {
        if (isToPaint || !isToRefine) continue;
        await pause(QUIET);
        if (!isToPaint && !settling) await refine();
        continue;
      }
      const isAtRest = stepFor(SLICE);
      if (isAtRest) {
        tell('rest', 1);
        isToPaint = true;
      } else if (performance.now() - shown > Math.max(SHOW_EVERY, paintTime / SHOW_SHARE)) {
        tell('settling', progress?.share ?? 0);
        isToPaint = true;
        shown = performance.now();
      }
      await breathe();
    }
  } finally {
    isRunning = false;
  }
}

/** The rows that have room. */
function cropped(chart: Chart): { chart: Chart; leftOut: number } {
  const most = Math.max(1, Math.floor(MOST_LOOPS / chart.width));
  const leftOut = Math.max(0, chart.rows.length - most);
  return { chart: leftOut ? { ...chart, rows: chart.rows.slice(0, most) } : chart, leftOut };
}

const NONE: Knitted = {
  loops: 0,
  row: new Int32Array(),
  column: new Int32Array(),
  leftOut: 0,
  fault: null,
};

const clothWorker = {
  listen(frame: Told['frame'], onProgress: Told['progress']): void {
    told = { frame, progress: onProgress };
  },

  /** Knits a cloth and lets it settle; where it is the last one after an edit, only what is near that moves at first. */
  knit(of: ClothOf, how: ClothAs): Knitted {
    let made: ReturnType<typeof chartOf>;
    try {
      made = chartOf(of);
    } catch (error) {
      if (!(error instanceof PieceFault)) throw error;
      cloth = settling = paths = null;
      return { ...NONE, fault: error.message };
    }
    const { chart, leftOut } = cropped(made.chart);
    const before = cloth;
    const isAsBefore = JSON.stringify(as) === JSON.stringify(how);
    as = how;
    const fabric = knitFabric(chart);
    springs = springsOf(fabric, how.proportions);
    paths = null;
    const carried = before && carriedOver(before, fabric, how.proportions);
    cloth = { fabric, lie: carried?.lie ?? unrelaxed(fabric, how.proportions) };
    if (carried?.near && isAsBefore && !settling) {
      const near = settleNear(cloth, carried.near, how.proportions);
      const until = performance.now() + NEAR_TIME;
      while (!near.next().done && performance.now() < until);
    }
    settling = settle(cloth, how.proportions, springs);
    progress = { state: 'settling', share: 0, extent: null, bounds: boundsOf(cloth) };
    tell('settling', 0);
    isToPaint = true;
    void run();
    const { size } = fabric;
    const [row, column] = [new Int32Array(size), new Int32Array(size)];
    for (let i = 0; i < size; i++) [row[i], column[i]] = made.place(fabric.row[i]!, fabric.column[i]!);
    return transfer({ loops: size, row, column, leftOut, fault: null }, [row.buffer, column.buffer]);
  },

  look(at: Asked): void {
    asked = at;
    isToPaint = true;
    void run();
  },

  /** Leaves the cloth as it lies. */
  stop(): void {
    if (!settling) return;
    settling = null;
    tell('stopped', progress?.share ?? 0);
    isToPaint = true;
    void run();
  },

  /** Goes on from where it was stopped. */
  goOn(): void {
    if (!cloth || !as || settling) return;
    settling = settle(cloth, as.proportions, springs ?? undefined);
    void run();
  },

  /** The yarn of some loops, as lines of points in stitch widths. */
  lines(loops: readonly number[]): [number, number][][] {
    if (!cloth) return [];
    if (!paths) repath();
    return linesOfLoops(paths!, new Set(loops));
  },

  async png(at: Asked): Promise<Blob> {
    const { width, height, side, yarn } = at;
    if (!cloth) throw new Error('There is no cloth.');
    if (!paths) repath();
    const view = at.at ? { width, height, side, ...at.at } : fittedView(boundsOf(cloth), at, side);
    const own = newPlate(width, height);
    paintFinely(own, paths!, view, YARNS[yarn]);
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.putImageData(new ImageData(own.rgba, width, height), 0, 0);
    return canvas.convertToBlob({ type: 'image/png' });
  },

  /** Lines for other programs; null where there are too many loops for a file that can be opened. */
  svg({ width, height, side, yarn, at }: Asked): string | null {
    if (!cloth || cloth.fabric.size > MOST_IN_LINES) return null;
    if (!paths) repath();
    const view = at ? { width, height, side, ...at } : fittedView(boundsOf(cloth), { width, height }, side);
    return clothSvg(paths!, view, YARNS[yarn]);
  },

  fit(
    samples: readonly (Omit<Sample, 'chart'> & { chart: Chart; times: number; passes: number })[],
    height: number,
  ): FittedCloth {
    return fitCloth(
      samples.map(({ chart, times, passes, wide }) => ({
        chart: unfold(ChartSchema.parse(chart), times, passes).chart,
        wide,
      })),
      height,
    );
  },

  /** A small picture of a chart's cloth at rest. */
  small(
    chart: Chart,
    size: { width: number; height: number },
    yarn: YarnName,
    how: SmallPicture,
  ): ImageBitmap {
    const { width, height, rgba } = smallPicture(ChartSchema.parse(chart), size, YARNS[yarn], how);
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
    const bitmap = canvas.transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },
};

export type ClothWorker = typeof clothWorker;
expose(clothWorker);
