import { meantKey, type Meant } from '../chart/meant.js';
import { indexAt } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { isCrossing } from '../stitches/book.js';
import { crossingId, type Crossing } from '../stitches/crossing.js';
import type { Finding } from './finding.js';

/** The crossing a finding speaks of; null where it speaks of none. */
export function crossingOf(
  { row, columns }: Pick<Finding, 'row' | 'columns'>,
  chart: Chart,
): Crossing | null {
  const cells = row === undefined ? undefined : chart.rows[row - 1];
  if (!cells || !columns) return null;
  const stitch = cells[indexAt(cells, columns[0] - 1, bookOf(chart))];
  return stitch !== undefined && isCrossing(stitch) ? stitch : null;
}

/** A finding with the reason it is accepted for, where it is. Errors cannot be accepted: no one can knit them. */
export function isMeant(finding: Finding, chart: Chart, meant: Meant): Finding {
  if (finding.level === 'error') return finding;
  const { id, row, columns } = finding;
  const place = Object.values(chart.meant).find(
    (p) => p.check === id && row === p.row + 1 && (p.column === undefined || p.column + 1 === columns?.[0]),
  );
  const crossing = crossingOf(finding, chart);
  const reason =
    place?.reason ?? (crossing && meant[meantKey(id, crossingId(crossing))]) ?? meant[meantKey(id)];
  return reason === undefined ? finding : { ...finding, meant: reason };
}
