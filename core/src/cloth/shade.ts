import type { Yarn } from '../drawing/yarns.js';
import { NOTHING, PIECE, type Box, type Pieces, type Plate } from './raster.js';
import { scatter } from './scatter.js';

/** How much of the yarn is drawn at a size: small, only its light; larger, what hides it; large, its plies. */
interface Detail {
  plies: boolean;
  hidden: boolean;
}
const detailAt = (scale: number): Detail => ({ plies: scale > 13, hidden: scale > 2.5 });

/** From above and from the eye, and from neither side: what leans left stands out as what leans right does. */
const LIGHT = unit(0, 0.7, 0.8);
const AMBIENT = 0.4;
const LIT = 0.72;
/** As an eye sees it that is used to the light: dark yarn is not black, and bright yarn not white. */
const BRIGHT = 1.16;
const SOFTER = 0.6;
/** How bright each of so many steps of light to 1 is seen; there is no more than what falls and what lights at once. */
const STEPS = 2048;
const SEEN = Float32Array.from(
  { length: Math.ceil((AMBIENT + LIT) * STEPS) + 2 },
  (_, i) => BRIGHT * ((i + 0.5) / STEPS) ** SOFTER,
);
/** What is behind the cloth lies so far behind it, in stitch widths. */
const BEHIND = 0.6;
/** Of what is about a hole so much must be yarn for it to be as dark as the inside of the cloth; with less it is open. */
const OPEN = { wide: 0.46, narrow: 0.66 } as const;
const INSIDE = 0.4;
/** How far a ply winds over the half of the yarn that is seen. */
const WINDS = 2;
const GROOVE = 0.22;
/** Flecks to a turn of the plies. */
const FIBRES = 1.4;
const TILT = 0.26;

function unit(x: number, y: number, z: number): [number, number, number] {
  const l = Math.hypot(x, y, z);
  return [x / l, y / l, z / l];
}

const TABLE = 512;
/** The groove between plies and its slope, over one turn. */
const GROOVES = Float32Array.from({ length: TABLE }, (_, i) => {
  const wave = Math.cos((i / TABLE) * 2 * Math.PI);
  return wave < 0 ? GROOVE * wave ** 4 : 0;
});
const TILTS = Float32Array.from({ length: TABLE }, (_, i) => -TILT * Math.sin((i / TABLE) * 2 * Math.PI));
/** How far round the yarn a point lies, by how far across it is seen: turns of a ply from the middle. */
const ROUND = Float32Array.from(
  { length: TABLE + 1 },
  (_, i) => (WINDS * Math.asin((2 * i) / TABLE - 1)) / (2 * Math.PI),
);

/** Fibres of another colour lie along the ply: numbers from 0 to 1 that go over smoothly from one of so many places to the next. */
const [PLACES, PARTS] = [64, 8];
const SIDE = PLACES * PARTS;
let made: Float32Array | null = null;
function fibres(): Float32Array {
  if (made) return made;
  made = new Float32Array(SIDE * SIDE);
  const at = (i: number, j: number) => scatter((i % PLACES) * 131 + (j % PLACES) * 7919 + 1);
  const smooth = (t: number) => t * t * (3 - 2 * t);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const [i, j] = [Math.floor(x / PARTS), Math.floor(y / PARTS)];
      const [u, v] = [smooth(x / PARTS - i), smooth(y / PARTS - j)];
      const one = at(i, j) * (1 - u) + at(i + 1, j) * u;
      const next = at(i, j + 1) * (1 - u) + at(i + 1, j + 1) * u;
      made[y * SIDE + x] = one * (1 - v) + next * v;
    }
  return made;
}
/** Over so much of it a fleck comes up out of the yarn. */
const SOFT = 0.16;

/** A small picture of how high the cloth stands, softened: what lies below it lies in the dark. */
interface Heights {
  /** Pixels to one of its cells. */
  by: number;
  left: number;
  top: number;
  columns: number;
  rows: number;
  /** The mean height round about. */
  near: Float32Array;
  /** How much of what is round about is yarn. */
  filled: Float32Array;
  /** The height from which light is kept off by what stands towards it. */
  cast: Float32Array;
}

