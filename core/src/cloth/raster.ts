import type { YarnPaths } from './yarn-path.js';

/** Which part of the cloth is seen, from which side, and how large. */
export interface View {
  /** Pixels of the picture. */
  width: number;
  height: number;
  /** Pixels to the width of a plain stitch. */
  scale: number;
  /** The point of the cloth in the middle of the picture, in stitch widths as the right side looks. */
  x: number;
  y: number;
  side: 'RS' | 'WS';
}

/** A part of a picture, in pixels: up to, not including, `right` and `bottom`. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * Half the thickness of the yarn, in stitch widths: by Munden a loop is about four stitch widths long, and worsted yarn lies in it
 * twelve to fourteen times as long as thick (custom).
 */
export const RADIUS = 0.16;
/** Where its fibres are too small to be seen they make it look so much thicker, up to so many pixels a stitch and none from so many. */
const FUZZ = { radius: 0.08, all: 9, none: 24 } as const;
/** Yarn is drawn no thinner than this, in pixels. */
const THINNEST = 0.6;
export function radiusOf({ scale }: View): number {
  const unseen = Math.max(0, Math.min(1, (FUZZ.none - scale) / (FUZZ.none - FUZZ.all)));
  return Math.max((RADIUS + FUZZ.radius * unseen) * scale, THINNEST);
}

/** About how long one turn of the plies is, in stitch widths. */
const TURN = 0.28;
/** From one loop to the next the plies are turned by so much of a turn more: the golden section, which comes near no whole part. */
const SHIFT = 0.381966;

/** Below so many pixels a stitch, half the points of the yarn are gone past. */
const COARSE = 6.5;

/** Into how many straight pieces the yarn between two of its points is cut, by the size it is seen at. */
export const cutsAt = (scale: number): number =>
  scale > 90 ? 10 : scale > 40 ? 7 : scale > 20 ? 4 : scale > 12 ? 2 : 1;

/**
 * A piece of yarn in a picture is so many numbers: x, y and depth of its beginning, the way from there to its end, its
 * length (all in pixels), 1 where the piece before it in the list goes on into it, and in turns of its plies how far along
 * its loop it begins and how long it is.
 */
export const PIECE = 10;

/** Yarn cut into short straight pieces, as it lies in a picture. */
export interface Pieces {
  count: number;
  data: Float32Array;
  /** The loop each belongs to, and of each loop whether it lies in yarn B; none where there is one yarn. */
  loop: Int32Array;
  second: Uint8Array | null;
  /**
   * The stitch each is read as: the head of a loop that a purl is drawn through, as the side looks that is seen, is that purl's bump, and
   * belongs to its row.
   */
  read: Int32Array;
}

/** The point of the cloth at a pixel, in stitch widths as the right side looks. */
export function pointAt(view: View, px: number, py: number): { x: number; y: number } {
  const turn = view.side === 'RS' ? 1 : -1;
  return {
    x: view.x + (turn * (px - view.width / 2)) / view.scale,
    y: view.y - (py - view.height / 2) / view.scale,
  };
}

/** The pixel of a point of the cloth. */
export function pixelOf(view: View, x: number, y: number): { x: number; y: number } {
  const turn = view.side === 'RS' ? 1 : -1;
  return {
    x: view.width / 2 + turn * (x - view.x) * view.scale,
    y: view.height / 2 - (y - view.y) * view.scale,
  };
}

/** How many turns of a round are seen: the cloth goes on at both sides. */
function turnsSeen({ around }: YarnPaths, view: View): number[] {
  if (!around) return [0];
  const half = view.width / 2 / view.scale + around;
  const from = Math.floor((view.x - half) / around);
  const to = Math.ceil((view.x + half) / around);
  return Array.from({ length: Math.min(to - from + 1, 64) }, (_, i) => from + i);
}

