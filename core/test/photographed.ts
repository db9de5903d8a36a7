import { all, create } from 'mathjs';
import type { Corners, Grid, Point } from '../src/index.js';

/**
 * Charts as somebody photographed or scanned them, for the tests of tracing: drawn here pixel by pixel, and bent into perspective by a
 * general mathematics library, so that nothing of the program's own way of reading them is in them.
 */

const math = create(all!, {});

/** What a cell shows, by a letter of the test's own; a run of one letter of a crossing is one crossing. */
export type Marks = Record<string, { span: number; dark: (u: number, v: number) => number }>;

const near = (distance: number, width: number) => (Math.abs(distance) < width ? 1 : 0);

/** Ordinary marks of printed charts: blank, dot, level and upright bars, decrease strokes, ropes over four. */
export const MARKS: Marks = {
  k: { span: 1, dark: () => 0 },
  p: { span: 1, dark: (u, v) => (Math.hypot(u - 0.5, v - 0.5) < 0.13 ? 1 : 0) },
  b: { span: 1, dark: (u, v) => (u > 0.2 && u < 0.8 ? near(v - 0.5, 0.05) : 0) },
  i: { span: 1, dark: (u, v) => (v > 0.18 && v < 0.82 ? near(u - 0.5, 0.05) : 0) },
  r: { span: 1, dark: (u, v) => (v > 0.15 && v < 0.85 ? near(u - v, 0.07) : 0) },
  l: { span: 1, dark: (u, v) => (v > 0.15 && v < 0.85 ? near(u + v - 1, 0.07) : 0) },
  o: { span: 1, dark: (u, v) => near(Math.hypot(u - 0.5, v - 0.5) - 0.25, 0.05) },
  L: {
    span: 4,
    dark: (u, v) =>
      Math.max(near(u - 2 - 2 * (v - 0.5) * 1.6 + 1, 0.06), near(u - 2 - 2 * (v - 0.5) * 1.6 - 1, 0.06)),
  },
  R: {
    span: 4,
    dark: (u, v) =>
      Math.max(near(u - 2 + 2 * (v - 0.5) * 1.6 + 1, 0.06), near(u - 2 + 2 * (v - 0.5) * 1.6 - 1, 0.06)),
  },
};

export interface Photo {
  grid: Grid;
  /** The rows from the bottom, each from the right, a letter a stitch. */
  rows: readonly string[];
  corners: Corners;
  size: { width: number; height: number };
  /** How dark lines are, each so often a heavier one, and whether they go on inside of wide marks. */
  line?: number;
  heavy?: number;
  through?: boolean;
  /** Grey levels the light falls off from corner to corner, and of noise. */
  shadow?: number;
  noise?: number;
  /** Paper lies on something dark: so wide a border. */
  table?: number;
}

/** A generator of the same numbers each time. */
function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** From the picture back to the grid: eight equations for eight unknowns, solved by the library. */
function backTo(corners: Corners): (at: Point) => { u: number; v: number } {
  const ends = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as const;
  const rows: number[][] = [];
  const right: number[] = [];
  corners.forEach(({ x, y }, i) => {
    const [u, v] = ends[i]!;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  });
  const h = (math.lusolve(rows, right) as number[][]).map(([one]) => one!);
  return ({ x, y }) => {
    const far = h[6]! * x + h[7]! * y + 1;
    return { u: (h[0]! * x + h[1]! * y + h[2]!) / far, v: (h[3]! * x + h[4]! * y + h[5]!) / far };
  };
}

/** The photo as colours, four numbers a pixel. */
export function photographed({ grid, rows, corners, size, ...more }: Photo, seed = 1): Uint8ClampedArray {
  const { line = 130, heavy = 0, through = true, shadow = 0, noise = 0, table = 0 } = more;
  const { columns } = grid;
  const random = numbers(seed);
  const back = backTo(corners);
  // Of each cell its letter, and how far right of its mark's left edge it is.
  const cells = rows.map((row) => {
    const out: { letter: string; at: number; span: number }[] = [];
    for (const letter of row)
      for (let at = MARKS[letter]!.span - 1; at >= 0; at--)
        out.push({ letter, at, span: MARKS[letter]!.span });
    return out;
  });
  const light = (x: number, y: number): number => {
    const { u, v } = back({ x, y });
    if (Math.min(x, y, size.width - x, size.height - y) < table) return 40;
    const paper = 244 - (shadow * (x / size.width + y / size.height)) / 2;
    if (u < -0.004 || v < -0.004 || u > 1.004 || v > 1.004) return paper;
    const [across, down] = [u * columns, v * grid.rows];
    const [c, r] = [Math.floor(across), Math.floor(down)];
    const [du, dv] = [across - c, down - r];
    const cell = cells[grid.rows - 1 - r]?.[columns - 1 - c];
    const isHeavy = (n: number) => heavy > 0 && n % heavy === 0;
    const wide = (n: number) => (isHeavy(n) ? 0.09 : 0.045);
    const [nearU, nearV] = [Math.round(across), Math.round(down)];
    const isInside = cell && !through && cell.at > 0 && cell.at < cell.span && nearU === c;
    const isInsideRight = cell && !through && cell.at < cell.span - 1 && nearU === c + 1;
    const onLine =
      (Math.abs(across - nearU) < wide(columns - nearU) && !isInside && !isInsideRight) ||
      Math.abs(down - nearV) < wide(grid.rows - nearV);
    const dark = cell ? MARKS[cell.letter]!.dark(cell.at + du, dv) : 0;
    const ink = Math.max(dark * 200, onLine ? line : 0);
    return paper * (1 - ink / 255);
  };
  const rgba = new Uint8ClampedArray(size.width * size.height * 4);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      // Four places in each pixel: edges are soft as a lens makes them.
      let sum = 0;
      for (const [dx, dy] of [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.25, 0.75],
        [0.75, 0.75],
      ] as const)
        sum += light(x + dx, y + dy);
      const seen = sum / 4 + (random() + random() + random() - 1.5) * noise;
      const at = (y * size.width + x) * 4;
      rgba.fill(seen, at, at + 3);
      rgba[at + 3] = 255;
    }
  return rgba;
}
