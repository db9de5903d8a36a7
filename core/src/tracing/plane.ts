import type { Pixels, Point } from './ink.js';

/** The corners of a charted grid as they lie in a picture: upper left, upper right, lower right, lower left. */
export type Corners = readonly [Point, Point, Point, Point];

/** How many columns and rows a grid has. */
export interface Grid {
  readonly columns: number;
  readonly rows: number;
}

/** Whether four corners go round a field that is not turned in on itself, with sides of some length. */
export function isField(corners: Corners): boolean {
  return corners.every((at, i) => {
    const [next, after] = [corners[(i + 1) % 4]!, corners[(i + 2) % 4]!];
    const turn = (next.x - at.x) * (after.y - next.y) - (next.y - at.y) * (after.x - next.x);
    return Math.hypot(next.x - at.x, next.y - at.y) >= 8 && turn > 1;
  });
}

/**
 * The place in a picture of a point of the grid, `u` across and `v` down, each 0 to 1: the projective map of the unit square to four
 * corners (from memory: the usual closed form of computer vision).
 */
export function planeOf([a, b, c, d]: Corners): (u: number, v: number) => Point {
  const sum = { x: a.x - b.x + c.x - d.x, y: a.y - b.y + c.y - d.y };
  const [p, q] = [
    { x: b.x - c.x, y: b.y - c.y },
    { x: d.x - c.x, y: d.y - c.y },
  ];
  const whole = p.x * q.y - q.x * p.y;
  const g = (sum.x * q.y - q.x * sum.y) / whole;
  const h = (p.x * sum.y - sum.x * p.y) / whole;
  const across = { x: b.x - a.x + g * b.x, y: b.y - a.y + g * b.y };
  const down = { x: d.x - a.x + h * d.x, y: d.y - a.y + h * d.y };
  return (u, v) => {
    const far = g * u + h * v + 1;
    return { x: (across.x * u + down.x * v + a.x) / far, y: (across.y * u + down.y * v + a.y) / far };
  };
}

/** A picture between its pixels; beyond its edges there is nothing. */
export function valueAt({ width, height, values }: Pixels, x: number, y: number): number {
  const [left, top] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  const [fx, fy] = [x - 0.5 - left, y - 0.5 - top];
  const at = (i: number, j: number) =>
    i >= 0 && j >= 0 && i < width && j < height ? values[j * width + i]! : 0;
  const upper = at(left, top) * (1 - fx) + at(left + 1, top) * fx;
  const lower = at(left, top + 1) * (1 - fx) + at(left + 1, top + 1) * fx;
  return upper * (1 - fy) + lower * fy;
}

/** The field between the corners, squared up to so many pixels; where it grows smaller, each pixel is the mean of what falls in it. */
export function squareUp(picture: Pixels, corners: Corners, width: number, height: number): Pixels {
  const plane = planeOf(corners);
  const [a, b, , d] = corners;
  const grown = Math.max(Math.hypot(b.x - a.x, b.y - a.y) / width, Math.hypot(d.x - a.x, d.y - a.y) / height);
  const fine = Math.max(1, Math.min(4, Math.round(grown)));
  const values = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let j = 0; j < fine; j++)
        for (let i = 0; i < fine; i++) {
          const at = plane((x + (i + 0.5) / fine) / width, (y + (j + 0.5) / fine) / height);
          sum += valueAt(picture, at.x, at.y);
        }
      values[y * width + x] = Math.round(sum / (fine * fine));
    }
  return { width, height, values };
}
