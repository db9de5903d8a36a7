import { continuesOf, makesOf, spanOf, takesOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';

interface Placed {
  stitch: Stitch;
  columns: number[];
}

/**
 * Lays rows of stitches, given from the right without gaps, onto a grid: every loop stands in the column of
 * the loop that carries it; a stitch that makes more opens columns beside it, one that makes fewer leaves gaps
 * above. Columns left by an earlier decrease are used again before new ones are opened.
 */
export function layoutRows(
  rows: readonly (readonly Stitch[])[],
  book: StitchBook,
): { width: number; rows: Stitch[][] } {
  // Where every row fills as many columns, none opens or closes: a decrease frees the column that an increase takes.
  const spans = rows.map((row) => row.reduce((sum, s) => sum + spanOf(s, book), 0));
  const width = spans.reduce((most, n) => Math.max(most, n), 0);
  if (spans.every((n) => n === width)) return { width, rows: rows.map((row) => [...row]) };
  const laid = laidByLoops(rows, book);
  return laid.width > width ? (slid(rows, spans, width, book) ?? laid) : laid;
}

/** More places than these are not tried for the gaps of a chart. */
const MOST_PLACES = 4_000_000;

/**
 * Lays rows on no more columns than the widest of them fills. Gaps stand between loops and carry none, so that they may
 * slide: in each row they go where its stitches stand nearest to the loops they take. Null where there is too much to try.
 */
function slid(
  rows: readonly (readonly Stitch[])[],
  spans: readonly number[],
  width: number,
  book: StitchBook,
): { width: number; rows: Stitch[][] } | null {
  if (rows.reduce((sum, row, r) => sum + (row.length + 1) * (width - spans[r]! + 1), 0) > MOST_PLACES)
    return null;
  const first = rows[0]?.reduce((sum, s) => sum + takesOf(s, book), 0) ?? 0;
  let live = Array.from({ length: first }, (_, i) => i);
  return {
    width,
    rows: rows.map((row, r) => {
      const gaps = width - spans[r]!;
      // Where each stitch would stand: over the first loop it takes, or beside the last of those before it.
      let taken = 0;
      const wished = row.map((s) => {
        const at = live[taken] ?? (live.at(-1) ?? -1) + 1;
        taken += takesOf(s, book);
        return at;
      });
      // The least that stitches from `i` on are moved, with `g` gaps before them; and whether a gap comes next.
      const cost = Array.from({ length: row.length + 1 }, () => new Float64Array(gaps + 1));
      const starts = [0];
      for (const s of row) starts.push(starts.at(-1)! + spanOf(s, book));
      for (let i = row.length - 1; i >= 0; i--)
        for (let g = gaps; g >= 0; g--) {
          const here = Math.abs(starts[i]! + g - wished[i]!) + cost[i + 1]![g]!;
          cost[i]![g] = g < gaps ? Math.min(here, cost[i]![g + 1]!) : here;
        }
      const cells: Stitch[] = [];
      const above: number[] = [];
      let g = 0;
      row.forEach((s, i) => {
        while (
          g < gaps &&
          cost[i]![g + 1]! <= cost[i]![g]! &&
          cost[i]![g + 1]! < Math.abs(starts[i]! + g - wished[i]!) + cost[i + 1]![g]!
        ) {
          cells.push(NO_STITCH);
          g++;
        }
        for (let m = 0; m < makesOf(s, book); m++) above.push(starts[i]! + g + m);
        cells.push(s);
      });
      for (; g < gaps; g++) cells.push(NO_STITCH);
      live = above;
      return cells;
    }),
  };
}

/** Every loop in the column of the loop that carries it; columns open where loops are made. */
function laidByLoops(
  rows: readonly (readonly Stitch[])[],
  book: StitchBook,
): { width: number; rows: Stitch[][] } {
  let next = 0;
  const order: number[] = [];
  const insertAfter = (anchor: number, taken: ReadonlySet<number>): number => {
    const at = anchor < 0 ? 0 : order.indexOf(anchor) + 1;
    const dormant = order[at];
    if (dormant !== undefined && !taken.has(dormant)) return dormant;
    order.splice(at, 0, next);
    return next++;
  };
  let live: number[] = [];
  const first = rows[0]?.reduce((sum, s) => sum + takesOf(s, book), 0) ?? 0;
  for (let i = 0; i < first; i++) {
    order.push(next);
    live.push(next++);
  }
  const placed = rows.map((row) => {
    const used = new Set(live);
    const above: number[] = [];
    let taken = 0;
    let last = -1;
    const out = row.map((stitch): Placed => {
      const takes = takesOf(stitch, book);
      const span = spanOf(stitch, book);
      const below = live.slice(taken, taken + takes);
      taken += takes;
      let columns: number[];
      if (below.length > span) {
        const kept = continuesOf(stitch, book)[0] ?? 0;
        columns = span === 1 ? [below[Math.max(0, kept)]!] : below.slice(0, span);
      } else columns = below.slice();
      if (columns.length > 1) {
        // A stitch stands in adjoining columns: take up the gaps that earlier decreases left between its loops.
        const from = order.indexOf(columns[0]!);
        columns = order.slice(from, from + columns.length);
      }
      let anchor = columns.at(-1) ?? last;
      while (columns.length < span) {
        anchor = insertAfter(anchor, used);
        used.add(anchor);
        columns.push(anchor);
      }
      for (const c of columns) used.add(c);
      last = columns.at(-1) ?? below.at(-1) ?? last;
      above.push(...columns.slice(0, makesOf(stitch, book)));
      return { stitch, columns };
    });
    live = above;
    return out;
  });
  const laid = placed.map((row): Stitch[] => {
    const starts = new Map(row.map((p) => [p.columns[0]!, p]));
    const cells: Stitch[] = [];
    for (let i = 0; i < order.length; i++) {
      const p = starts.get(order[i]!);
      cells.push(p ? p.stitch : NO_STITCH);
      if (p) i += p.columns.length - 1;
    }
    return cells;
  });
  return foldGaps(laid, order.length, book);
}

/**
 * Takes two adjoining columns for one where no row works a stitch in both: an increase next to a decrease stands in
 * the column that the decrease frees, and plain lace keeps its width.
 */
function foldGaps(
  rows: readonly Stitch[][],
  width: number,
  book: StitchBook,
): { width: number; rows: Stitch[][] } {
  // For each row, which columns are worked; and for each column, the place of its cell in the row.
  const grids = rows.map((row) => row.flatMap((s) => Array<boolean>(spanOf(s, book)).fill(s !== NO_STITCH)));
  const isGone = Array.from(grids, () => Array<boolean>(width).fill(false));
  // The columns folded into the one at hand so far, row by row: whether it is worked.
  let open = grids.map((grid) => grid[0]!);
  let openAt = grids.map(() => 0);
  let folded = width;
  for (let c = 1; c < width; c++) {
    const isEmpty = !grids.some((grid) => grid[c]);
    if (!isEmpty && open.includes(true) && grids.every((grid, r) => !(open[r] && grid[c]))) {
      grids.forEach((grid, r) => {
        const worked = grid[c]!;
        // One gap of the two goes.
        isGone[r]![worked ? openAt[r]! : c] = true;
        if (worked) [open[r], openAt[r]] = [true, c];
      });
      folded--;
    } else {
      open = grids.map((grid) => grid[c]!);
      openAt = grids.map(() => c);
    }
  }
  if (folded === width) return { width, rows: rows.map((row) => [...row]) };
  return {
    width: folded,
    rows: rows.map((row, r) => {
      let column = 0;
      return row.filter((s) => {
        const at = column;
        column += spanOf(s, book);
        return !(s === NO_STITCH && isGone[r]![at]);
      });
    }),
  };
}
