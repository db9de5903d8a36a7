import { memory } from '../remember.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { spanOf, type Stitch } from '../stitches/book.js';
import {
  expandRow,
  jogOf,
  passesOf,
  repeatColumns,
  repeatRows,
  repeatsAcross,
  timesOf,
  wholeFrameOf,
} from './frame.js';
import { drawnOut, jogsFrom } from './repeat-lines.js';
import { bookOf, LIMITS, type Chart, type Row } from './schema.js';

/**
 * A chart with its repeats drawn out, and the way from each cell of that drawing to the cell of the chart it stands
 * for, and back. It is for looking and pointing: what is set in a copy is set in the chart.
 */
export interface Unfolded {
  /** The drawing as a chart of its own; its lines frame the repeat drawn first. */
  chart: Chart;
  /** How often the repeat stands side by side, and its rows one above the other. */
  times: number;
  passes: number;
  /** The row of the chart a drawn row stands for, and the drawn row that a row of the chart is edited in. */
  rowOf: (drawn: number) => number;
  drawnRow: (row: number) => number;
  /** The column of the chart that a drawn column of a row (of the chart) stands for. */
  columnOf: (row: number, drawn: number) => number;
  /** The drawn columns of a cell, from the right. */
  drawnColumns: (row: number, column: number) => number[];
  /** Whether a drawn row is only a further pass of the repeat. */
  isCopy: (drawn: number) => boolean;
}

/** Drawn out no further than this: a drawing may be as large as the largest chart. */
function fewEnough(chart: Chart, times: number, passes: number): { times: number; passes: number } {
  const { start, end } = repeatColumns(chart);
  const rows = repeatRows(chart);
  const period = end - start;
  const high = rows ? rows.last - rows.first + 1 : 0;
  const most = repeatsAcross(chart) ? Math.floor((LIMITS.columns - (chart.width - period)) / period) : 1;
  const tall = high ? Math.floor((LIMITS.rows - (chart.rows.length - high)) / high) : 1;
  return { times: Math.max(1, Math.min(times, most)), passes: Math.max(1, Math.min(passes, tall)) };
}

const rememberRow = memory<Row>();

/** A row with its repeat drawn `times` times; one that cannot be cut stands as it is drawn, with gaps for its copies. */
function drawnRowOf(chart: Chart, r: number, times: number): Row {
  if (times === 1) return chart.rows[r]!;
  const { start, end } = repeatColumns(chart, r);
  return rememberRow(chart.rows[r]!, [start, end, times, chart.own], () => {
    const whole = expandRow(chart, r, times);
    if (whole) return whole;
    const book = bookOf(chart);
    let column = 0;
    // What lies over the line is drawn where it lies, and gaps stand where its copies would.
    const spread = chart.rows[r]!.map((stitch): [Stitch, number] => {
      const at = column;
      column += spanOf(stitch, book);
      return [stitch, at];
    });
    const more = (times - 1) * (end - start);
    const near = spread.filter(([, at]) => at < end).map(([stitch]) => stitch);
    const far = spread.filter(([, at]) => at >= end).map(([stitch]) => stitch);
    return [...near, ...Array<Stitch>(more).fill(NO_STITCH), ...far];
  });
}

const rememberChart = memory<Unfolded>();
/** The frame of a drawing stays the same while only stitches change. */
const rememberFrame = memory<Pick<Chart, 'across' | 'up' | 'jogs' | 'bands'>>();

/** The chart with `times` repeats side by side and `passes` of its rows one above the other; as many as have room. */
export function unfold(chart: Chart, times = timesOf(chart), passes = passesOf(chart)): Unfolded {
  return rememberChart(chart, [times, passes], () => unfolded(chart, fewEnough(chart, times, passes)));
}

function unfolded(chart: Chart, { times, passes }: { times: number; passes: number }): Unfolded {
  const { start, end } = repeatColumns(chart);
  const across = repeatsAcross(chart);
  const period = across ? end - start : 0;
  const wider = (times - 1) * period;
  const repeat = repeatRows(chart);
  const high = repeat ? repeat.last - repeat.first + 1 : 0;
  const taller = (passes - 1) * high;
  const rowOf = (drawn: number): number => {
    if (!repeat || drawn <= repeat.last) return drawn;
    return drawn - repeat.first < high * passes
      ? repeat.first + ((drawn - repeat.first) % high)
      : drawn - taller;
  };
  const order = Array.from({ length: chart.rows.length + taller }, (_, drawn) => rowOf(drawn));
  return {
    chart: {
      ...chart,
      width: chart.width + wider,
      rows: order.map((r) => drawnRowOf(chart, r, times)),
      ...rememberFrame(chart.jogs, [...wholeFrameOf(chart), chart.bands, times, passes], () => ({
        ...drawnOut(chart, wider, taller),
        jogs: jogsFrom(order.map((r) => jogOf(chart, r))),
        bands: Object.fromEntries(
          order.flatMap((r, drawn) => (chart.bands[r] ? [[drawn, chart.bands[r]]] : [])),
        ),
      })),
    },
    times,
    passes,
    rowOf,
    drawnRow: (row) => (repeat && row > repeat.last ? row + taller : row),
    columnOf: (row, drawn) => {
      const own = repeatColumns(chart, row);
      if (!across || drawn < own.start) return drawn;
      return drawn - own.start < period * times ? own.start + ((drawn - own.start) % period) : drawn - wider;
    },
    drawnColumns: (row, column) => {
      const own = repeatColumns(chart, row);
      if (!across || column < own.start) return [column];
      if (column >= own.end) return [column + wider];
      return Array.from({ length: times }, (_, i) => column + i * period);
    },
    isCopy: (drawn) => repeat !== null && drawn > repeat.last && drawn - repeat.first < high * passes,
  };
}
