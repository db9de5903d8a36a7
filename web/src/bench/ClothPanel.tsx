import {
  heightOf,
  proportionsOf,
  repeatsAcross,
  repeatsUp,
  unfold,
  type Chart,
  type Design,
} from '@cordelina/core';
import { FlipHorizontal2, Maximize2, X } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { ClothView, useAsked, type At, type Lines } from '../ui/fabric/ClothView.js';
import { lookedAt, sideName } from '../ui/fabric/how-worked.js';
import { ignoreStopped, useCloth, type Source } from '../ui/fabric/useCloth.js';
import { cellBehind } from '../desk/state/bench.js';
import { goTo, isSeenBehind } from '../desk/state/editing.js';
import { habits } from '../desk/state/habits.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { IconButton } from '../ui/Button.js';
import { FINDINGS } from './Findings.js';

const SIZE = { width: FINDINGS.open - 1, height: 232 } as const;
/** A chart this small is drawn out twice, so that its repeats join. */
const TWICE = { columns: 20, rows: 22 } as const;
/** Wider or higher cloth is not shown as a whole: the part about the cursor is, its stitches so wide. */
const WHOLE = { columns: 46, rows: 56 } as const;
const STITCH = 9;

/** The page is this wide at least where the cloth stands beside the chart without being asked for. */
const ROOM = 1440;

export const isClothShown = (asked: boolean | null): boolean => asked ?? window.innerWidth >= ROOM;

export const useClothShown = (): boolean => isClothShown(useAppSelector((s) => s.habits.cloth));

/** A small cloth beside the chart, that follows each edit and the cursor. */
export function ClothPanel({ design, chart }: { design: Design; chart: Chart }) {
  const dispatch = useAppDispatch();
  const seen = useAppSelector((s) => s.bench.cursor);
  const isBehind = useAppSelector(isSeenBehind);
  // The cloth is of the chart as the design has it.
  const cursor = useMemo(
    () => (isBehind ? cellBehind(seen, chart.width) : seen),
    [isBehind, seen, chart.width],
  );
  const [side, setSide] = useState<'RS' | 'WS'>('RS');
  const times = repeatsAcross(chart) && chart.width <= TWICE.columns ? 2 : 1;
  const passes = repeatsUp(chart) && chart.rows.length <= TWICE.rows ? 2 : 1;
  const looked = lookedAt(chart, side);
  const { isTurned } = looked;
  const source = useMemo<Source>(
    () => ({ kind: 'chart', chart, times, passes, isTurned }),
    [chart, times, passes, isTurned],
  );
  const { fitted, ground } = design.settings.cloth;
  const { bobble } = design.settings;
  const plain = design.piece?.gauge.plain ?? null;
  const how = useMemo(
    () => ({ proportions: proportionsOf(fitted, heightOf(plain)), bobble, ground }),
    [fitted, plain, bobble, ground],
  );
  const drawn = useMemo(() => unfold(chart, times, passes).chart, [chart, times, passes]);
  const isWhole = drawn.width <= WHOLE.columns && drawn.rows.length <= WHOLE.rows;
  const [at, setAt] = useState<At>(null);
  const asked = useAsked(SIZE, looked.side, design.settings.cloth, isWhole ? null : at);
  const { link, frame, progress, knitted } = useCloth(source, how, asked);

  const [marked, setMarked] = useState<Lines>([]);
  useEffect(() => {
    if (!knitted) return;
    let stale = false;
    const loops: number[] = [];
    for (let i = 0; i < knitted.loops; i++)
      if (knitted.row[i] === cursor.row && knitted.column[i] === cursor.column) loops.push(i);
    link
      .ask((worker) => worker.lines(loops))
      .then((lines) => {
        if (stale) return;
        setMarked(lines);
        const first = lines[0]?.[0];
        if (first) setAt({ scale: STITCH, x: first[0], y: first[1] });
      })
      .catch(ignoreStopped);
    return () => {
      stale = true;
    };
  }, [link, knitted, cursor, progress]);

  return (
    <section aria-label="Cloth" className="shrink-0 border-t border-rule" data-testid="cloth-panel">
      <div className="flex items-center pt-1 pr-1.5 pb-0.5 pl-3">
        <h2 className="text-[15px] font-semibold">Cloth</h2>
        <span className="ml-2 text-[12.5px] text-slate">{sideName(chart, side)}</span>
        <span className="ml-auto flex">
          <IconButton
            name="Turn the cloth over"
            pressed={side === 'WS'}
            onClick={() => setSide(side === 'RS' ? 'WS' : 'RS')}
          >
            <FlipHorizontal2 size={15} aria-hidden />
          </IconButton>
          <Link
            to={`/designs/${design.id}/cloth`}
            aria-label="Open the Cloth room"
            title="Open the Cloth room"
            className="inline-grid h-8 w-8 place-items-center rounded-sm hover:bg-wash"
          >
            <Maximize2 size={14} aria-hidden />
          </Link>
          <IconButton name="Put the cloth away" onClick={() => dispatch(habits.changed({ cloth: false }))}>
            <X size={15} aria-hidden />
          </IconButton>
        </span>
      </div>
      <div className="bg-board">
        <ClothView
          frame={frame}
          asked={asked}
          size={SIZE}
          at={isWhole ? null : at}
          marked={marked}
          label="The cloth of this chart"
          onPick={(loop) => {
            const row = knitted?.row[loop] ?? -1;
            if (knitted && row >= 0) dispatch(goTo({ row, column: knitted.column[loop]! }));
          }}
        />
      </div>
    </section>
  );
}
