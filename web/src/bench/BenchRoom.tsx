import {
  beyondOf,
  bookOf,
  checkChart,
  checkNames,
  constructionOf,
  indexAt,
  isCrossing,
  rowFacts,
  sideOf,
  simpleCrossing,
  spanOf,
  startOf,
  stitchUse,
  workStitch,
  type Chart,
  type Crossing,
  type Finding,
  type Naming,
  type Stitch,
} from '@cordelina/core';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { bench, type Cell } from '../store/bench.js';
import { chartOnBench, edit, editHead, make, onBench } from '../store/editing.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { INKS } from '../ui/inks.js';
import type { Manner } from '../ui/paint.js';
import { useChartActs } from './acts.js';
import { Builder } from './Builder.js';
import { ClosedRopesDialog } from './ClosedRopesDialog.js';
import { ChartPane } from './ChartPane.js';
import { useCommands, type PageActs } from './commands.js';
import { Findings } from './Findings.js';
import { chartPaneWidth, drawnColumns, fittingCell, MOST_CHART, ZOOM, type Layout } from './geometry.js';
import { InReach, stitchName } from './InReach.js';
import { NeedleStrip } from './NeedleStrip.js';
import { OwnStitchDialog } from './OwnStitchDialog.js';
import { RowWords } from './RowWords.js';
import { SetupDialog } from './SetupDialog.js';
import { Shortcuts } from './Shortcuts.js';
import { StitchCard } from './StitchCard.js';
import { StitchPalette } from './StitchPalette.js';
import { Toolbar } from './Toolbar.js';
import { useChartKeys } from './useChartKeys.js';
import { newId } from '../store/newId.js';

/** A name for the cell at the cursor: row, side, column and what stands there. */
function describeCell(chart: Chart, { row, column }: Cell, naming: Naming): string {
  const book = bookOf(chart);
  const stitches = chart.rows[row];
  if (!stitches) return '';
  const i = indexAt(stitches, column, book);
  const side = sideOf(chart, row);
  const worked = !constructionOf(chart).hasEdges ? 'round' : side === 'RS' ? 'right side' : 'wrong side';
  const place = `Row ${row + 1}, ${worked}, column ${column + 1}`;
  if (i < 0) return `${place}: empty, the row is short`;
  const stitch = stitches[i]!;
  const from = rowFacts(stitches, book).starts[i]! + 1;
  const name = stitchName(stitch, chart, naming, side);
  const span = spanOf(stitch, book);
  return span > 1 ? `${place}: ${name}, columns ${from} to ${from + span - 1}` : `${place}: ${name}`;
}

function usePaneSize() {
  const ref = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { ref, size };
}

