import { hasBands } from '../chart/bands.js';
import { hasJogs, repeatsAcross, startOf } from '../chart/frame.js';
import { wayOf } from '../construction/index.js';
import { rowFacts } from '../chart/rows.js';
import type { Chart, Row } from '../chart/schema.js';
import { errorsIn } from '../checks/index.js';
import type { OwnStitch, StitchBook } from '../stitches/book.js';
import { sameValue } from '../values.js';
import type { Laid, LaidPart } from './lay-out.js';
import { PieceFault } from './fault.js';
import { isChartPart, type Stage } from './standing.js';

/** What keeps charts from standing in a piece. */

/** Whether a chart may stand in a piece as it is. @throws PieceFault */
export function mustStand(
  { part, chart, name }: LaidPart,
  charts: readonly Chart[],
  { construction }: Stage,
): void {
  if (!isChartPart(part)) return;
  if (!chart) throw new PieceFault('A part works a chart that the design has no more.', part.id);
  if (part.kind === 'filling' && !repeatsAcross(chart))
    throw new PieceFault(
      `${name} has no repeat across, so it cannot fill a width: set its repeat on the Bench, or take it as a panel.`,
      part.id,
    );
  if (chart.rows.some((_, r) => startOf(chart, r) !== 0))
    throw new PieceFault(`${name} moves the marker of the round: it can only be a piece by itself.`, part.id);
  if (hasBands(chart))
    throw new PieceFault(
      `${name} has bands, which go through a whole round: take them out of it, and set them above or below the borders of the piece.`,
      part.id,
    );
  const { worked } = wayOf({ construction });
  const original = charts.find((c) => c.id === part.chart)!;
  if (original.construction !== construction && hasJogs(original))
    throw new PieceFault(
      `${name} is charted ${wayOf(original).worked} and shifts rows sideways: in a piece worked ${worked} these cannot be told by its rows. Chart it ${worked} on the Bench.`,
      part.id,
    );
  const faults = errorsIn(chart);
  if (faults.length)
    throw new PieceFault(
      `${name} cannot be knitted as it stands (${faults.length === 1 ? 'an error' : `${faults.length} errors`}): mend it on the Bench first.`,
      part.id,
    );
}

/** Whether each row of a part works what the one below it leaves. @throws PieceFault */
export function mustGoOn({ parts }: Laid, cells: readonly (readonly Row[])[], book: StitchBook): void {
  parts.forEach(({ chart, part, name }, k) => {
    if (!chart) return;
    for (let r = 1; r < cells.length; r++) {
      const [left, wants] = [rowFacts(cells[r - 1]![k]!, book).makes, rowFacts(cells[r]![k]!, book).takes];
      if (left !== wants)
        throw new PieceFault(
          `${name} cannot go on at row ${r + 1} of the piece: it wants ${wants} stitches and ${left} are there. Its rows are worked over and over, so the last must leave as many as the first takes.`,
          part.id,
        );
    }
  });
}

/** The stitches of their own that the charts of a piece have. @throws PieceFault where two go by one id */
export function ownOf(laid: Laid): readonly OwnStitch[] {
  const own = new Map<string, OwnStitch>();
  for (const { chart, part } of laid.parts)
    for (const o of chart?.own ?? []) {
      if (own.has(o.id) && !sameValue(own.get(o.id), o))
        throw new PieceFault(
          `Two charts have a stitch of their own, "${o.name}", that is not the same: give one another name.`,
          part.id,
        );
      own.set(o.id, o);
    }
  return [...own.values()];
}
