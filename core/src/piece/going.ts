import type { Border, Piece, Size } from '../chart/piece-document.js';
import { rowCrossings } from '../chart/rows.js';
import { bookOf, LIMITS, type Chart } from '../chart/schema.js';
import { takesTurns, wayOf } from '../construction/index.js';
import { countOver, lengthFor } from '../measures/gauge.js';
import { modulo } from '../values.js';
import { borderRows } from './border.js';
import { isChartPart, type ChartPart } from './standing.js';
import { lengthWays, meetAgain, panelRows, type LengthWay, type MeetAgain, type PanelUp } from './up.js';

/** How the charts of a piece go up in a size: on which row each begins, with which of its own, and how many rows there are. */

export interface Going {
  /** Of each part; null where it works no chart. */
  ups: readonly (PanelUp | null)[];
  meet: MeetAgain;
  /** The place of the part whose rows are made to come out; -1 where none works a chart. */
  lead: number;
  /** Rows of the parts, without borders. */
  rows: number;
  /** How the wished length is met; null where none is wished for, or rows have no gauge. */
  way: LengthWay | null;
}

/** How a part's chart goes up in the piece. */
export function upOfPart(part: ChartPart, chart: Chart): PanelUp {
  return {
    rows: panelRows(chart),
    start: part.starts,
    begins: Math.min(part.begins, chart.rows.length),
    side: takesTurns(wayOf(chart)) ? chart.firstRow : null,
    crossed: chart.rows.flatMap((row, r) => (rowCrossings(row, bookOf(chart)).length ? [r + 1] : [])),
  };
}

/** The same for a panel that is begun later so that it ends as it begins; `by` is the row of its repeat it then begins with. */
export function centredUp(up: PanelUp, by: number): PanelUp {
  const { setup, repeat } = up.rows;
  return { ...up, begins: setup + modulo(up.begins - 1 + by - 1 - setup, repeat) + 1 };
}

/** Rows of the parts that are put together where no length is wished for: to where all have been begun anew. */
const MOST_BODY = LIMITS.rows - 420;

/** Whether a row leads from a border to other stitches, as far as that is known before these are laid out. */
const mayChange = ({ changes, fewer }: Border): boolean => changes !== 'none' && fewer !== 0;

/** Rows of the borders, with those that lead to and from them where counts may change. */
export const bordersHigh = ({ bottom, top }: Piece['border']): number =>
  (
    [
      [bottom, 'bottom'],
      [top, 'top'],
    ] as const
  ).reduce(
    (sum, [border, end]) => sum + (border ? borderRows(border, end) + (mayChange(border) ? 1 : 0) : 0),
    0,
  );

/**
 * How the charts of a piece go up. `charts` are those of its parts; `high` is how many rows its borders have.
 */
export function goUp(
  piece: Piece,
  size: Size,
  charts: readonly (Chart | null)[],
  high = bordersHigh(piece.border),
): Going {
  const ups = piece.parts.map((part, i) =>
    charts[i] && isChartPart(part) ? upOfPart(part, charts[i]) : null,
  );
  const chosen = piece.parts.findIndex((p, i) => p.id === piece.length.lead && ups[i]);
  const lead = chosen < 0 ? ups.findIndex((u) => u !== null) : chosen;
  const panels = ups.filter((u) => u !== null);
  const meet = meetAgain(panels);
  const rowGauge = (piece.gauge.whole ?? piece.gauge.plain)?.rows;
  if (size.length === null || !rowGauge) {
    const once = Math.max(
      1,
      ...panels.map(({ rows, start }) => start - 1 + rows.setup + rows.repeat + rows.closing),
    );
    const pass = meet.every === null ? once : Math.max(once, meet.from - 1 + meet.every);
    return { ups, meet, lead, rows: Math.min(MOST_BODY, pass), way: null };
  }
  const up = ups[lead];
  if (!up) {
    const wish = Math.round(countOver(rowGauge, size.length)) - high;
    return { ups, meet, lead, rows: Math.min(MOST_BODY, Math.max(1, wish)), way: null };
  }
  const ways = waysUp(piece, size.length, up, high)!;
  const way = ways.find(({ kind }) => kind === piece.length.way) ?? ways[0]!;
  const centred = way.kind === 'centred' ? ups.with(lead, centredUp(up, way.begins)) : ups;
  return {
    ups: centred,
    meet: centred === ups ? meet : meetAgain(centred.filter((u) => u !== null)),
    lead,
    rows: Math.min(MOST_BODY, way.rows + up.start - 1),
    way,
  };
}

/** The ways of the part that leads to a length, borders and the rows below it left out; null where rows have no gauge. */
export function waysUp(
  piece: Piece,
  length: number,
  up: PanelUp,
  high = bordersHigh(piece.border),
): LengthWay[] | null {
  const gauge = (piece.gauge.whole ?? piece.gauge.plain)?.rows;
  if (!gauge) return null;
  const wanted = length - lengthFor(gauge, high + up.start - 1);
  // Counted from the row that it begins with.
  const { setup, repeat } = up.rows;
  const crossed = up.crossed
    .filter((row) => row > setup && row <= setup + repeat)
    .map((row) => modulo(row - up.begins, repeat) + 1);
  return lengthWays(up.rows, gauge, Math.max(1000, wanted), wayOf(piece), crossed);
}
