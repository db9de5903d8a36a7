import {
  findingsLayer,
  notesLayer,
  followedLayer,
  INKS,
  namingOf,
  ropesLayer,
  symmetryLayer,
  seenBehind,
  styleOf,
  unmeant,
  workStitch,
  type Finding,
  type Naming,
  type Stitch,
} from '@cordelina/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { useWaitsToTrace } from '../desk/files/to-trace.js';
import { useOffer } from '../desk/commands/registry.js';
import { describeCell } from '../desk/describe.js';
import { bench, type Cell, type Run, cellBehind } from '../desk/state/bench.js';
import { changedCells, chartOnBench, edit, goTo, onBench, ownChart, work } from '../desk/state/editing.js';
import { habits } from '../desk/state/habits.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { Drawer } from '../ui/Drawer.js';
import { PlaceMenu } from '../ui/Menu.js';
import type { Manner } from '../ui/paint.js';
import { useNarrow } from '../ui/useNarrow.js';
import { useChartActs } from './acts/index.js';
import { BandEditor } from './BandEditor.js';
import type { BenchDialog } from './BenchDialogs.js';
import { ChartMap, needsMap } from './ChartMap.js';
import { ChartPane } from './ChartPane.js';
import { ClothPanel, useClothShown } from './ClothPanel.js';
import { placeLines, useCommands } from './commands.js';
import { Divide, RowStrip, Said } from './edges.js';
import { ENTRIES } from './entry.js';
import { Findings } from './Findings.js';
import { movedLine } from './grabbed-line.js';
import { OtherSide } from './OtherSide.js';
import { ReachStrip } from './InReach.js';
import { NeedleStrip } from './NeedleStrip.js';
import { PrintedChart } from './PrintedChart.js';
import { RhythmStrip } from './RhythmStrip.js';
import { RopesPanel, turned, usePlaits } from './RopesPanel.js';
import { useNotedCells } from './RowNotes.js';
import { RowWords } from './RowWords.js';
import { StitchEdge, useInReach } from './StitchEdge.js';
import { StitchPalette } from './StitchPalette.js';
import { ThumbBar, type DrawerName } from './ThumbBar.js';
import { Toolbar } from './Toolbar.js';
import type { TracingNow } from './tracing/TracingDesk.js';
import { useBenchLayout } from './useBenchLayout.js';
import { MOVE_KEYS, useChartKeys } from './useChartKeys.js';
import { useFindings } from './useFindings.js';
import { usePageActs } from './usePageActs.js';
import { usePlaceInAddress } from './usePlaceInAddress.js';
import { useWordsRoom } from './useWordsRoom.js';

/** The sheets over the bench, and the motifs in them, are fetched when one is first asked for. */
const BenchDialogs = lazy(async () => ({ default: (await import('./BenchDialogs.js')).BenchDialogs }));

/** Tracing is fetched by those who trace. */
const TracingDesk = lazy(async () => ({ default: (await import('./tracing/TracingDesk.js')).TracingDesk }));

const Walk = lazy(async () => ({ default: (await import('./Walk.js')).Walk }));

/** Findings that are crossings turned the wrong way: they are ringed among the ropes. */
const WRONG_WAY = ['over-under-broken', 'mirror-broken'];

/** Keys of the chart that are no commands. */
const BESIDES = { 'Work stitches': ENTRIES, 'Move and select': MOVE_KEYS };

/** Cells, and what is found in them, as the other side of the cloth has them. */
const runBehind = ({ row, from, to }: Run, width: number): Run => ({
  row,
  from: width - 1 - to,
  to: width - 1 - from,
});
const findingBehind = (finding: Finding, width: number): Finding =>
  finding.columns
    ? { ...finding, columns: [width + 1 - finding.columns[1], width + 1 - finding.columns[0]] }
    : finding;

