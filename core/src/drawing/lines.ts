import { bandsOf, type Band } from '../chart/bands.js';
import type { Chart } from '../chart/schema.js';
import { memory } from '../remember.js';

/**
 * The lines of the squared paper a chart is drawn on, from 0 at the bottom: one for each row, and one below it for a band
 * that stands before it.
 */
export interface Lines {
  count: number;
  /** The line of a row; of rows beyond the chart too. */
  of: (row: number) => number;
  /** The row that stands on a line, or whose band does. */
  at: (line: number) => { row: number; isBand: boolean };
  bands: readonly { row: number; line: number; band: Band }[];
  /** The lines of rows `from` to `to` and of the bands before them. */
  span: (from: number, to: number) => { first: number; last: number };
}

const remember = memory<Lines>();

export const linesOf = ({ bands, rows }: Pick<Chart, 'bands' | 'rows'>): Lines =>
  remember(bands, [rows.length], () => {
    const placed = bandsOf({ bands }).map(({ row, band }, i) => ({ row, line: row + i, band }));
    /** How many bands are below what is at a place of a list sorted by it. */
    const below = (place: number, by: 'row' | 'line') => {
      let [low, high] = [0, placed.length];
      while (low < high) {
        const mid = (low + high) >> 1;
        if (placed[mid]![by] <= place) low = mid + 1;
        else high = mid;
      }
      return low;
    };
    const of = (row: number) => row + below(row, 'row');
    return {
      count: rows.length + placed.length,
      of,
      at: (line) => {
        const n = below(line, 'line');
        const isBand = n > 0 && placed[n - 1]!.line === line;
        return { row: line - n + (isBand ? 1 : 0), isBand };
      },
      bands: placed,
      span: (from, to) => ({ first: of(from) - (bands[from] ? 1 : 0), last: of(to) }),
    };
  });
