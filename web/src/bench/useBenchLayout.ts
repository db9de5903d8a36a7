import {
  beyondOf,
  linesOf,
  passesOf,
  startOf,
  timesOf,
  unfold,
  type Chart,
  type Unfolded,
} from '@cordelina/core';
import { useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { useAppSelector } from '../desk/state/index.js';
import { usePaneSize } from '../ui/usePaneSize.js';
import { FINDINGS } from './Findings.js';
import {
  cellForWords,
  chartPaneWidth,
  drawnColumns,
  fittingCell,
  heightOfChart,
  MOST_CHART,
  ROOMY_SHARE,
  wordLines,
  ZOOM,
  type Layout,
} from './geometry.js';
import { placeOfOtherSide, type OtherSidePlace } from './OtherSide.js';
import { useLetterWidth } from './RowWords.js';

/** With the whole width, the rows are drawn so often, so that their join can be judged. */
const SHOWN_PASSES = 2;
const LEAST_WORDS = 160;

export interface BenchLayout {
  /** The pane of chart and words, and what scrolls in it. */
  mainRef: RefObject<HTMLDivElement | null>;
  scroller: RefObject<HTMLDivElement | null>;
  onScroll: (scroll: { left: number; top: number }) => void;
  /** There is room to draw in. */
  isLaid: boolean;
  /** The chart as it is shown: its repeat once, or the whole width. */
  view: Unfolded;
  layout: Layout;
  /** The chart's width, and that of chart and words together, in pixels. */
  width: number;
  sheet: number;
  /** Where the chart's other side stands; null where it is not shown. */
  other: OtherSidePlace | null;
  onZoom: (by: number) => void;
  /** Gives the keys to the chart. */
  giveKeys: () => void;
}

/** Where the chart and its words lie on the bench, and how large its cells are. */
export function useBenchLayout(
  chart: Chart,
  design: string,
  narrow: boolean,
  edgeOpen: boolean,
  /** The chart as the design has it, whose other side may be shown too. */
  own: Chart,
  /** The words of the rows that have the longest; null where there are too many to look through. */
  texts: readonly string[] | null,
): BenchLayout {
  const { ref: mainRef, size: pane } = usePaneSize();
  const other = useMemo(
    () => (narrow ? null : placeOfOtherSide(own, pane.height - heightOfChart(linesOf(own).count))),
    [narrow, own, pane.height],
  );
  const main = useMemo(
    () => ({
      width: pane.width - (other?.width ?? 0),
      height: Math.max(0, pane.height - (other?.height ?? 0)),
    }),
    [pane, other],
  );
  const scroller = useRef<HTMLDivElement>(null);
  const [scroll, setScroll] = useState({ left: 0, top: 0 });
  const [zoom, setZoom] = useState<number | null>(null);
  const { whole, share } = useAppSelector((s) => s.habits);
  const view = useMemo(
    () =>
      whole ? unfold(chart, timesOf(chart), Math.min(SHOWN_PASSES, passesOf(chart))) : unfold(chart, 1, 1),
    [chart, whole],
  );
  const { jogs, bands, construction, width: columns } = view.chart;
  const rows = view.chart.rows.length;
  const lines = linesOf({ bands, rows: view.chart.rows });
  const beyond = useMemo(() => beyondOf({ jogs, construction }), [jogs, construction]);
  // The chart is laid out with the edge as it was when the design was opened; one that opens or folds later takes its
  // room from the words, or gives it to them, and never moves the chart.
  const [wasOpen] = useState(edgeOpen);
  const edge = FINDINGS.open - FINDINGS.folded;
  const sheet = main.width + (narrow ? 0 : edgeOpen ? edge : 0) - (!narrow && wasOpen ? edge : 0);
  const acrossDrawn = drawnColumns({ columns, beyond });
  const most = narrow ? main.width : (share ?? MOST_CHART) * sheet;
  const letter = useLetterWidth();
  const forWords =
    zoom === null && share === null && !narrow && texts !== null
      ? cellForWords({ columns: acrossDrawn, rows: lines.count, texts }, letter, {
          width: sheet,
          height: main.height,
        })
      : null;
  const cell =
    zoom ?? forWords ?? fittingCell(acrossDrawn, lines.count, { width: most, height: main.height }, whole);
  const wanted = chartPaneWidth(acrossDrawn, cell, sheet, share, forWords ? ROOMY_SHARE : MOST_CHART);
  // An edge that opened takes its room from what is empty in the chart's pane before it takes it from the words.
  const taken = Math.max(0, sheet - main.width);
  const needed = chartPaneWidth(acrossDrawn, cell, sheet, null, ROOMY_SHARE);
  const width = narrow
    ? main.width
    : Math.min(Math.max(Math.min(wanted, needed), wanted - taken), main.width - LEAST_WORDS);
  const inLines = texts === null ? 1 : wordLines(texts, cell, letter, main.width - width);
  const layout = useMemo<Layout>(
    () => ({
      columns,
      rows,
      lines,
      beyond,
      startOf: (r) => startOf({ jogs, construction }, r),
      cell,
      wordLines: inLines,
      pane: { width, height: main.height },
      scroll,
    }),
    [columns, rows, lines, beyond, jogs, construction, cell, inLines, width, main.height, scroll],
  );
  const onZoom = useCallback(
    (by: number) => setZoom((z) => Math.max(ZOOM.least, Math.min(ZOOM.most, (z ?? cell) + by))),
    [cell],
  );
  // A chart is read from its foot.
  const isLaid = main.height > 0;
  useEffect(() => {
    if (isLaid && scroller.current) scroller.current.scrollTop = scroller.current.scrollHeight;
  }, [isLaid, design]);
  const giveKeys = useCallback(() => scroller.current?.focus({ preventScroll: true }), []);
  return {
    giveKeys,
    mainRef,
    scroller,
    onScroll: setScroll,
    isLaid,
    view,
    layout,
    width,
    sheet,
    other,
    onZoom,
  };
}
