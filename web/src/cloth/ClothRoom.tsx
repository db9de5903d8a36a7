import {
  chartName,
  heightOf,
  namingOf,
  proportionsOf,
  takesWholeGround,
  lengthText,
  MOST_IN_LINES,
  OVER,
  repeatsAcross,
  repeatsUp,
  unfold,
  type Chart,
  type Naming,
  wayOf,
} from '@cordelina/core';
import { Contrast, FlipHorizontal2, Maximize, ZoomIn, ZoomOut } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { describeCell } from '../desk/describe.js';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { useSwatches } from '../desk/useSwatches.js';
import { bench, type Cell } from '../desk/state/bench.js';
import { editHead, goTo, onBench } from '../desk/state/editing.js';
import { habits } from '../desk/state/habits.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { Button, IconButton } from '../ui/Button.js';
import { Drawer } from '../ui/Drawer.js';
import { ChooseInLine } from '../ui/Field.js';
import { Choose } from '../ui/Field.js';
import { ButtonMenu } from '../ui/Menu.js';
import { NumberField } from '../ui/NumberField.js';
import { saveFile } from '../ui/save-file.js';
import { SizeChoice } from '../ui/SizeChoice.js';
import { useNarrow } from '../ui/useNarrow.js';
import { usePaneSize } from '../ui/usePaneSize.js';
import { ClothChart } from './ClothChart.js';
import { ClothView, useAsked, ZOOMS, type At, type Lines } from '../ui/fabric/ClothView.js';
import { DrawIn } from './DrawIn.js';
import { Yarns } from './Yarns.js';
import { measuredSwatches, plainOf, lookedAt, repeatsSeen, sideName } from '../ui/fabric/how-worked.js';
import { ignoreStopped, useCloth, type Source } from '../ui/fabric/useCloth.js';

/** The most repeats that are drawn out each way. */
const MOST_REPEATS = 40;
const ZOOM_STEP = 1.4;

