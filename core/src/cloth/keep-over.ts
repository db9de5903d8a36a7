import type { Fabric } from '../fabric/fabric.js';

/** Where yarn passes over other yarn in a crossing, their middles are kept so far apart at least. */
const CLEAR = 0.4;
const SWEEPS = 4;

/**
 * Keeps what a crossing lays over above what it lays under, wherever the two are seen to meet: the loops come to rest so
 * by themselves in all but odd crossings, whose faces pull the other way.
 */
export function keepOver(
  { size, overs, wales }: Fabric,
  { points, loop, lines }: { points: Float32Array; loop: Int32Array; lines: readonly number[] },
): void {
  if (!overs.length) return;
  // Each loop's own points stand beside each other in the first lines; chains and bobbles come later.
  const first = new Int32Array(size).fill(-1);
  const count = new Int32Array(size);
  for (let i = 0; i < lines.at(-1)!; i++) {
    const l = loop[i]!;
    if (first[l]! < 0) first[l] = i;
    if (i === first[l]! + count[l]!) count[l]!++;
  }
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let moved = false;
    for (const { over, under } of overs) {
      const [o, u] = [wales[over]!.parent, wales[under]!.parent];
      for (let i = first[o]! + 1; i + 2 < first[o]! + count[o]!; i++)
        // Of what lies under its feet too are kept behind.
        for (let j = first[u]!; j + 1 < first[u]! + count[u]!; j++)
          if (partAt(points, 3 * i, 3 * j)) moved = true;
    }
    if (!moved) return;
  }
}

/** Parts two straight pieces of yarn in depth where they meet too closely; whether they did. */
function partAt(points: Float32Array, a: number, p: number): boolean {
  const [ax, ay, px, py] = [points[a]!, points[a + 1]!, points[p]!, points[p + 1]!];
  const abx = points[a + 3]! - ax;
  const aby = points[a + 4]! - ay;
  const pqx = points[p + 3]! - px;
  const pqy = points[p + 4]! - py;
  const d = abx * pqy - aby * pqx;
  if (d < 1e-9 && d > -1e-9) return false;
  const s = ((px - ax) * pqy - (py - ay) * pqx) / d;
  const t = ((px - ax) * aby - (py - ay) * abx) / d;
  if (s < 0 || s > 1 || t < 0 || t > 1) return false;
  const gap = (1 - s) * points[a + 2]! + s * points[a + 5]! - (1 - t) * points[p + 2]! - t * points[p + 5]!;
  const lacks = CLEAR - gap;
  if (lacks <= 1e-3) return false;
  const up = lacks / 2 / ((1 - s) * (1 - s) + s * s);
  const down = lacks / 2 / ((1 - t) * (1 - t) + t * t);
  points[a + 2]! += up * (1 - s);
  points[a + 5]! += up * s;
  points[p + 2]! -= down * (1 - t);
  points[p + 5]! -= down * t;
  return true;
}
