import {
  acrossOf,
  jogOf,
  linesAcross,
  linesUp,
  setAcross,
  setJog,
  setUp,
  startOf,
  upOf,
  type Chart,
  type Edit,
  type Unfolded,
} from '@cordelina/core';
import { standsAt, origin, rowTop, type Layout } from './geometry.js';

/** A line of a repeat that a pointer holds: the near or the far one, or (with Alt) both lines of one row. */
export interface GrabbedLine {
  of: 'columns' | 'rows' | 'jog';
  which: 'near' | 'far';
  /** The row it was taken in. */
  row: number;
  /** Where it stands in the drawing: before that column, below that row. */
  at: number;
}

/** So many pixels beside a line still take it. */
const REACH = 5;

/** The line of a repeat under a point of the pane; null where none is near. */
export function grabbedLine(
  view: Unfolded,
  layout: Layout,
  x: number,
  y: number,
  alt: boolean,
): GrabbedLine | null {
  const { chart } = view;
  const corner = origin(layout);
  const { columns, rows, cell } = layout;
  const { row: drawn } = standsAt(layout, y);
  if (drawn < -1 || drawn > rows || x < corner.x - 8 || x > corner.x + columns * cell + 8) return null;
  const row = Math.max(0, Math.min(rows - 1, drawn));
  for (const [i, column] of linesAcross(chart, row).entries()) {
    const at = column + startOf(chart, row);
    if (Math.abs(corner.x + (columns - at) * cell - x) <= REACH)
      return { of: alt ? 'jog' : 'columns', which: i ? 'far' : 'near', row: view.rowOf(row), at };
  }
  for (const [i, level] of linesUp(chart).entries())
    if (Math.abs(rowTop(layout, level - 1) - y) <= REACH)
      return { of: 'rows', which: i ? 'far' : 'near', row: view.rowOf(row), at: level };
  return null;
}

/** Where a held line would be let go. */
export function lineUnder(layout: Layout, line: GrabbedLine, x: number, y: number): number {
  const corner = origin(layout);
  const { columns, rows, cell } = layout;
  return line.of === 'rows'
    ? Math.max(0, Math.min(rows, standsAt(layout, y - cell / 2).row))
    : Math.max(0, Math.min(columns, columns - Math.round((x - corner.x) / cell)));
}

/** The chart with a line let go so many columns or rows from where it stood. @throws EditError where it cannot stand there */
export function movedLine(chart: Chart, { of, which, row }: GrabbedLine, by: number): Edit {
  if (of === 'jog') return setJog(chart, row, jogOf(chart, row) + by);
  if (of === 'columns') {
    const across = acrossOf(chart);
    return setAcross(
      chart,
      which === 'near'
        ? { ...across, before: Math.max(0, across.before + by) }
        : { ...across, after: Math.max(0, across.after - by) },
    );
  }
  const up = upOf(chart);
  return setUp(
    chart,
    which === 'near'
      ? { ...up, setup: Math.max(0, up.setup + by) }
      : { ...up, closing: Math.max(0, up.closing - by) },
  );
}
