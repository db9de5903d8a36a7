import { LIMITS } from '../chart/schema.js';
import type { Pixels, Point } from './ink.js';
import { isField, planeOf, squareUp, valueAt, type Corners, type Grid } from './plane.js';

/** A side of the field is looked at at no more pixels than this, and a cell at no fewer. */
const MOST_SIDE = 2400;
const LEAST_CELL = 4;
/** A line goes on through this share of the field at least: charts leave lines out inside of crossings. */
const GOES_ON = 0.45;
/** So much darker than what lies to both sides of it is a line, in 255ths. */
const DARKER = 10;
/** So much of a grid's lines must be found for it to be one. */
const FOUND = 0.8;

/** A picture, and how dark each pixel is against those to its left and right: high on upright lines, not within a field of colour. */
interface Ridges {
  width: number;
  height: number;
  values: Int16Array;
}

function ridgesOf({ width, height, values }: Pixels): Ridges {
  const ridges = new Int16Array(values.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const left = values[at - Math.min(3, x)]!;
      const right = values[at + Math.min(3, width - 1 - x)]!;
      ridges[at] = values[at]! - (left + right) / 2;
    }
  return { width, height, values: ridges };
}

const turned = ({ width, height, values }: Pixels): Pixels => {
  const out = new Uint8Array(values.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) out[x * height + y] = values[y * width + x]!;
  return { width: height, height: width, values: out };
};

/** How dark an upright line near a place is; 0 where there is none. */
function darkNear({ width, height, values }: Ridges, x: number, y: number, off: number): number {
  const row = Math.max(0, Math.min(height - 1, Math.floor(y))) * width;
  let dark = 0;
  for (let at = Math.max(0, Math.round(x - off)); at <= Math.min(width - 1, Math.round(x + off)); at++)
    dark = Math.max(dark, values[row + at]!);
  return dark;
}

/** How far a line may lie off its place, in pixels, by the size of a cell. */
const offIn = (cell: number) => Math.min(3, Math.max(1, cell / 8));

/** The numbers of equal parts into which upright lines divide a field, all that may be: nearly every line is there. */
function maybe(ridges: Ridges, most: number): number[] {
  const { width, height, values } = ridges;
  const isLine = Array.from({ length: width }, (_, x) => {
    let dark = 0;
    for (let y = 0; y < height; y++) if (values[y * width + x]! >= DARKER) dark++;
    return dark >= GOES_ON * height;
  });
  const found: number[] = [];
  for (let n = 2; n <= Math.min(most, Math.floor(width / LEAST_CELL)); n++) {
    const off = offIn(width / n);
    let there = 0;
    for (let k = 1; k < n; k++) {
      const [from, to] = [Math.round((k * width) / n - off), Math.round((k * width) / n + off)];
      for (let x = Math.max(0, from); x <= Math.min(width - 1, to); x++)
        if (isLine[x]) {
          there++;
          break;
        }
    }
    if (there >= FOUND * (n - 1)) found.push(n);
  }
  return found;
}

/** A grid has few numbers of parts that may be (its own, and those that go into it); where there are more it is a pattern, and no grid. */
const MOST_MAYBE = 60;

/** Lines and places along each that are looked at, of those there are. */
const MOST_LOOKED = 48;
/** So far from where lines meet they are looked at, in cells: marks of stitches do not reach there. */
const BESIDE = 0.09;
/** A cell is at most so much longer than it is wide, or wider than it is long. */
const MOST_LONG = 1.8;
/** There a line must have this share of its own darkness, */
const AS_DARK = 0.35;
/** at this share of the places: it may be left out inside of crossings. */
const MEETS = 0.3;
/** As dark as a line is where it is darkest, leaving out so much. */
const DARKEST = 0.8;

