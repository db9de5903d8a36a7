import { modulo } from '../values.js';
import type { Smooth } from './solver.js';

/**
 * What smooths a direction: the pulls of a neighbourhood are added up on coarser and coarser grids of the chart and
 * given back to all its loops, so that a whole cloth can draw in within a few steps (the multilevel preconditioner of
 * Bramble, Pasciak and Xu, 1990). Each coordinate is weighed by how stiffly it is held.
 */

interface Grid {
  rows: number;
  columns: number;
  sums: Float64Array;
}

/** How far one coordinate gives way to a pull, on its own and over blocks of 2, 4, 8 … loops. */
const YIELDS = [
  { alone: 0.1, block: () => 0.18 },
  { alone: 0.18, block: () => 0.22 },
  { alone: 0.45, block: (size: number) => 0.6 / (0.4 + 0.02 * size * size) },
] as const;
const AROUND_YIELDS = 0.5;

/** Loops by the cells they stand in. */
export interface Placed {
  size: number;
  row: Int32Array;
  column: Int32Array;
  /** Columns of the chart: a round goes on from its last to its first. */
  width: number;
  isRound: boolean;
}

export function smoother({ size, row, column, width, isRound }: Placed): Smooth {
  // Only the part of the chart in which there are loops.
  let [low, high, first, last] = [Infinity, -Infinity, Infinity, -Infinity];
  const across = Int32Array.from(column, (c) => (isRound ? modulo(c, width) : c));
  for (let i = 0; i < size; i++) {
    low = Math.min(low, row[i]!);
    high = Math.max(high, row[i]!);
    first = Math.min(first, across[i]!);
    last = Math.max(last, across[i]!);
  }
  const rows = high - low + 1;
  const columns = last - first + 1;
  const grids: Grid[] = [];
  for (let [r, c] = [rows, columns]; ; [r, c] = [Math.ceil(r / 2), Math.ceil(c / 2)]) {
    grids.push({ rows: r, columns: c, sums: new Float64Array(r * c) });
    if (r <= 2 && c <= 2) break;
  }
  const cell = Int32Array.from({ length: size }, (_, i) => (row[i]! - low) * columns + across[i]! - first);
  const finest = grids[0]!.sums;
  return (direction) => {
    for (let axis = 0; axis < 3; axis++) {
      const { alone, block } = YIELDS[axis]!;
      finest.fill(0);
      for (let i = 0; i < size; i++) finest[cell[i]!]! += direction[3 * i + axis]!;
      for (let l = 1; l < grids.length; l++) gather(grids[l - 1]!, grids[l]!);
      for (let l = grids.length - 1; l > 0; l--) {
        const yields = block(2 ** l);
        const { sums } = grids[l]!;
        // What coarser grids gave has come down into the finer one's place; see `spread`.
        if (l === grids.length - 1) for (let i = 0; i < sums.length; i++) sums[i]! *= yields;
        spread(grids[l]!, grids[l - 1]!, l === 1 ? alone : block(2 ** (l - 1)));
      }
      for (let i = 0; i < size; i++) direction[3 * i + axis] = finest[cell[i]!]!;
    }
    if (isRound) direction[3 * size]! *= AROUND_YIELDS;
  };
}

/** Sums of a grid on one half as fine, each cell shared out between the two it lies between. */
function gather(fine: Grid, coarse: Grid): void {
  coarse.sums.fill(0);
  for (let r = 0; r < fine.rows; r++) {
    const r0 = r >> 1;
    const r1 = r & 1 ? Math.min(coarse.rows - 1, r0 + 1) : r0;
    for (let c = 0; c < fine.columns; c++) {
      const v = fine.sums[r * fine.columns + c]! * 0.25;
      const c0 = c >> 1;
      const c1 = c & 1 ? Math.min(coarse.columns - 1, c0 + 1) : c0;
      coarse.sums[r0 * coarse.columns + c0]! += v;
      coarse.sums[r0 * coarse.columns + c1]! += v;
      coarse.sums[r1 * coarse.columns + c0]! += v;
      coarse.sums[r1 * coarse.columns + c1]! += v;
    }
  }
}

/** What a coarse grid gives to the finer, whose own sums are weighed by `yields`. */
function spread(coarse: Grid, fine: Grid, yields: number): void {
  for (let r = 0; r < fine.rows; r++) {
    const r0 = r >> 1;
    const r1 = r & 1 ? Math.min(coarse.rows - 1, r0 + 1) : r0;
    for (let c = 0; c < fine.columns; c++) {
      const c0 = c >> 1;
      const c1 = c & 1 ? Math.min(coarse.columns - 1, c0 + 1) : c0;
      const at = r * fine.columns + c;
      fine.sums[at] =
        yields * fine.sums[at]! +
        0.25 *
          (coarse.sums[r0 * coarse.columns + c0]! +
            coarse.sums[r0 * coarse.columns + c1]! +
            coarse.sums[r1 * coarse.columns + c0]! +
            coarse.sums[r1 * coarse.columns + c1]!);
    }
  }
}
