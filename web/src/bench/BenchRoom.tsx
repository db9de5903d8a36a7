import {
  namingOf,
  beyondOf,
  findingsLayer,
  followedLayer,
  isCrossing,
  passesOf,
  simpleCrossing,
  startOf,
  stitchUse,
  symmetryLayer,
  timesOf,
  unfold,
  unmeant,
  workStitch,
  type Crossing,
  ropesLayer,
  type Finding,
  type Naming,
  type Stitch,
} from '@cordelina/core';
import { ChevronsLeft } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { bench, type Cell } from '../desk/state/bench.js';
import { changedCells, chartOnBench, edit, editHead, onBench, work } from '../desk/state/editing.js';
import { followsIn, habits, withFollowing } from '../desk/state/habits.js';
import { store, useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { INKS } from '@cordelina/core';
import { IconButton } from '../ui/Button.js';
import { PlaceMenu } from '../ui/Menu.js';
import { NameDialog } from '../ui/NameDialog.js';
import type { Manner } from '../ui/paint.js';
import { useNarrow } from '../ui/useNarrow.js';
import { usePaneSize } from '../ui/usePaneSize.js';
import { useChartActs } from './acts.js';
import { Builder } from './Builder.js';
import { ClosedRopesDialog } from './ClosedRopesDialog.js';
import { ChartPane } from './ChartPane.js';
import { ClothPanel, isClothShown, useClothShown } from './ClothPanel.js';
import { ChartMap, needsMap } from './ChartMap.js';
import { placeLines, useCommands, type PageActs } from './commands.js';
import { describeCell } from '../desk/describe.js';
import { Drawer } from '../ui/Drawer.js';
import { Divide, RowStrip, Said } from './edges.js';
import { Findings, FINDINGS } from './Findings.js';
import { followRope } from './follow.js';
import { movedLine } from './grabbed-line.js';
import { MotifDialog } from './MotifDialog.js';
import { chartPaneWidth, drawnColumns, fittingCell, MOST_CHART, ZOOM, type Layout } from './geometry.js';
import { InReach, ReachStrip } from './InReach.js';
import { NeedleStrip } from './NeedleStrip.js';
import { OwnStitchDialog } from './OwnStitchDialog.js';
import { RhythmStrip } from './RhythmStrip.js';
import { RopesPanel, turned, usePlaits } from './RopesPanel.js';
import { RowWords, wordsWidth } from './RowWords.js';
import { RulesDialog } from './RulesDialog.js';
import { SetupDialog } from './SetupDialog.js';
import { StitchCard } from './StitchCard.js';
import { StitchPalette } from './StitchPalette.js';
import { Toolbar } from './Toolbar.js';
import { ThumbBar, type DrawerName } from './ThumbBar.js';
import { MOVE_KEYS, useChartKeys } from './useChartKeys.js';
import { ENTRIES } from './entry.js';
import { useOffer } from '../desk/commands/registry.js';
import { useFindings } from './useFindings.js';

/** With the whole width, the rows are drawn so often, so that their join can be judged. */
const SHOWN_PASSES = 2;
const LEAST_WORDS = 160;
/** However long the words, the chart keeps this share of the width. */
const LEAST_SHARE = 0.25;
/** Findings that are crossings turned the wrong way: they are ringed among the ropes. */
const WRONG_WAY = ['over-under-broken', 'mirror-broken'];

/** Keys of the chart that are no commands. */
const BESIDES = { 'Work stitches': ENTRIES, 'Move and select': MOVE_KEYS };

export function BenchRoom() {
  const dispatch = useAppDispatch();
  const design = useAppSelector(onBench)!.document;
  const cursor = useAppSelector((s) => s.bench.cursor);
  const hand = useAppSelector((s) => s.bench.hand);
  const message = useAppSelector((s) => s.bench.message);
  const chart = useAppSelector(chartOnBench)!;
  const { settings } = design;
  const naming = useMemo<Naming>(() => namingOf(settings), [settings]);

  const { ref: mainRef, size: main } = usePaneSize();
  const scroller = useRef<HTMLDivElement>(null);
  const [scroll, setScroll] = useState({ left: 0, top: 0 });
  const [zoom, setZoom] = useState<number | null>(null);
  const narrow = useNarrow();
  const [drawer, setDrawer] = useState<DrawerName | null>(null);
  const closeDrawer = useCallback(() => setDrawer(null), []);
  const { whole, share, apart, folded } = useAppSelector((s) => s.habits);
  const cloth = useClothShown();
  const view = useMemo(
    () =>
      whole ? unfold(chart, timesOf(chart), Math.min(SHOWN_PASSES, passesOf(chart))) : unfold(chart, 1, 1),
    [chart, whole],
  );
  const { jogs, construction, width: columns } = view.chart;
  const rows = view.chart.rows.length;
  const beyond = useMemo(() => beyondOf({ jogs, construction }), [jogs, construction]);
  const { findings, tried, touched, setTrying, mend, accept, takeBack } = useFindings(design, chart, naming);
  // It opens by itself only with the design; while someone works it shows a number.
  const [findingsAsked, openFindings] = useState(() => unmeant(findings).some((f) => f.level !== 'note'));
  // The cloth stands in the same edge.
  const findingsOpen = findingsAsked || cloth;
  const toSee = unmeant(findings).length;
  useEffect(() => {
    dispatch(bench.counted(toSee));
  }, [dispatch, toSee]);
  const plaits = usePlaits(chart, settings, apart);
  // The chart is laid out with the edge as it was when the design was opened; one that opens or folds later takes its
  // room from the words, or gives it to them, and never moves the chart.
  const [wasOpen] = useState(findingsOpen);
  const edge = FINDINGS.open - FINDINGS.folded;
  const sheet = main.width + (narrow ? 0 : findingsOpen ? edge : 0) - (!narrow && wasOpen ? edge : 0);
  const sheetWidth = useRef(sheet);
  useEffect(() => {
    sheetWidth.current = sheet;
  }, [sheet]);
  const acrossDrawn = drawnColumns({ columns, beyond });
  const most = narrow ? main.width : (share ?? MOST_CHART) * sheet;
  const cell = zoom ?? fittingCell(acrossDrawn, rows, { width: most, height: main.height }, whole);
  const width = narrow
    ? main.width
    : Math.min(chartPaneWidth(acrossDrawn, cell, sheet, share), main.width - LEAST_WORDS);
  const layout = useMemo<Layout>(
    () => ({
      columns,
      rows,
      beyond,
      startOf: (r) => startOf({ jogs, construction }, r),
      cell,
      pane: { width, height: main.height },
      scroll,
    }),
    [columns, rows, beyond, jogs, construction, cell, width, main.height, scroll],
  );
  const onZoom = useCallback(
    (by: number) => setZoom((z) => Math.max(ZOOM.least, Math.min(ZOOM.most, (z ?? cell) + by))),
    [cell],
  );
  const manner = useMemo<Manner>(
    () => ({
      plain: settings.plain,
      cords: true,
      grid: true,
      colours: settings.colours,
      inks: INKS,
      ropes: apart,
    }),
    [settings.plain, settings.colours, apart],
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
  const [setup, setSetup] = useState(false);
  const [ropes, setRopes] = useState(false);
  const [palette, setPalette] = useState(false);
  const [making, setMaking] = useState(false);
  const [rules, setRules] = useState(false);
  const [motifs, setMotifs] = useState(false);
  const [keeping, setKeeping] = useState(false);

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
      follows: () => {
        const { habits: now, bench: at } = store.getState();
        if (!at.id) return;
        const changed = withFollowing(now, at.id);
        dispatch(habits.changed(changed));
        dispatch(
          bench.said({
            text: followsIn(changed, at.id)
              ? 'Faces carry up in this design again.'
              : 'In this design faces no longer carry up: each cell stays as it is set.',
            tone: 'said',
          }),
        );
      },
      fold: () => dispatch(habits.changed({ folded: !store.getState().habits.folded })),
      widen: () => {
        const { share: now } = store.getState().habits;
        const open = chartOnBench(store.getState())!;
        const wanted = 1 - wordsWidth(open, settings) / sheetWidth.current;
        const next = Math.max(LEAST_SHARE, Math.min(MOST_CHART, wanted));
        dispatch(habits.changed({ share: now !== null && Math.abs(now - next) < 0.01 ? null : next }));
      },
      skips: () => dispatch(habits.changed({ skips: !store.getState().habits.skips })),
      whole: () => dispatch(habits.changed({ whole: !store.getState().habits.whole })),
      roping: () => dispatch(bench.ropes(!store.getState().bench.roping)),
      motifs: () => setMotifs(true),
      keepMotif: () => {
        if (acts.hasSelection()) setKeeping(true);
        else dispatch(bench.said({ text: 'Select what is to be kept as a motif first.', tone: 'refused' }));
      },
      tellApart: () => {
        const on = !store.getState().habits.apart;
        dispatch(habits.changed({ apart: on }));
        // What they do is told at the edge.
        if (on) openFindings(true);
      },
      cloth: () => dispatch(habits.changed({ cloth: !isClothShown(store.getState().habits.cloth) })),
      follow: (way) => dispatch(followRope(way)),
      mirrorLine: () => {
        const now = chartOnBench(store.getState())!;
        acts.symmetry(now.mirror ? null : { axis: now.width });
      },
    }),
    [acts, dispatch, onZoom, settings],
  );
  const commands = useCommands(acts, page);
  useOffer(
    'Bench',
    // Undo and redo are offered by the head, which says what they do.
    useMemo(() => Object.values(commands).filter(({ id }) => id !== 'undo' && id !== 'redo'), [commands]),
    BESIDES,
  );
  const { typed, onKeyDown, settle } = useChartKeys(acts, commands, reachable);

  const build = useCallback(
    (c: Crossing) => {
      setBuilt(c);
      if (inHand) dispatch(bench.tookUp(c));
    },
    [dispatch, inHand],
  );
  const refuse = useCallback((text: string) => dispatch(bench.said({ text, tone: 'refused' })), [dispatch]);
  /** Gives the keys to the chart. */
  const giveKeys = useCallback(() => scroller.current?.focus({ preventScroll: true }), []);
  // On the bench the hands are on the chart from the first moment.
  useEffect(() => {
    if (isLaid) giveKeys();
  }, [isLaid, giveKeys, design.id, chart.id]);
  const takeUp = useCallback(
    (stitch: Stitch | null) => {
      dispatch(bench.tookUp(stitch));
      if (stitch && isCrossing(stitch)) setBuilt(stitch);
      giveKeys();
    },
    [dispatch, giveKeys],
  );
  const takeBuilt = useCallback(() => takeUp(inHand ? null : built), [takeUp, inHand, built]);
  const stamp = useCallback(
    (at: Cell, stitch: Stitch, stroke: number, alone: boolean) => {
      dispatch(bench.moved({ cell: at }));
      dispatch(work('set a stitch', (c) => workStitch(c, at.row, at.column, stitch), { stroke, alone }));
    },
    [dispatch],
  );
  const go = (finding: Finding) => {
    if (!finding.row) return;
    dispatch(bench.moved({ cell: { row: finding.row - 1, column: (finding.columns?.[0] ?? 1) - 1 } }));
    giveKeys();
  };

  const followed = useAppSelector((s) => s.bench.followed);
  const layers = useMemo(() => {
    const cells = tried ? changedCells(chart, tried) : touched.length ? touched : followed;
    const wrong = unmeant(findings).filter(({ id }) => WRONG_WAY.includes(id));
    return [
      ...(apart ? [ropesLayer(view.chart, wrong)] : []),
      findingsLayer(findings),
      followedLayer(cells),
      symmetryLayer(chart.mirror),
    ];
  }, [findings, followed, chart, tried, touched, apart, view.chart]);
  const plaitHere =
    plaits.find(({ columns: [from, to] }) => cursor.column >= from && cursor.column <= to) ?? plaits[0];

  const reach = { items: inReach, hand, chart, naming, plain: settings.plain, onTake: takeUp };
  const stitches = (
    <aside
      aria-label="Stitches"
      className={`w-[220px] shrink-0 overflow-y-auto overflow-x-hidden border-r border-rule [scrollbar-gutter:stable] [scrollbar-width:thin] ${narrow ? 'h-full pt-10' : ''}`}
    >
      {!narrow && (
        <span className="float-right mt-1.5 mr-1">
          <IconButton name="Fold the stitches" keys="B" onClick={page.fold}>
            <ChevronsLeft size={16} aria-hidden />
          </IconButton>
        </span>
      )}
      <Builder
        built={built}
        onBuild={build}
        onTake={takeBuilt}
        inHand={inHand}
        naming={naming}
        hand={settings.hand}
        onRefuse={refuse}
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
            takeUp(stitch);
          }}
          onMake={() => setMaking(true)}
        />
      </div>
      <InReach
        {...reach}
        more={(stitch, count) => (
          <StitchCard stitch={stitch} count={count} chart={chart} settings={settings} others={reachable} />
        )}
      />
    </aside>
  );
  const words = isLaid && (
    <RowWords
      chart={chart}
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
      chart={chart}
      findings={findings}
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
      below={cloth && !narrow && <ClothPanel key={chart.id} design={design} chart={chart} />}
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
      onRules={() => setRules(true)}
    />
  );

  return (
    <div className="flex min-h-0 flex-1">
      {!narrow && (folded ? <ReachStrip {...reach} onOpen={page.fold} /> : stitches)}
      <div className="flex min-w-0 flex-1 flex-col">
        <Toolbar
          design={design}
          chart={chart}
          acts={acts}
          commands={commands}
          pointing={hand === null}
          after={giveKeys}
        />
        <main ref={mainRef} className="relative flex min-h-0 flex-1">
          <PlaceMenu label="Chart" after={giveKeys} lines={placeLines(commands, hand !== null)}>
            <div className="relative shrink-0" style={{ width }}>
              {isLaid && (
                <ChartPane
                  chart={chart}
                  view={view}
                  layout={layout}
                  manner={manner}
                  tried={tried}
                  layers={layers}
                  describe={describeCell(chart, cursor, naming)}
                  scroller={scroller}
                  onScroll={setScroll}
                  onKeyDown={onKeyDown}
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
              {isLaid && apart && plaitHere && <RhythmStrip plait={plaitHere} view={view} layout={layout} />}
              {isLaid && needsMap(layout) && (
                <ChartMap chart={view.chart} layout={layout} scroller={scroller} />
              )}
            </div>
          </PlaceMenu>
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
            <RowStrip chart={chart} settings={settings} onPull={() => setDrawer('words')} />
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
          <NeedleStrip chart={chart} settings={settings} apart={apart} />
        )}
      </div>
      {!narrow && found}
      <SetupDialog chart={chart} open={setup} onOpenChange={setSetup} />
      <ClosedRopesDialog chart={chart} cursor={cursor} manner={manner} open={ropes} onOpenChange={setRopes} />
      <OwnStitchDialog chart={chart} open={making} onOpenChange={setMaking} onMade={takeUp} />
      <MotifDialog chart={chart} cursor={cursor} manner={manner} open={motifs} onOpenChange={setMotifs} />
      {keeping && (
        <NameDialog
          title="Keep as a motif"
          action="Keep it"
          label="Name"
          hint="It stands on the motif shelf, in every design."
          initial=""
          most={80}
          missing="A motif needs a name."
          onClose={() => setKeeping(false)}
          onName={(name) => acts.keepMotif(name)}
        />
      )}
      <RulesDialog chart={chart} settings={settings} open={rules} onOpenChange={setRules} />
    </div>
  );
}
