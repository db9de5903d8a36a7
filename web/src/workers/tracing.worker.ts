import {
  findCorners,
  findGrid,
  Guesser,
  inkOf,
  lightOf,
  MOST_PIXELS,
  snapped,
  squaredUp,
  stitchBook,
  StitchSchema,
  type Corners,
  type Grid,
  type Guess,
  type OwnStitch,
  type Pixels,
  type Shown,
  type Squared,
} from '@cordelina/core';
import { expose, transfer } from 'comlink';
import { bitmapOf, NoPicture } from './picture-in.js';

/** What is known of a picture when it has been opened. */
export interface PictureOpened {
  /** The size it is looked at in, in pixels: corners are told in these. */
  width: number;
  height: number;
  /** What seems to be a grid in it. */
  corners: Corners | null;
  grid: Grid | null;
}

let ink: Pixels | null = null;
let squared: Squared | null = null;
let guesser: Guesser | null = null;

/** The colour of the ink of a tracing sheet, that of nothing else on a chart: a blue pencil. */
const PENCIL = [30, 74, 140] as const;

/** Opens, squares up and reads pictures of charts off the page's own thread. */
const tracingWorker = {
  /** Opens a picture and looks for a grid in it. */
  async open(file: Blob): Promise<{ opened: PictureOpened | null; problem: string | null }> {
    if (typeof OffscreenCanvas === 'undefined')
      return {
        opened: null,
        problem: 'This browser cannot read pictures beside the page: tracing needs another.',
      };
    let bitmap: ImageBitmap;
    try {
      bitmap = await bitmapOf(file);
    } catch (error) {
      if (error instanceof NoPicture) return { opened: null, problem: error.message };
      throw error;
    }
    const scale = Math.min(1, Math.sqrt(MOST_PIXELS / (bitmap.width * bitmap.height)));
    const [width, height] = [bitmap.width, bitmap.height].map((side) =>
      Math.max(1, Math.round(side * scale)),
    ) as [number, number];
    const canvas = new OffscreenCanvas(width, height);
    const paint = canvas.getContext('2d', { willReadFrequently: true })!;
    paint.drawImage(bitmap, 0, 0, width, height);
    bitmap.close();
    ink = inkOf(lightOf(paint.getImageData(0, 0, width, height).data, width, height));
    squared = guesser = null;
    const corners = findCorners(ink);
    const grid = corners && findGrid(ink, corners);
    return {
      opened: { width, height, corners: corners && grid ? snapped(ink, corners, grid) : corners, grid },
      problem: null,
    };
  },
  /** How many columns and rows lie between corners; null where their lines are not seen. */
  grid: (corners: Corners): Grid | null => (ink ? findGrid(ink, corners) : null),
  /** Corners moved to where the lines lie. */
  snap: (corners: Corners, grid: Grid): Corners => (ink ? snapped(ink, corners, grid) : corners),
  /** Squares the picture up: its ink as a sheet to see through. */
  async lay(corners: Corners, grid: Grid): Promise<{ sheet: ImageBitmap; cell: number }> {
    if (!ink) throw new Error('There is no picture open.');
    squared = squaredUp(ink, corners, grid);
    guesser = null;
    const { width, height, values } = squared.ink;
    const rgba = new ImageData(width, height);
    for (let i = 0; i < values.length; i++) {
      rgba.data.set(PENCIL, 4 * i);
      rgba.data[4 * i + 3] = values[i]!;
    }
    const sheet = await createImageBitmap(rgba);
    return transfer({ sheet, cell: squared.cell }, [sheet]);
  },
  /** Shows it the stitches that were named in the picture. */
  show(sent: readonly Shown[], own: readonly OwnStitch[]): void {
    // Made this thread's own.
    const shown = sent.map((one) => ({ ...one, stitch: StitchSchema.parse(one.stitch) }));
    guesser = squared && new Guesser(squared, shown, stitchBook(own));
  },
  /** What rows of the picture seem to be by what was shown, from one to before another. */
  guess: (from: number, to: number): Guess[][] =>
    Array.from({ length: Math.max(0, Math.min(to, squared?.rows ?? 0) - from) }, (_, i) =>
      guesser ? guesser.row(from + i) : [],
    ),
};

export type TracingWorker = typeof tracingWorker;
expose(tracingWorker);
