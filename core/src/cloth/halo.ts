import type { Yarn } from '../drawing/yarns.js';
import { NOTHING, PIECE, type Box, type Pieces, type Plate } from './raster.js';
import { scatter } from './scatter.js';

/** The halo of wool: fibres that stand off its yarn, seen where a stitch is large enough. */

/** Pixels a stitch from which fibres are begun to be seen, and from which they are seen as clearly as they ever are. */
const SEEN = { from: 40, wholly: 64 } as const;
/** Fibres to a turn of the plies. */
const MANY = 26;
/** How long they are, in stitch widths, and how far they stand off the way of the yarn. */
const LONG = { least: 0.1, most: 0.42 } as const;
const STANDS_OFF = 0.75;
/** How much of what lies behind a fibre it hides at its root. */
const HIDES = 0.8;
/** A fibre is a little brighter than the yarn: light comes through it. */
const BRIGHTER = 1.08;
/** It may lie so far behind what is seen, in parts of the yarn's radius: fibres lie about it. */
const BEHIND = 0.25;

/** How strongly fibres are seen at so many pixels a stitch: from 0 to 1. */
export const haloAt = (scale: number): number =>
  Math.max(0, Math.min(1, (scale - SEEN.from) / (SEEN.wholly - SEEN.from)));

/**
 * Draws fibres over a part of a picture that has been shaded. Which there are follows from the yarn alone, so that a part painted anew has
 * the same.
 *
 * @param strength from 0 to 1
 */
export function drawHalo(
  plate: Plate,
  pieces: Pieces,
  box: Box,
  scale: number,
  radius: number,
  yarn: Yarn,
  strength: number,
): void {
  const { data, loop, count, second } = pieces;
  const reach = LONG.most * scale + radius;
  for (let s = 0, d = 0; s < count; s++, d += PIECE) {
    const y = data[d + 1]!;
    if (y < box.top - reach || y > box.bottom + reach) continue;
    const from = data[d + 8]!;
    const turns = data[d + 9]!;
    if (turns <= 0) continue;
    const own = second?.[loop[s]!] ? (yarn.second ?? yarn) : yarn;
    for (let k = Math.ceil(from * MANY); k < (from + turns) * MANY; k++)
      drawFibre(
        plate,
        data,
        d,
        (k / MANY - from) / turns,
        loop[s]! * 613 + k,
        box,
        scale,
        radius,
        own,
        strength,
      );
  }
}

function drawFibre(
  { width, height, depth, rgba }: Plate,
  data: Float32Array,
  d: number,
  t: number,
  seed: number,
  box: Box,
  scale: number,
  radius: number,
  { colour: [red, green, blue] }: Pick<Yarn, 'colour'>,
  strength: number,
): void {
  const chance = (n: number) => scatter(seed * 8 + n);
  const dx = data[d + 3]!;
  const dy = data[d + 4]!;
  const flat = Math.sqrt(dx * dx + dy * dy);
  if (flat < 1e-3) return;
  const [ax, ay] = [dx / flat, dy / flat];
  // Where it comes out of the yarn, across it, and to which side it leans.
  const across = Math.sin((chance(1) - 0.5) * Math.PI);
  let x = data[d]! + t * dx - ay * across * radius;
  let y = data[d + 1]! + t * dy + ax * across * radius;
  const z = data[d + 2]! + t * data[d + 5]! + Math.sqrt(Math.max(0, 1 - across * across)) * radius;
  const along = chance(2) < 0.5 ? -1 : 1;
  const off = STANDS_OFF * (across + (chance(3) - 0.5));
  let gx = along * ax - off * ay;
  let gy = along * ay + off * ax;
  const norm = 1 / Math.sqrt(gx * gx + gy * gy);
  gx *= norm;
  gy *= norm;
  const bend = ((chance(4) - 0.5) * 3.2) / scale;
  const steps = Math.round((LONG.least + (LONG.most - LONG.least) * chance(5) ** 2) * scale);
  const shown = HIDES * strength * (0.4 + 0.6 * chance(6));
  for (let n = 0; n < steps; n++) {
    const [px, py] = [Math.round(x), Math.round(y)];
    if (px >= 0 && px < width && py >= box.top && py < box.bottom && py < height) {
      const at = py * width + px;
      const there = depth[at]!;
      if (there === NOTHING || there < z + BEHIND * radius) {
        const a = shown * (1 - n / steps);
        const q = 4 * at;
        const was = rgba[q + 3]! / 255;
        const all = a + was * (1 - a);
        // Over cloth it takes on the light that falls there; over nothing it is lit by itself.
        const mix = (under: number, own: number) =>
          (a * Math.min(255, own * BRIGHTER) + was * (1 - a) * under) / all;
        rgba[q] = mix(rgba[q]!, red);
        rgba[q + 1] = mix(rgba[q + 1]!, green);
        rgba[q + 2] = mix(rgba[q + 2]!, blue);
        rgba[q + 3] = 255 * all;
      }
    }
    x += gx;
    y += gy;
    const [hx, hy] = [gx - bend * gy, gy + bend * gx];
    gx = hx;
    gy = hy;
  }
}
