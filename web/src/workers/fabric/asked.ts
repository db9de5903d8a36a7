import type { Bounds, ClothSettings, Dye, Extent, Piece, Proportions, View } from '@cordelina/core';
import type { Sent } from '../held-charts.js';

/** What the page and the cloth's worker say to each other. */

/** Of what the cloth is to be: a chart with its repeats drawn out, or the piece in one size; turned over where its other side is a fabric of its own. */
export type ClothOf =
  | { kind: 'chart'; sent: Sent; times: number; passes: number; isTurned: boolean }
  | { kind: 'piece'; sent: readonly Sent[]; piece: Piece; size: string; isTurned: boolean };

/** How it is worked and looks. */
export interface ClothAs {
  proportions: Proportions;
  bobble: number;
  ground: ClothSettings['ground'];
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
  dye: Dye;
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