export function BenchRoom() {
  const dispatch = useAppDispatch();
  const design = useAppSelector(onBench)!.document;
  const cursor = useAppSelector((s) => s.bench.cursor);
  const hand = useAppSelector((s) => s.bench.hand);
  const message = useAppSelector((s) => s.bench.message);
  const chart = useAppSelector(chartOnBench)!;
  const { settings } = design;
  const naming = useMemo<Naming>(
    () => ({ school: settings.school, names: settings.names, hand: settings.hand }),
    [settings.school, settings.names, settings.hand],
  );

  const { ref: mainRef, size: main } = usePaneSize();
  const scroller = useRef<HTMLDivElement>(null);
  const [scroll, setScroll] = useState({ left: 0, top: 0 });
  const [zoom, setZoom] = useState<number | null>(null);
  const { jogs, construction } = chart;
  const beyond = useMemo(() => beyondOf({ jogs, construction }), [jogs, construction]);
  const drawn = drawnColumns({ columns: chart.width, beyond });
  const cell = zoom ?? fittingCell(drawn, MOST_CHART * main.width);
  const width = chartPaneWidth(drawn, cell, main.width);
  const layout = useMemo<Layout>(
    () => ({
      columns: chart.width,
      rows: chart.rows.length,
      beyond,
      startOf: (r) => startOf({ jogs, construction }, r),
      cell,
      pane: { width, height: main.height },
      scroll,
    }),
    [chart.width, chart.rows.length, beyond, jogs, construction, cell, width, main.height, scroll],
  );
  const onZoom = useCallback(
    (by: number) => setZoom((z) => Math.max(ZOOM.least, Math.min(ZOOM.most, (z ?? cell) + by))),
    [cell],
  );
  const manner = useMemo<Manner>(
    () => ({ plain: settings.plain, cords: true, grid: true, colours: settings.colours, inks: INKS }),
    [settings.plain, settings.colours],
  );

  // A chart is read from its foot.
  const isLaid = main.height > 0;
  useEffect(() => {
    if (isLaid && scroller.current) scroller.current.scrollTop = scroller.current.scrollHeight;
  }, [isLaid, design.id]);

  // The builder shows the crossing in hand, or else the one last built.
  const [lastBuilt, setBuilt] = useState<Crossing>(() => simpleCrossing('left', 2, 2));
  const inHand = hand !== null && isCrossing(hand);
  const built = inHand ? hand : lastBuilt;
  const findings = useMemo(() => [...checkChart(chart), ...checkNames(chart, naming)], [chart, naming]);
  const [opened, setOpened] = useState<boolean | null>(null);
  const findingsOpen = opened ?? findings.some((f) => f.level !== 'note');
  const [setup, setSetup] = useState(false);
  const [help, setHelp] = useState(false);
  const [ropes, setRopes] = useState(false);
  const [palette, setPalette] = useState(false);
  const [making, setMaking] = useState(false);

  const inReach = useMemo(() => {
    const used = stitchUse(chart);
    const crossings = used.filter((u) => isCrossing(u.stitch));
    const others = used.filter((u) => !isCrossing(u.stitch) && !['k', 'p', 'none'].includes(u.stitch));
    const count = (id: string) => used.find((u) => u.stitch === id)?.count ?? 0;
    const plain = ['k', 'p', 'none'].map((stitch) => ({ stitch, count: count(stitch) }));
    return [...crossings, ...others, ...plain];
  }, [chart]);
  const reachable = useMemo(() => inReach.map((u) => u.stitch), [inReach]);

  const acts = useChartActs();
  const page = useMemo<PageActs>(
    () => ({
      point: () => dispatch(bench.tookUp(null)),
      setup: () => setSetup(true),
      ropes: () => setRopes(true),
      plain: () =>
        dispatch(
          editHead('plain cells', {
            settings: { ...settings, plain: settings.plain === 'empty' ? 'bars' : 'empty' },
          }),
        ),
      zoom: onZoom,
      seek: () => setPalette(true),
      help: () => setHelp(true),
    }),
    [dispatch, onZoom, settings],
  );
  const commands = useCommands(acts, page);
  const { typed, onKeyDown } = useChartKeys(acts, commands, reachable);

  const build = (c: Crossing) => {
    setBuilt(c);
    if (inHand) dispatch(bench.tookUp(c));
  };
  const takeUp = (stitch: Stitch | null) => {
    dispatch(bench.tookUp(stitch));
    if (stitch && isCrossing(stitch)) setBuilt(stitch);
    scroller.current?.focus({ preventScroll: true });
  };
  const stamp = useCallback(
    (at: Cell, stitch: Stitch, stroke: number) => {
      dispatch(bench.moved({ cell: at }));
      dispatch(edit('set a stitch', (c) => workStitch(c, at.row, at.column, stitch), stroke));
    },
    [dispatch],
  );
  const go = (finding: Finding) => {
    if (!finding.row) return;
    dispatch(bench.moved({ cell: { row: finding.row - 1, column: (finding.columns?.[0] ?? 1) - 1 } }));
    scroller.current?.focus({ preventScroll: true });
  };

  const marked = useMemo(
    () =>
      findings.flatMap((f) =>
        f.row && f.columns && f.level !== 'note'
          ? [{ row: f.row - 1, from: f.columns[0] - 1, to: f.columns[1] - 1, tone: f.level }]
          : [],
      ),
    [findings],
  );

  return (
    <div className="flex min-h-0 flex-1">
      <aside aria-label="Stitches" className="w-[208px] shrink-0 overflow-auto border-r border-rule">
        <Builder
          built={built}
          onBuild={build}
          onTake={() => takeUp(inHand ? null : built)}
          inHand={inHand}
          chart={chart}
          naming={naming}
          hand={settings.hand}
          onRefuse={(text) => dispatch(bench.said({ text, tone: 'refused' }))}
        />
        <div className="px-3 pt-3">
          <StitchPalette
            chart={chart}
            plain={settings.plain}
            open={palette}
            onOpenChange={setPalette}
            onTake={takeUp}
            onWork={(stitch) => {
              acts.fill(stitch);
              scroller.current?.focus({ preventScroll: true });
            }}
            onMake={() => setMaking(true)}
          />
        </div>
        <InReach
          items={inReach}
          hand={hand}
          chart={chart}
          naming={naming}
          plain={settings.plain}
          onTake={takeUp}
          more={(stitch, count) => (
            <StitchCard stitch={stitch} count={count} chart={chart} settings={settings} others={reachable} />
          )}
        />
      </aside>
      <div className="flex min-w-0 flex-1 flex-col">
        <Toolbar chart={chart} commands={commands} pointing={hand === null} plain={settings.plain} />
        <main ref={mainRef} className="relative flex min-h-0 flex-1">
          <div className="relative shrink-0" style={{ width }}>
            {isLaid && (
              <ChartPane
                chart={chart}
                layout={layout}
                manner={manner}
                marked={marked}
                describe={describeCell(chart, cursor, naming)}
                scroller={scroller}
                onScroll={setScroll}
                onKeyDown={onKeyDown}
                onStamp={stamp}
                onZoom={onZoom}
              />
            )}
          </div>
          <div className="min-w-0 flex-1 border-l border-rule">
            {isLaid && (
              <RowWords
                chart={chart}
                settings={settings}
                layout={layout}
                findings={findings}
                onWheel={(dy) => scroller.current?.scrollBy({ top: dy })}
              />
            )}
          </div>
          <Said typed={typed} message={message} />
        </main>
        <NeedleStrip chart={chart} settings={settings} />
      </div>
      <Findings
        findings={findings}
        open={findingsOpen}
        onOpenChange={setOpened}
        onGo={go}
        onMend={(f) => f.fix && dispatch(make({ ...f.fix, id: newId() }))}
      />
      <SetupDialog chart={chart} open={setup} onOpenChange={setSetup} />
      <ClosedRopesDialog chart={chart} cursor={cursor} manner={manner} open={ropes} onOpenChange={setRopes} />
      <OwnStitchDialog chart={chart} open={making} onOpenChange={setMaking} onMade={takeUp} />
      <Shortcuts commands={commands} open={help} onOpenChange={setHelp} />
    </div>
  );
}

/** The keys typed so far, or the answer to the last thing asked for. */
function Said({
  typed,
  message,
}: {
  typed: string;
  message: { text: string; tone: 'said' | 'refused' } | null;
}) {
  if (!typed && !message) return null;
  return (
    <p
      role="status"
      data-testid="said"
      className={`absolute bottom-2 left-3 max-w-[70%] rounded-sm border bg-chalk px-2.5 py-1 text-[14px] shadow-sheet ${message?.tone === 'refused' && !typed ? 'border-madder text-madder' : 'border-slate/40'}`}
    >
      {typed ? <span className="font-mono font-semibold">{typed}</span> : message?.text}
    </p>
  );
}
