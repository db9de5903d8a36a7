import { modulo } from '../values.js';
import type { Smooth } from './solver.js';

/**
 * What smooths a direction: the pulls of a neighbourhood are added up on coarser and coarser grids of the chart and
 * given back to all its loops, so that a whole cloth can draw in within a few steps (the multilevel preconditioner of
 * Bramble, Pasciak and Xu, 1990). Each coordinate is weighed by how stiffly it is held.
 */

/** How far one coordinate gives way to a pull, on its own and over blocks of 2, 4, 8 … loops. */
const YIELDS = [
  { alone: 0.1, block: () => 0.18 },
  { alone: 0.18, block: () => 0.22 },
  { alone: 0.45, block: (size: number) => 0.6 / (0.4 + 0.02 * size * size) },
] as const;
const AROUND_YIELDS = 0.5;

interface Grid {
  rows: number;
  columns: number;
  sums: Float64Array;
  /** Rows of this grid in the columns of the next finer one. */
  wide: Float64Array;
}

/** Loops by the cells they stand in. */
export interface Placed {
  size: number;
  row: Int32Array;
  column: Int32Array;
  /** Columns of the chart: a round goes on from its last to its first. */
  width: number;
  isTube: boolean;
}

export function smoother({ size, row, column, width, isTube }: Placed): Smooth {
  // Only the part of the chart in which there are loops.
  let [low, high, first, last] = [Infinity, -Infinity, Infinity, -Infinity];
  const across = Int32Array.from(column, (c) => (isTube ? modulo(c, width) : c));
  for (let i = 0; i < size; i++) {
    low = Math.min(low, row[i]!);
    high = Math.max(high, row[i]!);
    first = Math.min(first, across[i]!);
    last = Math.max(last, across[i]!);
  }
  const [rows, columns] = [high - low + 1, last - first + 1];
  const grids: Grid[] = [];
  for (let [r, c, wide] = [rows, columns, 0]; ; [r, c, wide] = [half(r), half(c), c]) {
    grids.push({ rows: r, columns: c, sums: new Float64Array(r * c), wide: new Float64Array(r * wide) });
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
      const coarsest = grids.at(-1)!.sums;
      const whole = block(2 ** (grids.length - 1));
      for (let i = 0; i < coarsest.length; i++) coarsest[i]! *= whole;
      for (let l = grids.length - 1; l > 0; l--)
        spread(grids[l]!, grids[l - 1]!, l === 1 ? alone : block(2 ** (l - 1)));
      for (let i = 0; i < size; i++) direction[3 * i + axis] = finest[cell[i]!]!;
    }
    if (isTube) direction[3 * size]! *= AROUND_YIELDS;
  };
}

/** So many cells of a coarser grid lie on a line: every other one, and what stands beyond the last. */
const half = (n: number): number => Math.ceil(n / 2);

/** The sums of a grid on the next coarser one: a cell between two of its cells is shared out to both. */
function gather(fine: Grid, coarse: Grid): void {
  const { wide, sums } = coarse;
  const { columns } = fine;
  wide.fill(0);
  for (let r = 0; r < fine.rows; r++) {
    const from = r * columns;
    const one = (r >> 1) * columns;
    const two = r & 1 ? Math.min(coarse.rows - 1, (r >> 1) + 1) * columns : one;
    for (let c = 0; c < columns; c++) {
      const v = 0.5 * fine.sums[from + c]!;
      wide[one + c]! += v;
      wide[two + c]! += v;
    }
  }
  sums.fill(0);
  for (let r = 0; r < coarse.rows; r++) {
    const from = r * columns;
    const to = r * coarse.columns;
    const last = to + coarse.columns - 1;
    for (let c = 0; c < columns; c++) {
      const v = wide[from + c]!;
      const one = to + (c >> 1);
      if (c & 1) {
        sums[one]! += 0.5 * v;
        sums[one < last ? one + 1 : last]! += 0.5 * v;
      } else sums[one]! += v;
    }
  }
}

/** What a coarse grid gives to the finer one, whose own sums are weighed by `yields`. */
function spread(coarse: Grid, fine: Grid, yields: number): void {
  const { wide, sums } = coarse;
  const { columns } = fine;
  for (let r = 0; r < coarse.rows; r++) {
    const from = r * coarse.columns;
    const last = from + coarse.columns - 1;
    const to = r * columns;
    for (let c = 0; c < columns; c++) {
      const one = from + (c >> 1);
      wide[to + c] = c & 1 ? 0.5 * (sums[one]! + sums[one < last ? one + 1 : last]!) : sums[one]!;
    }
  }
  for (let r = 0; r < fine.rows; r++) {
    const to = r * columns;
    const one = (r >> 1) * columns;
    const two = r & 1 ? Math.min(coarse.rows - 1, (r >> 1) + 1) * columns : one;
    for (let c = 0; c < columns; c++)
      fine.sums[to + c] = yields * fine.sums[to + c]! + 0.5 * (wide[one + c]! + wide[two + c]!);
  }
}
