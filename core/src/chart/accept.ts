import { become, type Edit } from './edit.js';
import type { MeantPlace } from './meant.js';
import type { Chart } from './schema.js';

/** Accepts what a check found at a place, under an id of its own. @throws EditError where the chart keeps no more */
export const acceptPlace = (chart: Chart, id: string, place: MeantPlace): Edit =>
  become(chart, { ...chart, meant: { ...chart.meant, [id]: place } });

/** Takes back what was accepted at places where a check finds something. */
export function takeBackPlaces(chart: Chart, check: string, row: number, column: number | undefined): Edit {
  const meant = Object.fromEntries(
    Object.entries(chart.meant).filter(
      ([, p]) => p.check !== check || p.row !== row || (p.column !== undefined && p.column !== column),
    ),
  );
  return become(chart, { ...chart, meant });
}

/** Says whether the edges of a chart are the piece's. */
export const setPart = (chart: Chart, part: Chart['part']): Edit => become(chart, { ...chart, part });
