import type { KnittedCloth } from './settle.js';
import { ORDINARY, type Proportions } from './springs.js';

/** How wide and high cloth lies against plain cloth of as many stitches and rows: 1 is as wide, 0.7 draws in by 30 %. */
export interface Extent {
  wide: number;
  high: number;
}

/** What lies nearer to an edge than this share of the cloth is not measured: edges flare. */
const EDGE = 0.15;

/**
 * Measures cloth in its middle, as a swatch is measured; null where there is too little of it.
 */
export function extentOf({ fabric, lie }: KnittedCloth, { height }: Proportions = ORDINARY): Extent | null {
  const { needles, isTube, size } = fabric;
  const low = Math.ceil((needles.length - 1) * EDGE) + 1;
  const high = needles.length - low;
  let width = 0;
  let gaps = 0;
  let [below, above, counted] = [0, 0, 0];
  for (let r = low; r <= high; r++) {
    const needle = needles[r]!;
    const n = needle.length;
    if (isTube) {
      width += n ? lie[3 * size]! : 0;
      gaps += n;
      continue;
    }
    const edge = Math.floor(n * EDGE);
    const last = n - 1 - edge;
    if (last <= edge) continue;
    width += lie[3 * needle[edge]!]! - lie[3 * needle[last]!]!;
    gaps += last - edge;
  }
  if (high > low) {
    const mean = (needle: Int32Array) => needle.reduce((sum, i) => sum + lie[3 * i + 1]!, 0) / needle.length;
    [below, above, counted] = [mean(needles[low]!), mean(needles[high]!), high - low];
  }
  return gaps && counted ? { wide: width / gaps, high: (above - below) / counted / height } : null;
}