function heightsOf(plate: Plate, box: Box, scale: number): Heights {
  const by = Math.max(2, Math.round(scale * 0.2));
  // As far about the part as anything can darken it, on the grid of the whole: a part is painted as the whole is.
  const reach = Math.ceil(scale * 2.4) + 8 * by;
  const onGrid = (n: number) => Math.max(0, Math.floor((n - reach) / by) * by);
  const left = onGrid(box.left);
  const top = onGrid(box.top);
  const columns = Math.ceil((Math.min(plate.width, box.right + reach) - left) / by) + 1;
  const rows = Math.ceil((Math.min(plate.height, box.bottom + reach) - top) / by) + 1;
  const low = new Float32Array(columns * rows);
  const full = new Float32Array(columns * rows);
  const behind = -BEHIND * scale;
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      let sum = 0;
      let yarn = 0;
      let n = 0;
      // Every other pixel, as on a chessboard, so that a cell leans to neither side.
      for (let y = top + r * by; y < top + (r + 1) * by; y++)
        for (let x = left + c * by + (y & 1); x < left + (c + 1) * by; x += 2) {
          if (x >= plate.width || y >= plate.height) continue;
          const d = plate.depth[y * plate.width + x]!;
          sum += d === NOTHING ? behind : d;
          if (d !== NOTHING) yarn++;
          n++;
        }
      low[r * columns + c] = n ? sum / n : behind;
      full[r * columns + c] = n ? yarn / n : 0;
    }
  const near = blurred(low, columns, rows, 2);
  const wide = blurred(near, columns, rows, 2);
  const cast = wide.slice();
  const cells = scale / by;
  for (let k = 1; k <= 3; k++) {
    const sx = Math.round(0.3 * k * cells * -LIGHT[0]);
    const sy = Math.round(0.3 * k * cells * LIGHT[1]);
    const drop = 0.14 * k * scale;
    for (let r = sy; r < rows; r++)
      for (let c = sx; c < columns; c++) {
        const at = r * columns + c;
        const from = near[at - sy * columns - sx]! - drop;
        if (from > cast[at]!) cast[at] = from;
      }
  }
  return {
    by,
    left,
    top,
    columns,
    rows,
    near,
    filled: blurred(full, columns, rows, 1),
    cast: blurred(cast, columns, rows, 1),
  };
}

/** The mean over so many cells to each side, along rows and then columns; beyond the edge lies what lies at it. */
function blurred(from: Float32Array, columns: number, rows: number, by: number): Float32Array {
  const across = new Float32Array(from.length);
  for (let r = 0; r < rows; r++) slide(from, across, r * columns, 1, columns, by);
  const out = new Float32Array(from.length);
  for (let c = 0; c < columns; c++) slide(across, out, c, columns, rows, by);
  return out;
}

/** The sliding mean of one line of cells. */
function slide(
  from: Float32Array,
  to: Float32Array,
  first: number,
  step: number,
  length: number,
  by: number,
): void {
  const last = first + (length - 1) * step;
  const share = 1 / (2 * by + 1);
  for (let i = 0, at = first; i < length; i++, at += step) {
    let sum = from[at]!;
    for (let k = 1, off = step; k <= by; k++, off += step) {
      sum += from[at - off < first ? first : at - off]! + from[at + off > last ? last : at + off]!;
    }
    to[at] = sum * share;
  }
}

/**
 * Paints a part of the picture from what is seen there, and puts down the loop that is seen at each of its pixels.
 *
 * @param scale pixels to a stitch width
 */
