import { bookOf } from '../chart/schema.js';
import { needleOf, type Needle } from '../needle/loop.js';
import { workStitches } from '../needle/needle.js';
import type { Stitch } from '../stitches/book.js';
import { takesOf } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { rowFacts } from '../chart/rows.js';
import { needleAbove, type Assembled } from './assemble.js';
import { bodyRowOf, partColumns } from './told-rows.js';
import { panelRowAt } from './up.js';

/** Whether stitches only repeat the faces of the loops below them. */
const present = (cells: readonly Stitch[], below: Needle): boolean =>
  cells.length === below.length && cells.every((s, i) => s === (below[i]!.face === 'knit' ? 'k' : 'p'));

/**
 * The rows of charts (from 0, by the chart's id) that meet in a piece, in any of its sizes, stitches which they do not
 * present: above a border that shows other faces, or where the closing rows follow. They must be written out.
 */
export function metOtherwise(all: readonly Assembled[]): Map<string, Set<number>> {
  const found = new Map<string, Set<number>>();
  for (const made of all) {
    const { chart, body } = made;
    const book = bookOf(chart);
    const columns = partColumns(made).filter(({ part }) => part.going);
    let needle = needleAbove(made);
    for (let n = 0; n < body; n++) {
      const row = chart.rows[bodyRowOf(made, n)]!;
      const { starts } = rowFacts(row, book);
      let at = 0;
      const loops = row.map((s) => (at += takesOf(s, book)) - takesOf(s, book));
      for (const { part, from, to } of columns) {
        const r = panelRowAt(part.going!, n + 1, body);
        if (r === null) continue;
        const within = row.flatMap((_, i) => (starts[i]! >= from && starts[i]! < to ? [i] : []));
        if (!within.length) continue;
        const cells = within.map((i) => row[i]!).filter((s) => s !== NO_STITCH);
        const begins = loops[within[0]!]!;
        const takes = cells.reduce((sum, s) => sum + takesOf(s, book), 0);
        if (present(cells, needleOf(needle.slice(begins, begins + takes)))) continue;
        const id = part.chart!.id;
        found.set(id, (found.get(id) ?? new Set()).add(r - 1));
      }
      needle = workStitches(row, needle, book).loops;
    }
  }
  return found;
}
