import {
  bookOf,
  crossingSize,
  isCrossing,
  kindOf,
  nameOf,
  type Side,
  type Stitch,
  wayOf,
  indexAt,
  rowFacts,
  mannerOf,
  sideOf,
  sideText,
  spanOf,
  type Chart,
  type Naming,
  takesTurns,
} from '@cordelina/core';
import type { Cell } from './state/bench.js';

/** What a stitch is called on the bench. */
export function stitchName(stitch: Stitch, chart: Chart, naming: Naming, side?: Side): string {
  if (wayOf(chart).loops === 2 && (stitch === 'k' || stitch === 'p'))
    return stitch === 'k' ? 'a pair that shows A' : 'a pair that shows B';
  if (!isCrossing(stitch)) return kindOf(stitch, bookOf(chart)).name;
  return nameOf(stitch, naming, side) ?? `${crossingSize(stitch)} stitches crossed ${stitch.lean}`;
}

/** A name for the cell at the cursor: row, side, column and what stands there. */
export function describeCell(
  chart: Chart,
  { row, column }: Cell,
  naming: Naming,
  /** The chart as the design has it, where it is looked at from its other side. */
  own: Chart = chart,
): string {
  const book = bookOf(chart);
  const stitches = chart.rows[row];
  if (!stitches) return '';
  const i = indexAt(stitches, column, book);
  const side = sideOf(chart, row);
  const worked = !takesTurns(wayOf(chart))
    ? wayOf(chart).row
    : sideText(sideOf(own, row), mannerOf({ form: 'full', terms: 'US' }, own));
  const place = `Row ${row + 1}, ${worked}, column ${column + 1}`;
  if (i < 0) return `${place}: empty, the row is short`;
  const stitch = stitches[i]!;
  const from = rowFacts(stitches, book).starts[i]! + 1;
  const name = stitchName(stitch, chart, naming, side);
  const span = spanOf(stitch, book);
  return span > 1 ? `${place}: ${name}, columns ${from} to ${from + span - 1}` : `${place}: ${name}`;
}