/** Whether upright lines in so many parts are lines of a grid of so many rows, and not marks in its cells: these end before its lines. */
function areLines(ridges: Ridges, parts: number, rows: number): boolean {
  const { width, height } = ridges;
  const off = offIn(width / parts);
  const every = Math.max(1, Math.floor((parts - 1) / MOST_LOOKED));
  // Odd, so that places of both kinds are looked at.
  const down = Math.max(1, Math.floor(rows / MOST_LOOKED)) | 1;
  let [there, lines] = [0, 0];
  for (let k = 1; k < parts; k += every, lines++) {
    const x = (k * width) / parts;
    const own = Array.from({ length: 4 * MOST_LOOKED }, (_, i) =>
      darkNear(ridges, x, (height * (i + 0.5)) / (4 * MOST_LOOKED), off),
    ).sort((a, b) => a - b)[Math.floor(DARKEST * 4 * MOST_LOOKED)]!;
    const enough = Math.max(DARKER, AS_DARK * own);
    // Every other place by itself: were the rows half as many, marks in the middle of cells would be at every other.
    const seen = [
      { dark: 0, places: 0 },
      { dark: 0, places: 0 },
    ];
    for (let j = 0; j <= rows; j += down)
      for (const beside of [-BESIDE, BESIDE]) {
        const v = (j + beside) / rows;
        if (v < 0 || v > 1) continue;
        const at = seen[j % 2]!;
        at.places++;
        if (darkNear(ridges, x, v * height, off) >= enough) at.dark++;
      }
    if (seen.every(({ dark, places }) => dark >= MEETS * places)) there++;
  }
  return there >= FOUND * lines;
}

/**
 * How many columns and rows a grid between four corners has, by its lines: the most that may be. Fewer would have all of their lines
 * too (each fifth is often heavier), more would not.
 *
 * @returns null where too few lines are seen
 */
export function findGrid(ink: Pixels, corners: Corners): Grid | null {
  if (!isField(corners)) return null;
  const [a, b, c, d] = corners;
  const long = (p: Point, q: Point) => Math.hypot(p.x - q.x, p.y - q.y);
  const side = (one: number, other: number) =>
    Math.max(32, Math.min(MOST_SIDE, Math.round(Math.max(one, other))));
  const field = squareUp(ink, corners, side(long(a, b), long(d, c)), side(long(a, d), long(b, c)));
  const [upright, level] = [ridgesOf(field), ridgesOf(turned(field))];
  const [across, down] = [maybe(upright, LIMITS.columns), maybe(level, LIMITS.rows)];
  if (across.length > MOST_MAYBE || down.length > MOST_MAYBE) return null;
  const pairs = across.flatMap((columns) =>
    down
      .map((rows) => ({ columns, rows }))
      .filter(({ rows }) => {
        const long = field.height / rows / (field.width / columns);
        return long <= MOST_LONG && long >= 1 / MOST_LONG;
      }),
  );
  pairs.sort((one, other) => other.columns * other.rows - one.columns * one.rows);
  return (
    pairs.find(({ columns, rows }) => areLines(upright, columns, rows) && areLines(level, rows, columns)) ??
    null
  );
}

/** Of so many lines of a grid at most it is asked how well they lie, and at so many places of each. */
const MOST_LINES = 60;
const PLACES = 90;

/** How dark the picture is along the lines of a grid. */
function onLines(ink: Pixels, corners: Corners, { columns, rows }: Grid): number {
  const plane = planeOf(corners);
  let sum = 0;
  const along = (many: number, at: (line: number, place: number) => { x: number; y: number }) => {
    const step = Math.max(1, Math.floor(many / MOST_LINES));
    let [dark, lines] = [0, 0];
    for (let k = 0; k <= many; k += step, lines++)
      for (let i = 0; i < PLACES; i++) {
        const { x, y } = at(k / many, (i + 0.37) / PLACES);
        dark += valueAt(ink, x, y);
      }
    sum += dark / lines;
  };
  along(columns, (line, place) => plane(line, place));
  along(rows, (line, place) => plane(place, line));
  return sum;
}

/** Corners are moved to where the lines of the grid lie, by half a cell at most. */
export function snapped(ink: Pixels, corners: Corners, grid: Grid): Corners {
  const [a, b, , d] = corners;
  const cell = Math.min(
    Math.hypot(b.x - a.x, b.y - a.y) / grid.columns,
    Math.hypot(d.x - a.x, d.y - a.y) / grid.rows,
  );
  let best = corners;
  let dark = onLines(ink, best, grid);
  for (let step = cell / 4; step >= 0.25; step /= 2)
    for (let isBetter = true; isBetter;) {
      isBetter = false;
      for (let i = 0; i < 4; i++)
        for (const [dx, dy] of [
          [step, 0],
          [-step, 0],
          [0, step],
          [0, -step],
        ] as const) {
          const at = { x: best[i]!.x + dx, y: best[i]!.y + dy };
          if (Math.hypot(at.x - corners[i]!.x, at.y - corners[i]!.y) > cell / 2) continue;
          const tried = best.with(i, at) as unknown as Corners;
          if (!isField(tried)) continue;
          const now = onLines(ink, tried, grid);
          if (now > dark + 1e-6) [best, dark, isBetter] = [tried, now, true];
        }
    }
  return best;
}
