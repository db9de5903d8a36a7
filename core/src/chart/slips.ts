import { isCrossing } from '../stitches/book.js';
import { EditError, type Edit } from './edit.js';
import { withRow } from './edits.js';
import { indexAt, rowFacts } from './rows.js';
import { bookOf, type Chart, type Row } from './schema.js';

/** The crossing's front stitches slipped on one more row below it. */
export function slipBelow(chart: Chart, r: number, column: number): Edit {
  const book = bookOf(chart);
  const row = chart.rows[r];
  const i = row ? indexAt(row, column, book) : -1;
  const stitch = i < 0 ? undefined : row![i];
  if (!row || stitch === undefined || !isCrossing(stitch))
    throw new EditError('Put the cursor on a crossing; its front stitches are slipped on the rows below it.');
  const start = rowFacts(row, book).starts[i]!;
  const front = stitch.lean === 'left' ? 0 : stitch.back.length + stitch.centre.length;
  const columns = stitch.front.map((_, k) => start + front + k);
  const stitchAt = (at: number, c: number) => chart.rows[at]![indexAt(chart.rows[at]!, c, book)];
  let q = r - 1;
  while (q >= 0 && columns.every((c) => stitchAt(q, c) === 'slyb')) q--;
  if (q < 0) throw new EditError('There is no row left below to slip the rope on.');
  const plain = columns.every((c) => stitchAt(q, c) === 'k');
  if (!plain)
    throw new EditError(
      `Row ${q + 1} does not knit all stitches of the rope plainly, so they cannot be slipped there.`,
    );
  const cells = columns.reduce<Row>(
    (cs, c) => cs.map((s, k) => (k === indexAt(cs, c, book) ? 'slyb' : s)),
    chart.rows[q]!,
  );
  return withRow(chart, q, cells);
}