export function BenchRoom() {
  const dispatch = useAppDispatch();
  const design = useAppSelector(onBench)!.document;
  const cursor = useAppSelector((s) => s.bench.cursor);
  const hand = useAppSelector((s) => s.bench.hand);
  const message = useAppSelector((s) => s.bench.message);
  const chart = useAppSelector(chartOnBench)!;
  const own = useAppSelector(ownChart)!;
  const isBehind = chart !== own;
  const { settings } = design;
  const { construction } = chart;
  const naming = useMemo<Naming>(() => namingOf(settings, { construction }), [settings, construction]);

  const narrow = useNarrow();
  const [drawer, setDrawer] = useState<DrawerName | null>(null);
  const closeDrawer = useCallback(() => setDrawer(null), []);
  const { apart, folded, walk, whole, traces } = useAppSelector((s) => s.habits);
  const cloth = useClothShown();
  const {
    findings,
    state,
    tried: mended,
    touched: mending,
    setTrying,
    mend,
    accept,
    takeBack,
  } = useFindings(design, own);
  // It opens by itself only with the design; while someone works it shows a number.
  const [findingsAsked, openFindings] = useState<boolean | null>(null);
  if (findingsAsked === null && state === 'checked')
    openFindings(unmeant(findings).some((f) => f.level !== 'note'));
  const tried = useMemo(() => mended && (isBehind ? seenBehind(mended) : mended), [mended, isBehind]);
  const touched = useMemo(
    () => (isBehind ? mending.map((run) => runBehind(run, own.width)) : mending),
    [mending, isBehind, own.width],
  );
  // The cloth stands in the same edge.
  const findingsOpen = findingsAsked === true || cloth;
  const toSee = unmeant(findings).length;
  useEffect(() => {
    dispatch(bench.counted(toSee));
  }, [dispatch, toSee]);
  const plaits = usePlaits(chart, settings, apart);
  const { roomRef, texts, wantsFold } = useWordsRoom(own, settings, { narrow, edgeOpen: findingsOpen });
  const isFolded = folded ?? wantsFold;
  const { mainRef, scroller, onScroll, isLaid, view, layout, width, sheet, other, onZoom, giveKeys } =
    useBenchLayout(chart, design.id, narrow, findingsOpen, own, texts);
  const [tracing, setTracing] = useState<TracingNow | null>(null);
  const traced = tracing?.traced ?? null;
  const manner = useMemo<Manner>(
    () => ({ ...styleOf(settings), grid: true, inks: INKS, ropes: apart }),
    // Only these of them are drawn by.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [settings.plain, settings.colours, settings.cloth, apart],
  );

  const [dialog, open] = useState<BenchDialog | null>(null);
  const waitsToTrace = useWaitsToTrace();
  if (waitsToTrace && dialog !== 'tracing') open('tracing');
  const [wasOpen, setWasOpen] = useState(false);
  if (dialog && !wasOpen) setWasOpen(true);
  const inReach = useInReach(chart);
  const reachable = useMemo(() => inReach.map((u) => u.stitch), [inReach]);

  const acts = useChartActs();
  // Who asks for it before anything lies there is shown how to lay it.
  const trace = useMemo(
    () => tracing?.acts ?? { show: () => open('tracing'), take: () => open('tracing') },
    [tracing?.acts],
  );
  const page = usePageActs({ settings, acts, tracing: trace, isFolded, sheet, onZoom, open, openFindings });
  const commands = useCommands(acts, page);
  useOffer(
    'Bench',
    // Undo and redo are offered by the head, which says what they do.
    useMemo(() => Object.values(commands).filter(({ id }) => id !== 'undo' && id !== 'redo'), [commands]),
    BESIDES,
  );
  const { typed, onKeyDown, onPaste, settle } = useChartKeys(acts, commands, reachable);

  usePlaceInAddress(design.id);

  // On the bench the hands are on the chart from the first moment.
  useEffect(() => {
    if (isLaid) giveKeys();
  }, [isLaid, giveKeys, design.id, chart.id]);
  const takeUp = useCallback(
    (stitch: Stitch | null) => {
      dispatch(bench.tookUp(stitch));
      giveKeys();
    },
    [dispatch, giveKeys],
  );
  const stamp = useCallback(
    (at: Cell, stitch: Stitch, stroke: number, alone: boolean) => {
      dispatch(bench.moved({ cell: at }));
      dispatch(work('set a stitch', (c) => workStitch(c, at.row, at.column, stitch), { stroke, alone }));
    },
    [dispatch],
  );
  const go = (finding: Finding) => {
    if (!finding.row) return;
    dispatch(goTo({ row: finding.row - 1, column: (finding.columns?.[0] ?? 1) - 1 }));
    giveKeys();
  };

  const followed = useAppSelector((s) => s.bench.followed);
  const noted = useNotedCells(own.id);
  // A picture lies under the chart as it is charted: not under its other side, nor under all its repeats.
  const sheetUnder = useMemo(
    () =>
      traced?.sheet && !isBehind && !whole
        ? {
            sheet: traced.sheet,
            at: traced.tracing.at,
            grid: traced.tracing.grid,
            opacity: traced.tracing.opacity,
          }
        : null,
    [traced, isBehind, whole],
  );

  const layers = useMemo(() => {
    const cells = tried ? changedCells(chart, tried) : touched.length ? touched : followed;
    const seen = isBehind ? findings.map((f) => findingBehind(f, own.width)) : findings;
    const wrong = unmeant(seen).filter(({ id }) => WRONG_WAY.includes(id));
    return [
      ...(apart ? [ropesLayer(view.chart, wrong)] : []),
      findingsLayer(seen),
      followedLayer(cells),
      symmetryLayer(chart.mirror),
      ...(sheetUnder && traced ? [traced.layer] : []),
      notesLayer(isBehind ? noted.map((cell) => cellBehind(cell, own.width)) : noted),
    ];
  }, [
    traced,
    sheetUnder,
    noted,
    findings,
    isBehind,
    own.width,
    followed,
    chart,
    tried,
    touched,
    apart,
    view.chart,
  ]);
  const plaitHere =
    plaits.find(({ columns: [from, to] }) => cursor.column >= from && cursor.column <= to) ?? plaits[0];

  const seeking = {
    chart,
    plain: settings.plain,
    open: dialog === 'palette',
    onOpenChange: (now: boolean) => open(now ? 'palette' : null),
    onTake: takeUp,
    onWork: (stitch: Stitch) => {
      acts.fill(stitch);
      takeUp(stitch);
    },
    onMake: () => open('making'),
  };
  const reach = { items: inReach, hand, chart, naming, plain: settings.plain, onTake: takeUp };
  const stitches = (
    <StitchEdge
      chart={chart}
      settings={settings}
      naming={naming}
      hand={hand}
      inReach={inReach}
      narrow={narrow}
      palette={<StitchPalette {...seeking} />}
      onTake={takeUp}
      onFold={page.fold}
    />
  );
  const words = isLaid && (
    <RowWords
      chart={own}
      view={view}
      settings={settings}
      layout={layout}
      findings={findings}
      onWheel={(dy) => scroller.current?.scrollBy({ top: dy })}
      onWritten={giveKeys}
    />
  );
  const found = (
    <Findings
      title={design.title}
      chart={own}
      findings={findings}
      state={state}
      above={
        apart && (
          <RopesPanel
            chart={chart}
            plaits={plaits}
            cursor={cursor}
            onTurn={(places) => dispatch(edit('turn crossings over', turned(places)))}
          />
        )
      }
      below={cloth && !narrow && <ClothPanel key={chart.id} design={design} chart={own} />}
      open={narrow || findingsOpen}
      onOpenChange={(open) => {
        if (narrow) return setDrawer(null);
        openFindings(open);
        if (!open) dispatch(habits.changed({ cloth: false }));
      }}
      onGo={(finding) => {
        go(finding);
        setDrawer(null);
      }}
      onTry={setTrying}
      onMend={mend}
      onAccept={accept}
      onTakeBack={takeBack}
      onRules={() => open('rules')}
    />
  );

  const otherSide = other && <OtherSide own={own} settings={settings} place={other} after={giveKeys} />;

  return (
    <>
      <h1 className="sr-only">Bench: {design.title}</h1>
      <PrintedChart design={design} chart={chart} />
      <div ref={roomRef} className="flex min-h-0 flex-1 print:hidden">
        {!narrow &&
          (isFolded ? (
            <ReachStrip {...reach} palette={<StitchPalette small {...seeking} />} onOpen={page.fold} />
          ) : (
            stitches
          ))}
        <div className="flex min-w-0 flex-1 flex-col">
          <Toolbar design={design} chart={chart} acts={acts} commands={commands} pointing={hand === null} />
          {(traces || dialog === 'tracing') && (
            <Suspense>
              <TracingDesk
                design={design.id}
                chart={own}
                keys={{ show: commands.traceShow.keys[0], take: commands.traceTake.keys[0] }}
                isOpen={dialog === 'tracing'}
                onOpenChange={(now) => open(now ? 'tracing' : null)}
                tell={setTracing}
              />
            </Suspense>
          )}
          <main ref={mainRef} className="relative flex min-h-0 flex-1">
            <div className="flex shrink-0 flex-col">
              <PlaceMenu label="Chart" lines={placeLines(commands, hand !== null)}>
                <div className="relative min-h-0 flex-1" style={{ width }}>
                  {isLaid && (
                    <ChartPane
                      chart={chart}
                      view={view}
                      layout={layout}
                      manner={manner}
                      tried={tried ?? (sheetUnder && traced ? traced.guessed : null)}
                      traced={sheetUnder}
                      layers={layers}
                      describe={describeCell(chart, cursor, naming, own)}
                      scroller={scroller}
                      onScroll={onScroll}
                      onKeyDown={onKeyDown}
                      onPaste={onPaste}
                      typed={typed}
                      onSettle={settle}
                      onStamp={stamp}
                      onZoom={onZoom}
                      onRope={(change) => dispatch(edit('draw a rope', change))}
                      onLine={(line, to) =>
                        dispatch(edit('move a line of the repeat', (c) => movedLine(c, line, to - line.at)))
                      }
                    />
                  )}
                  {isLaid && apart && plaitHere && (
                    <RhythmStrip plait={plaitHere} view={view} layout={layout} />
                  )}
                  {isLaid && (
                    <BandEditor
                      chart={own}
                      view={view}
                      layout={layout}
                      findings={findings}
                      after={giveKeys}
                    />
                  )}
                  {isLaid && needsMap(layout) && (
                    <ChartMap chart={view.chart} layout={layout} scroller={scroller} />
                  )}
                </div>
              </PlaceMenu>
              {other?.under && otherSide}
            </div>
            {other && !other.under && otherSide}
            {!narrow && (
              <>
                <Divide
                  share={width / sheet}
                  onShare={(s) => dispatch(habits.changed({ share: s }))}
                  of={sheet}
                />
                <div className="min-w-0 flex-1">{words}</div>
              </>
            )}
            {narrow && drawer === 'stitches' && (
              <Drawer name="Stitches" side="left" onClose={closeDrawer}>
                {stitches}
              </Drawer>
            )}
            {narrow && drawer === 'words' && (
              <Drawer name="Words" side="right" onClose={closeDrawer}>
                <div className="h-full w-[min(560px,86vw)]">{words}</div>
              </Drawer>
            )}
            {narrow && drawer === 'findings' && (
              <Drawer name="Findings" side="right" onClose={closeDrawer}>
                <div className="flex h-full pt-10">{found}</div>
              </Drawer>
            )}
            <Said typed={typed} message={message} />
          </main>
          {narrow ? (
            <>
              <RowStrip chart={own} settings={settings} onPull={() => setDrawer('words')} />
              <ThumbBar
                chart={chart}
                naming={naming}
                plain={settings.plain}
                reachable={reachable}
                hand={hand}
                findings={findings}
                open={drawer}
                onOpen={setDrawer}
                onWork={(stitch) => {
                  acts.fill(stitch);
                  giveKeys();
                }}
              />
            </>
          ) : (
            <NeedleStrip chart={chart} own={own} settings={settings} apart={apart} />
          )}
        </div>
        {!narrow && found}
        {walk?.isOpen && walk.design === design.id && (
          <Suspense>
            <Walk step={walk.step} />
          </Suspense>
        )}
        {wasOpen && (
          <Suspense>
            <BenchDialogs
              open={dialog}
              onOpen={open}
              chart={chart}
              cursor={cursor}
              settings={settings}
              manner={manner}
              acts={acts}
              onMade={takeUp}
            />
          </Suspense>
        )}
      </div>
    </>
  );
}
