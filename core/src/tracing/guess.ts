import {
  hasMirror,
  mirrorStitch,
  sameStitch,
  spanOf,
  type Stitch,
  type StitchBook,
} from '../stitches/book.js';
import type { Pixels } from './ink.js';
import { squareUp, type Corners, type Grid } from './plane.js';

/** A charted grid squared up: every cell has as many pixels each way. Cells count from 0, right and bottom, as a chart's do. */
export interface Squared extends Grid {
  readonly ink: Pixels;
  readonly cell: number;
  /** How much ink there is above and left of each pixel, one more each way than there are pixels. */
  readonly sums: Uint32Array;
}

/** A cell has so many pixels each way: fewer where there are many cells. */
const CELL = { least: 6, most: 28 } as const;
const MOST_SQUARED = 6_000_000;

export function squaredUp(ink: Pixels, corners: Corners, { columns, rows }: Grid): Squared {
  const cell = Math.max(
    CELL.least,
    Math.min(CELL.most, Math.floor(Math.sqrt(MOST_SQUARED / (columns * rows)))),
  );
  const squared = squareUp(ink, corners, columns * cell, rows * cell);
  return { columns, rows, cell, ink: squared, sums: sumsOf(squared) };
}

function sumsOf({ width, height, values }: Pixels): Uint32Array {
  const sums = new Uint32Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let line = 0;
    for (let x = 0; x < width; x++) {
      line += values[y * width + x]!;
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1]! + line;
    }
  }
  return sums;
}

/** A stitch that the designer has named in the picture, from its right edge. */
export interface Shown {
  readonly row: number;
  readonly column: number;
  readonly stitch: Stitch;
}

/** What a run of cells seems to be. Nothing is known where there is no stitch. */
export interface Guess {
  readonly column: number;
  readonly span: number;
  readonly stitch: Stitch | null;
  /** Whether nothing else that was shown looks nearly as much like it. */
  readonly isSure: boolean;
}

/** A cell is looked at in so many fields each way, leaving out the lines around it. */
const FIELDS = 10;
const LINES = 0.12;
/** It may lie so far off, in cells. */
const OFF = [-0.07, 0, 0.07];
/** How much ink two blank cells may differ by, a field. */
const BLANK = 4;
/** So unlike may two pictures of one stitch be (0 the same, 1 nothing in common). */
const ALIKE = 0.42;
/** A cell that is like nothing costs as much as this. */
const UNLIKE = 0.5;
/** It is sure where it is no more unlike than this, by what is usual in the picture, and another stitch is so much more unlike. */
const SURE = { times: 2.5, more: 0.05 } as const;
const APART = 0.05;
/** So many cells are looked at to tell what is usual. */
const SAMPLE = 400;
/** A stitch may look otherwise in another place, as a knit in a rope does: so many of its looks are remembered, each so unlike the others. */
const MOST_LOOKS = 24;
const ANOTHER_LOOK = 0.06;

type Patch = Float32Array;

/** What stands in a run of cells, as dark as each of its fields is. */
function patchOf(
  { ink: { width, height }, sums, cell, columns, rows }: Squared,
  { row, column, span }: { row: number; column: number; span: number },
  dx = 0,
  dy = 0,
): Patch {
  const edge = LINES * cell;
  const left = (columns - column - span) * cell + edge + dx * cell;
  const top = (rows - 1 - row) * cell + edge + dy * cell;
  const across = FIELDS * span;
  const [w, h] = [(span * cell - 2 * edge) / across, (cell - 2 * edge) / FIELDS];
  const patch = new Float32Array(across * FIELDS);
  const line = width + 1;
  for (let j = 0; j < FIELDS; j++) {
    const y0 = Math.max(0, Math.min(height - 1, Math.floor(top + j * h)));
    const y1 = Math.max(y0 + 1, Math.min(height, Math.ceil(top + (j + 1) * h)));
    for (let i = 0; i < across; i++) {
      const x0 = Math.max(0, Math.min(width - 1, Math.floor(left + i * w)));
      const x1 = Math.max(x0 + 1, Math.min(width, Math.ceil(left + (i + 1) * w)));
      const sum =
        sums[y1 * line + x1]! - sums[y0 * line + x1]! - sums[y1 * line + x0]! + sums[y0 * line + x0]!;
      patch[j * across + i] = sum / ((x1 - x0) * (y1 - y0));
    }
  }
  return patch;
}

/** How unlike two patches of one size are: what is in one only, of all there is. */
function unlike(a: Patch, b: Patch): number {
  let [apart, all] = [0, BLANK * a.length];
  for (let i = 0; i < a.length; i++) {
    apart += Math.abs(a[i]! - b[i]!);
    all += a[i]! + b[i]!;
  }
  return apart / all;
}