/** The yarn within a part of the picture, cut into pieces; what lies outside it is left out. */
export function piecesOf(paths: YarnPaths, view: View, box: Box): Pieces {
  const { points, loop, lines, around, through, face } = paths;
  const { scale } = view;
  const readAt = (i: number): number => {
    const drawn = through[i]!;
    return drawn >= 0 && face[drawn]! < 0 === (view.side === 'RS') ? drawn : loop[i]!;
  };
  const cuts = cutsAt(scale);
  // So small that a loop is a few pixels: every other of its points will do.
  const by = scale < COARSE ? 2 : 1;
  const turn = view.side === 'RS' ? 1 : -1;
  const [cx, cy] = [view.width / 2, view.height / 2];
  // Yarn reaches beyond its middle, and is lit by how it goes on.
  const margin = scale * 1.2;
  const [left, right, top, bottom] = [
    box.left - margin,
    box.right + margin,
    box.top - margin,
    box.bottom + margin,
  ];
  const n = points.length / 3;
  let room = 1 << 14;
  let data = new Float32Array(room * PIECE);
  let loops = new Int32Array(room);
  let read = new Int32Array(room);
  let count = 0;
  const at = new Float32Array(3 * n);
  const outside = new Uint8Array(n);
  for (const around1 of turnsSeen(paths, view)) {
    const shift = around1 * around;
    for (let i = 0, p = 0; i < n; i++, p += 3) {
      const x = (at[p] = cx + turn * (points[p]! + shift - view.x) * scale);
      const y = (at[p + 1] = cy - (points[p + 1]! - view.y) * scale);
      at[p + 2] = turn * points[p + 2]! * scale;
      outside[i] = x < left || x > right || y < top || y > bottom ? 1 : 0;
    }
    for (let l = 0; l + 1 < lines.length; l++) {
      const [start, to] = [lines[l]!, lines[l + 1]!];
      let joined = 0;
      let next: number;
      for (let first = start + 1; first < to; first = next) {
        // The yarn of one loop: where its plies stand at its ends follows from which it is, so that it looks the same whatever is
        // drawn beside it, and no two that lie beside each other alike.
        const own = loop[first]!;
        let length = 0;
        let isSeen = false;
        for (next = first; next < to && loop[next] === own; next++) {
          length += distance(at, 3 * next - 3, 3 * next);
          isSeen ||= !outside[next - 1] || !outside[next];
        }
        if (!isSeen) {
          joined = 0;
          continue;
        }
        const onward = next < to ? Math.sign(loop[next]! - own) : 0;
        const turns = (Math.max(1, Math.round(length / (TURN * scale))) + onward * SHIFT) / (length || 1);
        let along = (own * SHIFT) % 1;
        for (
          let i = first, from = first - 1;
          i < next;
          from = i, i = Math.min(i + by, Math.max(i + 1, next - 1))
        ) {
          const b = 3 * from;
          const c = 3 * i;
          const wound = distance(at, b, c) * turns;
          if (outside[from] && outside[i]) {
            along += wound;
            joined = 0;
            continue;
          }
          if (count + cuts > room) {
            room *= 2;
            const [data0, loops0] = [data, loops];
            data = new Float32Array(room * PIECE);
            data.set(data0);
            loops = new Int32Array(room);
            loops.set(loops0);
            const read0 = read;
            read = new Int32Array(room);
            read.set(read0);
          }
          const a = 3 * Math.max(start, i - 2);
          const d = 3 * Math.min(to - 1, i + 1);
          let sx = at[b]!;
          let sy = at[b + 1]!;
          let sz = at[b + 2]!;
          for (let k = 1; k <= cuts; k++) {
            const t = k / cuts;
            const whole = k === cuts;
            const ex = whole ? at[c]! : catmull(at[a]!, at[b]!, at[c]!, at[d]!, t);
            const ey = whole ? at[c + 1]! : catmull(at[a + 1]!, at[b + 1]!, at[c + 1]!, at[d + 1]!, t);
            const ez = whole ? at[c + 2]! : catmull(at[a + 2]!, at[b + 2]!, at[c + 2]!, at[d + 2]!, t);
            const o = count * PIECE;
            const gx = (data[o + 3] = ex - sx);
            const gy = (data[o + 4] = ey - sy);
            const gz = (data[o + 5] = ez - sz);
            data[o] = sx;
            data[o + 1] = sy;
            data[o + 2] = sz;
            data[o + 6] = Math.sqrt(gx * gx + gy * gy + gz * gz) + 1e-6;
            data[o + 7] = joined;
            data[o + 8] = along;
            data[o + 9] = wound / cuts;
            read[count] = readAt(t > 0.5 ? i : from);
            loops[count++] = t > 0.5 ? own : loop[from]!;
            along += wound / cuts;
            joined = 1;
            sx = ex;
            sy = ey;
            sz = ez;
          }
        }
      }
    }
  }
  return { count, data, loop: loops, second: paths.second, read };
}

