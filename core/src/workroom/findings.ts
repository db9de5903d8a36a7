import { findingsOf, mendsOf, type Finding, type Mends } from '../checks/index.js';
import type { Chart, Design } from '../chart/schema.js';
import { checkNames } from '../names/check-names.js';
import { asItStands } from '../piece/standing.js';

/** A design, as far as it says what one of its charts is told. */
export type Checked = Pick<Design, 'charts' | 'piece' | 'settings'>;

/**
 * What one of a design's charts is told, without mends: of itself as it stands in the piece, between whose parts its edges are not
 * the piece's; then of its names, beside those of the charts before it.
 */
export function findingsIn({ charts, piece, settings }: Checked, chart: Chart): Finding[] {
  const before = charts.slice(
    0,
    charts.findIndex((c) => c.id === chart.id),
  );
  return [...findingsOf(asItStands(chart, piece), settings), ...checkNames(chart, settings, before)];
}

/** The mends of each of these in their order, tried one after the other; what is told of names has none. */
export const mendsIn = ({ piece, settings }: Checked, chart: Chart): Generator<Mends> =>
  mendsOf(asItStands(chart, piece), settings);
