import type { Pixels } from './ink.js';
import type { Corners } from './plane.js';

/** The picture is looked at at about this length, in pixels. */
const LOOKED_AT = 900;
/** So dark is a line. */
const LINE = 24;
/** A grid covers at least this share of the picture each way. */
const LEAST_SHARE = 0.12;
/** How often a part is cut through to see how many lines it has. */
const CUTS = 7;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** The picture made smaller by a whole factor; of each block the darkest pixel, so that thin lines stay whole. */
function darkest({ width, height, values }: Pixels, by: number): Pixels {
  const [across, down] = [Math.ceil(width / by), Math.ceil(height / by)];
  const small = new Uint8Array(across * down);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = Math.floor(y / by) * across + Math.floor(x / by);
      small[at] = Math.max(small[at]!, values[y * width + x]!);
    }
  return { width: across, height: down, values: small };
}

interface Part {
  left: number;
  right: number;
  top: number;
  foot: number;
  /** Its outermost pixels towards each corner. */
  corners: { far: number; x: number; y: number }[];
}

/** Directions towards the corners: upper left, upper right, lower right, lower left. */
const TOWARDS = [
  [-1, -1],
  [1, -1],
  [1, 1],
  [-1, 1],
] as const;

/** Marks everything dark that hangs together with a pixel, and tells how far it goes. */
function spread({ width, height, values }: Pixels, from: number, mark: number, marks: Int32Array): Part {
  const waiting = [from];
  marks[from] = mark;
  const part: Part = {
    left: width,
    right: 0,
    top: height,
    foot: 0,
    corners: TOWARDS.map(() => ({ far: -Infinity, x: 0, y: 0 })),
  };
  while (waiting.length) {
    const at = waiting.pop()!;
    const [x, y] = [at % width, Math.floor(at / width)];
    part.left = Math.min(part.left, x);
    part.right = Math.max(part.right, x);
    part.top = Math.min(part.top, y);
    part.foot = Math.max(part.foot, y);
    TOWARDS.forEach(([dx, dy], i) => {
      const far = dx * x + dy * y;
      if (far > part.corners[i]!.far) part.corners[i] = { far, x, y };
    });
    for (let j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1); j++)
      for (let i = Math.max(0, x - 1); i <= Math.min(width - 1, x + 1); i++) {
        const next = j * width + i;
        if (marks[next] || values[next]! < LINE) continue;
        marks[next] = mark;
        waiting.push(next);
      }
  }
  return part;
}

/** How many lines are met on straight ways through a part, across and down: a grid has many, a frame or a shadow few. */
function linesThrough({ left, right, top, foot }: Part, mark: number, marks: Int32Array, width: number) {
  let lines = 0;
  for (let cut = 1; cut <= CUTS; cut++) {
    // At no even parts, where a cut would run along a line.
    const at = (cut * GOLDEN) % 1;
    const y = Math.round(top + (foot - top) * at);
    const x = Math.round(left + (right - left) * at);
    for (let i = left + 1; i <= right; i++)
      if (marks[y * width + i] === mark && marks[y * width + i - 1] !== mark) lines++;
    for (let j = top + 1; j <= foot; j++)
      if (marks[j * width + x] === mark && marks[(j - 1) * width + x] !== mark) lines++;
  }
  return lines;
}

/**
 * Where the corners of a charted grid seem to be: its lines all hang together, and no other part of a picture has as many.
 *
 * @param ink as `inkOf` has it
 * @returns null where there is nothing like a grid
 */
export function findCorners(ink: Pixels): Corners | null {
  const by = Math.max(1, Math.round(Math.max(ink.width, ink.height) / LOOKED_AT));
  const small = darkest(ink, by);
  const { width, height, values } = small;
  const marks = new Int32Array(width * height);
  let mark = 0;
  let best: { lines: number; part: Part } | null = null;
  for (let at = 0; at < values.length; at++) {
    if (marks[at] || values[at]! < LINE) continue;
    const part = spread(small, at, ++mark, marks);
    if (part.right - part.left < LEAST_SHARE * width || part.foot - part.top < LEAST_SHARE * height) continue;
    const lines = linesThrough(part, mark, marks, width);
    if (!best || lines > best.lines) best = { lines, part };
  }
  if (!best || best.lines < 4 * CUTS) return null;
  const [a, b, c, d] = best.part.corners.map(({ x, y }) => ({ x: (x + 0.5) * by, y: (y + 0.5) * by }));
  return [a!, b!, c!, d!];
}
