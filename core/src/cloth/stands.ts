import type { Fabric } from '../fabric/fabric.js';
import { LOOP } from '../fabric/row-knit.js';
import type { Positions } from '../fabric/springs.js';

/** How far the stitches of a crossing lie before and behind the middle at a loop's foot, for each layer. */
const LAYER_DEPTH = 0.22;
/** A loop that is led across lies flat: its face brings its legs forward or back by only so much of the usual. */
export const LED_FLAT = 0.25;
/** A foot of a loop lies so far from it towards what it is drawn through. */
const FOOT = { plain: 0.5, together: 0.35 } as const;
/** That of one led across lies so much of a row below it, and so much of its way aside. */
const LED_FOOT = { below: 0.35, aside: 0.15 } as const;
/** Of loops worked together the one on top lies in front, wide; the others behind, narrow. */
const TOP = { front: 0.06, width: 0.85 } as const;
const UNDER = { front: -0.34, width: 0.5 } as const;
/** Loops out of one loop keep so much of the distance between them at their feet. */
const SPREAD = 0.25;

/** Where the loops stand: feet and heads (three numbers each), how wide and how far in front each head is. */
export interface Stands {
  lie: Positions;
  foot: Float64Array;
  head: Float64Array;
  headWidth: Float64Array;
  headFront: Float64Array;
  /** Faces of what is drawn through them. */
  above: Int8Array;
  /** How much their faces bring their legs forward or back. */
  legs: Float64Array;
}

export function standsOf(
  fabric: Fabric,
  lie: Positions,
  height: number,
  width: number,
  only: Uint8Array | null,
): Stands {
  const { size, wales, stem, crown, kind, face } = fabric;
  const foot = new Float64Array(3 * size);
  const head = new Float64Array(3 * size);
  const headWidth = new Float64Array(size).fill(1);
  const headFront = new Float64Array(size);
  const above = new Int8Array(size);
  const legs = new Float64Array(size).fill(1);

  // The mean of what each loop is drawn through, and of what is drawn through it.
  const below = new Float64Array(3 * size);
  const through = new Uint8Array(size);
  const over = new Float64Array(3 * size);
  const out = new Uint8Array(size);
  /** Those that are drawn, and what they are drawn through or is drawn through them. */
  const wanted = only && withNeighbours(fabric, only);
  for (const { parent, child, shift } of wales) {
    if (wanted && !wanted[parent] && !wanted[child]) continue;
    through[child]!++;
    out[parent]!++;
    for (let k = 0; k < 3; k++) {
      const turn = k ? 0 : shift * width;
      below[3 * child + k]! += lie[3 * parent + k]! + turn;
      over[3 * parent + k]! += lie[3 * child + k]! - turn;
    }
  }
  for (let i = 0; i < size; i++) {
    if (wanted && !wanted[i]) continue;
    const p = 3 * i;
    const wale = wales[stem[i]!];
    const n = through[i]!;
    if (!n) {
      foot[p] = lie[p]!;
      foot[p + 1] = lie[p + 1]! - (kind[i] === LOOP.castOn ? 0.5 : 0.3) * height;
      foot[p + 2] = lie[p + 2]!;
      continue;
    }
    // In a crossing the loops below are laid on the needle in their new order and grow long; what is drawn through them stands there.
    const isLed = n === 1 && wale !== undefined && wale.moved !== 0;
    const dx = (isLed ? LED_FOOT.aside : 1) * (below[p]! / n - lie[p]!);
    const dy = below[p + 1]! / n - lie[p + 1]!;
    const dz = below[p + 2]! / n - lie[p + 2]!;
    const far = Math.sqrt(dx * dx + dy * dy + dz * dz) || 1;
    const isTogether = n > 1 && kind[i] !== LOOP.bar;
    const share = isTogether
      ? FOOT.together
      : isLed
        ? Math.min(FOOT.plain, (LED_FOOT.below * height) / far)
        : FOOT.plain;
    foot[p] = lie[p]! + share * dx;
    foot[p + 1] = lie[p + 1]! + share * dy;
    foot[p + 2] = lie[p + 2]! + share * dz + LAYER_DEPTH * (wale?.layer ?? 0);
    const siblings = wale ? out[wale.parent]! : 1;
    if (wale && siblings > 1)
      for (let k = 0; k < 3; k++) {
        const turn = k ? 0 : wale.shift * width;
        const mean = over[3 * wale.parent + k]! / siblings + turn;
        const parent = lie[3 * wale.parent + k]! + turn;
        foot[p + k] = (parent + mean) / 2 + SPREAD * (lie[p + k]! - mean);
      }
  }
  for (const { parent, child, shift, rank, of } of wales) {
    if (only && !only[parent]) continue;
    const share = 1 / out[parent]!;
    for (let k = 0; k < 3; k++)
      head[3 * parent + k]! += share * (foot[3 * child + k]! - (k ? 0 : shift * width));
    if (of > 1 && kind[child] !== LOOP.bar && kind[child] !== LOOP.lifted) {
      headWidth[parent] = rank ? UNDER.width : TOP.width;
      headFront[parent] = (rank ? UNDER.front : TOP.front) * face[child]!;
    }
  }
  for (let i = 0; i < size; i++) {
    if (only && !only[i]) continue;
    const wale = wales[crown[i]!];
    above[i] = wale ? face[wale.child]! : face[i]!;
    if (wale?.isCrossed) legs[i] = LED_FLAT;
    if (wale) continue;
    head[3 * i] = lie[3 * i]!;
    head[3 * i + 1] = lie[3 * i + 1]! + 0.5 * height;
    head[3 * i + 2] = lie[3 * i + 2]!;
  }
  return { lie, foot, head, headWidth, headFront, above, legs };
}

/** Some loops with those that these are drawn through, and that are drawn through them. */
function withNeighbours({ wales }: Fabric, loops: Uint8Array): Uint8Array {
  const more = loops.slice();
  for (const { parent, child } of wales) {
    if (loops[parent]) more[child] = 1;
    if (loops[child]) more[parent] = 1;
  }
  return more;
}