const distance = (at: Float32Array, p: number, q: number): number => {
  const x = at[q]! - at[p]!;
  const y = at[q + 1]! - at[p + 1]!;
  const z = at[q + 2]! - at[p + 2]!;
  return Math.sqrt(x * x + y * y + z * z);
};

/** Catmull and Rom's curve from `b` to `c`. */
const catmull = (a: number, b: number, c: number, d: number, t: number): number =>
  b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));

/** Nothing is behind everything. */
export const NOTHING = -1e9;

/** What is seen at each pixel of a picture: how near the eye it is, and of which loop. */
export interface Plate {
  readonly width: number;
  readonly height: number;
  readonly depth: Float32Array;
  /** −1 where no yarn is. While a part is being painted, the piece of yarn that is seen there. */
  readonly loop: Int32Array;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
}

export const newPlate = (width: number, height: number): Plate => ({
  width,
  height,
  depth: new Float32Array(width * height).fill(NOTHING),
  loop: new Int32Array(width * height).fill(-1),
  rgba: new Uint8ClampedArray(4 * width * height),
});

/** Finds what is seen in a part of the picture: the yarn is round, and the nearest hides what lies behind it. */
export function rasterise(plate: Plate, { count, data }: Pieces, box: Box, radius: number): void {
  const { width, depth, loop } = plate;
  for (let y = box.top; y < box.bottom; y++) {
    depth.fill(NOTHING, y * width + box.left, y * width + box.right);
    loop.fill(-1, y * width + box.left, y * width + box.right);
  }
  const r2 = radius * radius;
  for (let s = 0, d = 0; s < count; s++, d += PIECE) {
    const x0 = data[d]! - 0.5;
    const y0 = data[d + 1]! - 0.5;
    const z0 = data[d + 2]!;
    const dx = data[d + 3]!;
    const dy = data[d + 4]!;
    const dz = data[d + 5]!;
    const l2 = dx * dx + dy * dy;
    const over = l2 > 1e-9 ? 1 / l2 : 0;
    const left = Math.max(box.left, Math.ceil((dx < 0 ? x0 + dx : x0) - radius));
    const right = Math.min(box.right - 1, Math.floor((dx > 0 ? x0 + dx : x0) + radius));
    const top = Math.max(box.top, Math.ceil((dy < 0 ? y0 + dy : y0) - radius));
    const bottom = Math.min(box.bottom - 1, Math.floor((dy > 0 ? y0 + dy : y0) + radius));
    for (let py = top; py <= bottom; py++) {
      const ry = py - y0;
      const along = ry * dy;
      for (let px = left, at = py * width + left; px <= right; px++, at++) {
        const rx = px - x0;
        let t = (rx * dx + along) * over;
        t = t < 0 ? 0 : t > 1 ? 1 : t;
        const ox = rx - t * dx;
        const oy = ry - t * dy;
        const inside = r2 - ox * ox - oy * oy;
        if (inside <= 0) continue;
        const z = z0 + t * dz + Math.sqrt(inside);
        if (z > depth[at]!) {
          depth[at] = z;
          loop[at] = s;
        }
      }
    }
  }
}
