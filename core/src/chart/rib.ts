import { hasSetting } from '../construction/index.js';
import { isCrossing, type Stitch } from '../stitches/book.js';
import { inRib } from '../stitches/crossing.js';
import { become, EditError, type Edit } from './edit.js';
import type { Block } from './edits.js';
import { rowFacts } from './rows.js';
import { bookOf, type Chart } from './schema.js';

/** Sets whether both faces of a chart count. @throws EditError where it is worked in a way that has two faces anyhow */
export function setBothFaces(chart: Chart, bothFaces: boolean): Edit {
  if (bothFaces && !hasSetting(chart.construction, 'bothFaces'))
    throw new EditError('Worked this way the cloth has a second face of its own.');
  return become(chart, { ...chart, bothFaces });
}

const PLAIN = new Set<Stitch>(['k', 'p', 'ktbl', 'ptbl']);

/**
 * Ribs a block of a chart: its plain stitches become k1, p1 from its right edge, and crossings move whole ribs. What reaches over its
 * edges, and other stitches, stay as they are.
 *
 * @throws EditError where there is half a rib, or a crossing begins within one
 */
export function ribBlock(chart: Chart, { rows, columns }: Block): Edit {
  const wide = columns.to - columns.from + 1;
  if (wide % 2)
    throw new EditError(`Ribs are two columns wide, and ${wide} are selected: select one more or one fewer.`);
  const book = bookOf(chart);
  const ribbed = chart.rows.map((row, r) => {
    if (r < rows.from || r > rows.to) return row;
    const { starts } = rowFacts(row, book);
    return row.map((stitch, i): Stitch => {
      const [from, to] = [starts[i]!, starts[i]! + book.facts(stitch).span - 1];
      if (from < columns.from || to > columns.to) return stitch;
      const isInside = (from - columns.from) % 2 === 1;
      if (!isCrossing(stitch)) return PLAIN.has(stitch) ? (isInside ? 'p' : 'k') : stitch;
      if (isInside)
        throw new EditError(
          `Row ${r + 1}: the crossing in columns ${from + 1}–${to + 1} would begin within a rib. Select from a column further right or left.`,
        );
      return inRib(stitch);
    });
  });
  return become(chart, {
    ...chart,
    rows: ribbed.map((row, r) => (row.every((s, i) => s === chart.rows[r]![i]) ? chart.rows[r]! : row)),
  });
}