export function shade(
  plate: Plate,
  pieces: Pieces,
  box: Box,
  scale: number,
  radius: number,
  yarn: Yarn,
): void {
  const { width, depth, loop, rgba } = plate;
  const { data } = pieces;
  const { plies, hidden } = detailAt(scale);
  const heights = hidden ? heightsOf(plate, box, scale) : null;
  const [lx, ly, lz] = LIGHT;
  const second = yarn.second ?? yarn;
  let [red, green, blue] = yarn.colour;
  let [fr, fg, fb] = yarn.fleck;
  const r2 = radius * radius;
  const nearReach = 1 / (radius * 2.2);
  const castReach = 1 / (radius * 3);
  const last = pieces.count - 1;
  const table = fibres();
  /** Between yarns that nearly touch there is the dark inside of the cloth; a hole that is wide is open. */
  const behind = ({ by, left, top, columns, filled }: Heights, px: number, py: number, at: number): void => {
    const cx = Math.max(0, (px + 0.5 - left) / by - 0.5);
    const cy = Math.max(0, (py + 0.5 - top) / by - 0.5);
    const [c, r] = [cx | 0, cy | 0];
    const [u, v] = [cx - c, cy - r];
    const o = r * columns + c;
    const upper = filled[o]! * (1 - u) + filled[o + 1]! * u;
    const about = upper * (1 - v) + (filled[o + columns]! * (1 - u) + filled[o + columns + 1]! * u) * v;
    const dark = Math.max(0, Math.min(1, (about - OPEN.wide) / (OPEN.narrow - OPEN.wide)));
    if (dark <= 0) return;
    rgba[at] = red * INSIDE;
    rgba[at + 1] = green * INSIDE;
    rgba[at + 2] = blue * INSIDE;
    rgba[at + 3] = 255 * dark;
  };
  for (let py = box.top; py < box.bottom; py++) {
    for (let px = box.left, at = py * width + px; px < box.right; px++, at++) {
      const s = loop[at]!;
      if (s < 0) {
        rgba[4 * at + 3] = 0;
        if (heights) behind(heights, px, py, 4 * at);
        continue;
      }
      if (pieces.second) {
        const own = pieces.second[pieces.loop[s]!] ? second : yarn;
        [red, green, blue] = own.colour;
        [fr, fg, fb] = own.fleck;
      }
      const d = s * PIECE;
      const dx = data[d + 3]!;
      const dy = data[d + 4]!;
      const dz = data[d + 5]!;
      const rx = px + 0.5 - data[d]!;
      const ry = py + 0.5 - data[d + 1]!;
      const l2 = dx * dx + dy * dy;
      let t = l2 > 1e-9 ? (rx * dx + ry * dy) / l2 : 0;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      // The way of the yarn turns here from that of the piece before to that of the one after.
      const length = data[d + 6]!;
      let tx = dx;
      let ty = dy;
      let tz = dz;
      const off = t - 0.5;
      const p = off < 0 ? (data[d + 7] ? d - PIECE : d) : s < last && data[d + PIECE + 7] ? d + PIECE : d;
      if (p !== d) {
        const other = (off < 0 ? -off : off) * (length / data[p + 6]!);
        const own = off < 0 ? 1 + off : 1 - off;
        tx = own * dx + other * data[p + 3]!;
        ty = own * dy + other * data[p + 4]!;
        tz = own * dz + other * data[p + 5]!;
      }
      const tl = 1 / Math.sqrt(tx * tx + ty * ty + tz * tz + 1e-9);
      tx *= tl;
      ty *= tl;
      tz *= tl;
      // From the middle of the yarn to its surface, straight off its way.
      let nx = rx - t * dx;
      let ny = ry - t * dy;
      const inside = r2 - nx * nx - ny * ny;
      let nz = inside > 0 ? Math.sqrt(inside) : 0;
      const slip = nx * tx + ny * ty + nz * tz;
      nx -= slip * tx;
      ny -= slip * ty;
      nz -= slip * tz;
      let nl = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz + 1e-9);
      nx *= nl;
      ny *= nl;
      nz *= nl;
      let tone = 1;
      let fleck = 0;
      if (plies || yarn.flecked) {
        const along = data[d + 8]! + (t + slip / length) * data[d + 9]!;
        const flat = 1 / Math.sqrt(tx * tx + ty * ty + 1e-6);
        let across = (nx * ty - ny * tx) * flat;
        across = across < -1 ? -1 : across > 1 ? 1 : across;
        const phase = along + ROUND[((across + 1) * (TABLE / 2)) | 0]!;
        if (plies) {
          const place = ((phase - Math.floor(phase)) * TABLE) & (TABLE - 1);
          tone -= GROOVES[place]!;
          const tilt = TILTS[place]!;
          nx += tilt * tx;
          ny += tilt * ty;
          nz += tilt * tz;
          nl = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz);
          nx *= nl;
          ny *= nl;
          nz *= nl;
        }
        if (yarn.flecked) {
          const from = 0.5 + 0.3 * (1 - 2 * yarn.flecked);
          const x = ((along * FIBRES + pieces.loop[s]! * 5.7) * PARTS) & (SIDE - 1);
          const y = ((phase * 3 + pieces.loop[s]! * 3.1) * PARTS) & (SIDE - 1);
          const found = (table[y * SIDE + x]! - from) / SOFT;
          fleck = found > 0 ? 0.72 * (found < 1 ? found : 1) : 0;
        }
      }
      const facing = nx * lx - ny * ly + nz * lz;
      let light = AMBIENT + (facing > 0 ? LIT * facing : 0);
      if (heights) {
        const { by, left, top, columns, near, cast } = heights;
        const cx = (px + 0.5 - left) / by - 0.5;
        const cy = (py + 0.5 - top) / by - 0.5;
        const c = cx > 0 ? cx | 0 : 0;
        const r = cy > 0 ? cy | 0 : 0;
        const u = cx > 0 ? cx - c : 0;
        const v = cy > 0 ? cy - r : 0;
        const o = r * columns + c;
        const w00 = (1 - u) * (1 - v);
        const w01 = u * (1 - v);
        const w10 = (1 - u) * v;
        const w11 = u * v;
        const z = depth[at]!;
        const about =
          near[o]! * w00 + near[o + 1]! * w01 + near[o + columns]! * w10 + near[o + columns + 1]! * w11;
        const above =
          cast[o]! * w00 + cast[o + 1]! * w01 + cast[o + columns]! * w10 + cast[o + columns + 1]! * w11;
        const deep = (about - z) * nearReach + 0.12;
        if (deep > 0) light *= 1 - 0.5 * (deep < 1 ? deep : 1);
        const shadow = (above - z) * castReach;
        if (shadow > 0) light *= 1 - 0.5 * (shadow < 1 ? shadow : 1);
      }
      light = SEEN[(light * STEPS) | 0]! * tone;
      const warm = light < 1 ? light : 1;
      const q = 4 * at;
      rgba[q] = (red + fleck * (fr - red)) * light * (0.9 + 0.1 * warm);
      rgba[q + 1] = (green + fleck * (fg - green)) * light * (0.87 + 0.13 * warm);
      rgba[q + 2] = (blue + fleck * (fb - blue)) * light * (0.83 + 0.17 * warm);
      rgba[q + 3] = 255;
      loop[at] = pieces.read[s]!;
    }
  }
}