interface Kind {
  stitch: Stitch;
  span: number;
  patches: Patch[];
  /** It was not shown itself, but what it is the mirror image of: it is guessed, and never sure. */
  isMirrored: boolean;
}

/** A patch as it is seen in a mirror. */
function flipped(patch: Patch): Patch {
  const across = patch.length / FIELDS;
  return patch.map((_, i) => patch[i - (i % across) + across - 1 - (i % across)]!);
}

/** The stitches that were shown, and what the other cells of the picture seem to be by them. */
export class Guesser {
  private readonly kinds: Kind[] = [];
  private readonly spans: readonly number[];
  private readonly alike: number;

  constructor(
    private readonly squared: Squared,
    shown: readonly Shown[],
    book: StitchBook,
  ) {
    for (const { row, column, stitch } of shown) {
      const span = spanOf(stitch, book);
      if (row >= squared.rows || column + span > squared.columns) continue;
      const patch = patchOf(squared, { row, column, span });
      const kind = this.kinds.find((k) => sameStitch(k.stitch, stitch));
      if (!kind) this.kinds.push({ stitch, span, patches: [patch], isMirrored: false });
      else if (
        kind.patches.length < MOST_LOOKS &&
        kind.patches.every((other) => unlike(other, patch) > ANOTHER_LOOK)
      )
        kind.patches.push(patch);
    }
    for (const { stitch, span, patches } of [...this.kinds]) {
      if (!hasMirror(stitch, book)) continue;
      const mirrored = mirrorStitch(stitch, book);
      if (this.kinds.some((kind) => sameStitch(kind.stitch, mirrored))) continue;
      this.kinds.push({ stitch: mirrored, span, patches: patches.map(flipped), isMirrored: true });
    }
    this.spans = [...new Set(this.kinds.map(({ span }) => span))].sort((a, b) => a - b);
    this.alike = this.usual();
  }

  /** As unlike as a cell usually is from what it shows, in this picture: little in a scan, more in a photo. */
  private usual(): number {
    const { columns, rows } = this.squared;
    const every = Math.max(1, Math.floor((columns * rows) / SAMPLE));
    const found: number[] = [];
    for (let i = 0; i < columns * rows; i += every) {
      const near = this.nearest(Math.floor(i / columns), i % columns, 1);
      if (near.unlike <= ALIKE) found.push(near.unlike);
    }
    return found.sort((a, b) => a - b)[found.length >> 1] ?? 0;
  }

  /** The two stitches of one span that a run of cells is most like. */
  private nearest(row: number, column: number, span: number) {
    const moved = OFF.flatMap((dx) => OFF.map((dy) => patchOf(this.squared, { row, column, span }, dx, dy)));
    let first: { kind: Kind | null; unlike: number } = { kind: null, unlike: Infinity };
    let second = Infinity;
    for (const kind of this.kinds) {
      if (kind.span !== span) continue;
      let least = Infinity;
      for (const patch of kind.patches) for (const one of moved) least = Math.min(least, unlike(patch, one));
      if (least < first.unlike) {
        second = first.unlike;
        first = { kind, unlike: least };
      } else second = Math.min(second, least);
    }
    return { ...first, second };
  }

  /** What the cells of a row seem to be, from the right, all of them: the stitches that together are most like it. */
  row(row: number): Guess[] {
    const { columns } = this.squared;
    const best: { cost: number; guess: Guess | null }[] = [{ cost: 0, guess: null }];
    const singles: number[] = [];
    for (let end = 1; end <= columns; end++) {
      let found: { cost: number; guess: Guess } = {
        cost: best[end - 1]!.cost + UNLIKE,
        guess: { column: end - 1, span: 1, stitch: null, isSure: false },
      };
      // From the narrowest, so that what single cells are like is known where something wider is tried.
      for (const span of this.spans) {
        const column = end - span;
        if (column < 0) continue;
        const near = this.nearest(row, column, span);
        if (span === 1) singles[column] = near.unlike;
        if (near.kind === null || near.unlike > ALIKE) continue;
        const cost = best[column]!.cost + span * near.unlike;
        if (cost >= found.cost) continue;
        const cells = singles.slice(column, end);
        const apart = span > 1 && cells.length ? cells.reduce((sum, one) => sum + one, 0) / span : Infinity;
        const isSure =
          !near.kind.isMirrored &&
          near.unlike <= SURE.times * this.alike + SURE.more &&
          Math.min(near.second, apart) - near.unlike >= APART;
        found = { cost, guess: { column, span, stitch: near.kind.stitch, isSure } };
      }
      best[end] = found;
    }
    const guesses: Guess[] = [];
    for (let end = columns; end > 0;) {
      const guess = best[end]!.guess!;
      guesses.unshift(guess);
      end = guess.column;
    }
    return guesses;
  }
}