/** The fabric of a chart, or of the piece, as it will look from both sides. */
export function ClothRoom() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const narrow = useNarrow();
  const design = useAppSelector(onBench)!.document;
  const onTheBench = useAppSelector((s) => s.bench.chart);
  const { settings, piece, charts } = design;
  const [params, setParams] = useSearchParams();
  const isPiece = params.get('of') === 'piece' && piece !== null && piece.parts.length > 0;
  const chart = charts.find((c) => c.id === (params.get('of') ?? onTheBench)) ?? charts[0]!;
  const size = piece?.sizes.find((s) => s.id === params.get('size')) ?? piece?.sizes[0];
  const set = useCallback(
    (to: Record<string, string>) =>
      setParams((now) => ({ ...Object.fromEntries(now), ...to }), { replace: true }),
    [setParams],
  );

  const [side, setSide] = useState<'RS' | 'WS'>('RS');
  const [at, setAt] = useState<At>(null);
  const [repeats, setRepeats] = useState<Record<string, { times: number; passes: number }>>({});
  const seen = useMemo(
    () => repeats[chart.id] ?? repeatsSeen(chart, (t, p) => unfold(chart, t, p).chart),
    [repeats, chart],
  );
  const swatches = useSwatches();
  const measured = useMemo(() => measuredSwatches(design, swatches), [design, swatches]);
  const plain = useMemo(() => plainOf(design, measured, swatches), [design, measured, swatches]);
  const height = heightOf(plain);
  const of = isPiece && piece ? piece : chart;
  const { isTurned, side: lookedFrom } = lookedAt(of, side);
  const source = useMemo<Source>(
    () =>
      isPiece && piece && size
        ? { kind: 'piece', charts, piece, size: size.id, isTurned }
        : { kind: 'chart', chart, times: seen.times, passes: seen.passes, isTurned },
    [isPiece, piece, size, charts, chart, seen.times, seen.passes, isTurned],
  );
  const { fitted, ground } = settings.cloth;
  const how = useMemo(
    () => ({ proportions: proportionsOf(fitted, height), bobble: settings.bobble, ground }),
    [fitted, height, settings.bobble, ground],
  );
  const { ref, size: pane } = usePaneSize();
  const asked = useAsked(pane, lookedFrom, settings.cloth, at);
  const { link, frame, progress, knitted, isCurrent, extent } = useCloth(source, how, asked);

  // What is pointed at, here or on the chart; a cell that was picked stays until another is.
  const [pointed, setPointed] = useState<Cell | null>(null);
  const [picked, setPicked] = useState<Cell | null>(null);
  const cell = pointed ?? picked;
  const [marked, setMarked] = useState<Lines>([]);
  const loopsOf = useCallback(
    ({ row, column }: Cell): number[] => {
      if (!knitted) return [];
      const found: number[] = [];
      for (let i = 0; i < knitted.loops; i++)
        if (knitted.row[i] === row && knitted.column[i] === column) found.push(i);
      return found;
    },
    [knitted],
  );
  useEffect(() => {
    if (!cell) return;
    let stale = false;
    link
      .ask((worker) => worker.lines(loopsOf(cell)))
      .then((lines) => {
        if (!stale) setMarked(lines);
      })
      .catch(ignoreStopped);
    return () => {
      stale = true;
    };
  }, [link, cell, loopsOf, progress]);
  const cellOf = (loop: number): Cell | null => {
    const row = knitted?.row[loop] ?? -1;
    return row < 0 || !knitted ? null : { row, column: knitted.column[loop]! };
  };
  const show = (where: Cell) => {
    if (isPiece) return;
    if (chart.id !== onTheBench) dispatch(bench.turnedTo({ chart }));
    dispatch(goTo(where));
    void navigate(`/designs/${design.id}`);
  };

  const [saying, setSaying] = useState<string | null>(null);
  const named = `${design.title} cloth ${side}`;
  const savePng = async () => {
    if (!asked) return;
    setSaying('The picture is being made …');
    const by = Math.min(2, 4000 / Math.max(asked.width, asked.height));
    const large = {
      ...asked,
      width: Math.round(asked.width * by),
      height: Math.round(asked.height * by),
      at: asked.at && { ...asked.at, scale: asked.at.scale * by },
    };
    saveFile(await link.ask((worker) => worker.png(large)), named, 'png');
    setSaying(null);
  };
  const saveSvg = async () => {
    if (!asked) return;
    const svg = await link.ask((worker) => worker.svg(asked));
    if (svg === null) {
      setSaying(`Lines are made of up to ${MOST_IN_LINES} loops: show fewer repeats, or save a picture.`);
      return;
    }
    saveFile(new Blob([svg], { type: 'image/svg+xml' }), named, 'svg');
    setSaying(null);
  };
  const zoomBy = useCallback(
    (by: number) => {
      if (!frame) return;
      const sharp = frame.view.width / Math.max(1, pane.width);
      const now = at ?? { scale: frame.view.scale / sharp, x: frame.view.x, y: frame.view.y };
      setAt({ ...now, scale: Math.max(ZOOMS.least, Math.min(ZOOMS.most, now.scale * by)) });
    },
    [frame, pane.width, at],
  );
  const lies = useAppSelector((s) => s.habits.ground);
  const turnGround = () => {
    const { theme } = document.documentElement.dataset;
    const isDark = lies === 'dark' || (lies === 'page' && theme === 'dark');
    dispatch(habits.changed({ ground: isDark ? 'light' : 'dark' }));
  };
  useOffer('Cloth', [
    command('ground', 'Lay it on the other ground, light or dark', 'Cloth', turnGround, 'g'),
    command(
      'turn-over',
      'Turn the cloth over',
      'Cloth',
      () => setSide((now) => (now === 'RS' ? 'WS' : 'RS')),
      'T',
    ),
    command('larger', 'Larger', 'Cloth', () => zoomBy(ZOOM_STEP), '+', '='),
    command('smaller', 'Smaller', 'Cloth', () => zoomBy(1 / ZOOM_STEP), '-'),
    command('all-of-it', 'All of it', 'Cloth', () => setAt(null), '0'),
    command('cloth-picture', 'Save the cloth as a picture', 'Cloth', () => void savePng()),
    command('cloth-lines', 'Save the cloth as lines', 'Cloth', () => void saveSvg()),
  ]);

  const { construction } = chart;
  const naming = useMemo<Naming>(() => namingOf(settings, { construction }), [settings, construction]);
  const told = !cell
    ? null
    : isPiece
      ? `Row ${cell.row + 1}, column ${cell.column + 1} of the piece`
      : describeCell(chart, cell, naming);
  const settleText =
    !progress || !isCurrent
      ? 'Knitting …'
      : progress.state === 'rest'
        ? 'At rest'
        : progress.state === 'stopped'
          ? 'Stopped before it came to rest'
          : `Settling … ${Math.round(progress.share * 100)} %`;
  const [isOpen, setOpen] = useState(false);
  const edge = (
    <div className="grid h-full content-start gap-5 overflow-auto px-4 py-3">
      <DrawIn
        design={design}
        chart={isPiece ? null : chart}
        extent={extent}
        bounds={progress && wayOf((isPiece && piece) || chart).hasEdges ? progress.bounds : null}
        isAtRest={progress?.state === 'rest'}
        measured={measured}
        plain={plain}
        height={height}
        link={link}
      />
      <section>
        <h2 className="text-[17px] font-semibold">Yarn</h2>
        <Yarns
          name="yarn"
          label={wayOf(of).loops === 2 ? 'Yarn A' : 'Yarn of the cloth'}
          yarn={settings.cloth.yarn}
          onChange={(yarn) =>
            dispatch(editHead('yarn', { settings: { ...settings, cloth: { ...settings.cloth, yarn } } }))
          }
        />
        {wayOf(of).loops === 2 && (
          <Yarns
            name="second"
            label="Yarn B"
            yarn={settings.cloth.second}
            onChange={(second) =>
              dispatch(
                editHead('yarn B', { settings: { ...settings, cloth: { ...settings.cloth, second } } }),
              )
            }
          />
        )}
      </section>
      {takesWholeGround(chart) && !isPiece && (
        <Choose
          label="Ground behind the ropes"
          value={ground}
          onChange={(ground) =>
            dispatch(
              editHead('ground of the cloth', {
                settings: { ...settings, cloth: { ...settings.cloth, ground } },
              }),
            )
          }
          options={[
            ['charted', 'makes room for them, as charted'],
            ['whole', 'is whole: embossed on two beds'],
          ]}
        />
      )}
      {!isPiece && (
        <section className="min-w-0">
          <h2 className="text-[17px] font-semibold">Chart</h2>
          <ClothChart
            chart={chart}
            settings={settings}
            cell={cell}
            describe={(where) => describeCell(chart, where, naming)}
            onPoint={setPointed}
            onPick={setPicked}
            onOpen={show}
          />
        </section>
      )}
    </div>
  );
  return (
    <div className="relative flex min-h-0 flex-1">
      <main tabIndex={-1} className="outline-none flex min-w-0 flex-1 flex-col">
        <h1 className="sr-only">Cloth</h1>
        <div className="flex min-h-11 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-4 py-1.5 text-[14px] max-md:px-2">
          {(charts.length > 1 || (piece && piece.parts.length > 0)) && (
            <ChooseInLine
              label="Cloth of"
              isHidden
              value={isPiece ? 'piece' : chart.id}
              options={[
                ...charts.map((c) => [c.id, chartName(design, c)] as const),
                ...(piece?.parts.length ? [['piece', 'The whole piece'] as const] : []),
              ]}
              onChange={(of) => {
                set({ of });
                setAt(null);
                setPicked(null);
              }}
            />
          )}
          {isPiece && piece && size && (
            <SizeChoice sizes={piece.sizes} value={size.id} onChange={(id) => set({ size: id })} />
          )}
          {!isPiece && (repeatsAcross(chart) || repeatsUp(chart)) && (
            <Repeats
              chart={chart}
              seen={seen}
              onChange={(to) => {
                setRepeats({ ...repeats, [chart.id]: to });
                setAt(null);
              }}
            />
          )}
          <Button
            onClick={() => setSide(side === 'RS' ? 'WS' : 'RS')}
            aria-pressed={side === 'WS'}
            title="Turn the cloth over (t)"
          >
            <FlipHorizontal2 size={15} aria-hidden />
            {sideName(of, side).replace(/^./, (c) => c.toUpperCase())}
          </Button>
          <span className="flex">
            <IconButton name="Smaller" keys="-" onClick={() => zoomBy(1 / ZOOM_STEP)}>
              <ZoomOut size={17} aria-hidden />
            </IconButton>
            <IconButton name="All of it" keys="0" pressed={at === null} onClick={() => setAt(null)}>
              <Maximize size={16} aria-hidden />
            </IconButton>
            <IconButton name="Larger" keys="+" onClick={() => zoomBy(ZOOM_STEP)}>
              <ZoomIn size={17} aria-hidden />
            </IconButton>
            <IconButton name="Lay it on the other ground, light or dark" keys="g" onClick={turnGround}>
              <Contrast size={16} aria-hidden />
            </IconButton>
          </span>
          <ButtonMenu
            label="Save the cloth"
            lines={[
              [
                { label: 'As a picture (PNG)', run: () => void savePng() },
                { label: 'As lines (SVG)', run: () => void saveSvg() },
              ],
            ]}
          >
            <Button>Save …</Button>
          </ButtonMenu>
          <span className="ml-auto flex items-center gap-2 text-[13.5px] text-slate">
            <span role="status" data-testid="settling" className="tabular-nums">
              {settleText}
            </span>
            {progress?.state === 'settling' && (
              <Button className="h-7" onClick={() => void link.ask((worker) => worker.stop())}>
                Stop
              </Button>
            )}
            {progress?.state === 'stopped' && (
              <Button className="h-7" onClick={() => void link.ask((worker) => worker.goOn())}>
                Go on
              </Button>
            )}
            {narrow && <Button onClick={() => setOpen(true)}>More</Button>}
          </span>
        </div>
        <div ref={ref} className="relative min-h-0 flex-1 overflow-hidden bg-board">
          {knitted?.fault ? (
            <p className="grid h-full place-content-center px-6 text-center">
              <span className="rounded-sm bg-chalk px-3 py-2">{knitted.fault}</span>
            </p>
          ) : (
            <ClothView
              frame={frame}
              asked={asked}
              size={pane}
              at={at}
              onLook={setAt}
              marked={cell ? marked : []}
              label={`The cloth, ${sideName(of, side)}. Arrows move it, plus and minus make it larger and smaller.`}
              onPoint={(loop) => setPointed(loop === null ? null : cellOf(loop))}
              onPick={(loop) => setPicked(cellOf(loop))}
            />
          )}
        </div>
        <p className="flex min-h-9 flex-wrap items-center gap-x-3 border-t border-rule px-4 py-1 text-[14px]">
          <span aria-live="polite" data-testid="pointed">
            {told ?? 'Point at a loop, or at a stitch of the chart: each shows the other.'}
          </span>
          {picked && !isPiece && (
            <button type="button" className="underline" onClick={() => show(picked)}>
              Show on the Bench
            </button>
          )}
          {saying && (
            <span role="status" className="text-slate">
              {saying}
            </span>
          )}
          {knitted && knitted.leftOut > 0 && (
            <span className="text-weld">
              The upper {knitted.leftOut} rows are left out: so many loops are not drawn at once.
            </span>
          )}
          {plain && extent && (
            <span className="ml-auto text-slate">
              Plain: {((plain.stitches.count * OVER[settings.units]) / plain.stitches.over).toFixed(1)} sts in{' '}
              {lengthText(OVER[settings.units], settings.units)}
            </span>
          )}
        </p>
      </main>
      {narrow ? (
        isOpen && (
          <Drawer name="Cloth" side="right" onClose={() => setOpen(false)}>
            <div className="h-full w-[300px] max-w-full pt-10">{edge}</div>
          </Drawer>
        )
      ) : (
        <aside aria-label="About the cloth" className="w-[300px] shrink-0 border-l border-rule">
          {edge}
        </aside>
      )}
    </div>
  );
}

/** How many repeats are drawn out, across and up. */
function Repeats({
  chart,
  seen,
  onChange,
}: {
  chart: Chart;
  seen: { times: number; passes: number };
  onChange: (seen: { times: number; passes: number }) => void;
}) {
  const field = (label: string, key: 'times' | 'passes') => (
    <NumberField
      label={label}
      value={seen[key]}
      most={MOST_REPEATS}
      onChange={(n) => onChange({ ...seen, [key]: n })}
    />
  );
  return (
    <fieldset className="flex items-center gap-2">
      <legend className="sr-only">Repeats drawn out</legend>
      {repeatsAcross(chart) && field('repeats across', 'times')}
      {repeatsUp(chart) && field('up', 'passes')}
    </fieldset>
  );
}
