import {
  braidStepFrames,
  countsOf,
  isCrossed,
  LEAST_EVERY,
  MOST_BAND_ROUNDS,
  MOST_EVERY,
  moveBand,
  setBand,
  unmeant,
  type Band,
  type Chart,
  type Finding,
  type Unfolded,
} from '@cordelina/core';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { bench } from '../desk/state/bench.js';
import { edit } from '../desk/state/editing.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { HandsPicture } from '../ui/HandsPicture.js';
import { NumberField } from '../ui/NumberField.js';
import { lineTop, origin, type Layout } from './geometry.js';

const STEP = braidStepFrames();

/** The band that is being set, at its place of the chart: how often it crosses, its rounds, where it stands. */
export function BandEditor({
  chart,
  view,
  layout,
  findings,
  after,
}: {
  chart: Chart;
  view: Unfolded;
  layout: Layout;
  findings: readonly Finding[];
  /** Gives the keys back to the chart. */
  after: () => void;
}) {
  const dispatch = useAppDispatch();
  const row = useAppSelector((s) => s.bench.band);
  const band = row === null ? undefined : chart.bands[row];
  if (row === null || !band) return null;
  const { x } = origin(layout);
  const top = lineTop(layout, layout.lines.of(view.drawnRow(row)) - 1);
  const close = () => {
    dispatch(bench.banded(null));
    after();
  };
  return (
    <Popover.Root open onOpenChange={(open) => !open && close()}>
      <Popover.Anchor asChild>
        <span
          aria-hidden
          className="pointer-events-none absolute border-2 border-woad"
          style={{
            left: x - 1,
            top: top - 1,
            width: layout.columns * layout.cell + 2,
            height: layout.cell + 2,
          }}
        />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="center"
          sideOffset={6}
          collisionPadding={12}
          aria-label={`Band before round ${row + 1}`}
          onCloseAutoFocus={(e) => e.preventDefault()}
          className="z-30 grid max-h-(--radix-popover-content-available-height) w-[316px] max-w-[94vw] gap-3 overflow-auto rounded-sm border border-slate/40 bg-chalk p-4 shadow-sheet"
        >
          <BandFields chart={chart} row={row} band={band} findings={findings} onTaken={close} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function BandFields({
  chart,
  row,
  band,
  findings,
  onTaken,
}: {
  chart: Chart;
  row: number;
  band: Band;
  findings: readonly Finding[];
  onTaken: () => void;
}) {
  const dispatch = useAppDispatch();
  const { takes: over } = countsOf(chart, row);
  const set = (now: Partial<Band>) =>
    dispatch(edit('set a band', (c) => setBand(c, row, { ...band, ...now })));
  const move = (to: number) => {
    if (!dispatch(edit('move a band', (c) => moveBand(c, row, to)))) return;
    dispatch(bench.wentTo(to));
    dispatch(bench.banded(to));
  };
  const wrong = unmeant(findings).find((f) => f.id.startsWith('band-') && f.row === row + 1);
  return (
    <>
      <p className="text-[15px] font-semibold">Band before round {row + 1}</p>
      <NumberField
        spread
        label="Rounds of braid steps"
        of="round"
        value={band.rounds}
        most={MOST_BAND_ROUNDS}
        onChange={(rounds) => set({ rounds })}
      />
      {isCrossed(band) && (
        <NumberField
          spread
          label="Stitches to a crossing"
          of="stitch"
          value={band.every}
          least={LEAST_EVERY}
          most={MOST_EVERY}
          onChange={(every) => set({ every })}
        />
      )}
      <p className={`text-[13.5px] leading-snug ${wrong ? 'text-madder' : 'text-slate'}`}>
        {wrong
          ? wrong.message
          : `${over} stitches, and one cast on for the braid: ${over + 1}${
              isCrossed(band) ? `, ${(over + 1) / band.every} stretches of ${band.every}` : ''
            }. Worked together again in round ${row + 1}.`}
      </p>
      <p className="text-[13px] leading-snug text-slate">
        Work it loosely: braids draw in. Where the round begins it steps up a little.
      </p>
      <details className="text-[14px]">
        <summary className="cursor-pointer text-slate hover:text-peat">How a braid step goes</summary>
        <div className="mt-2">
          <HandsPicture frames={STEP} label="A braid step" />
        </div>
      </details>
      <div className="flex gap-2">
        <Button
          onClick={() => move(row + 1)}
          disabled={row + 1 >= chart.rows.length}
          title="One round further up"
        >
          <ArrowUp size={14} aria-hidden /> Up
        </Button>
        <Button onClick={() => move(row - 1)} disabled={row < 1} title="One round further down">
          <ArrowDown size={14} aria-hidden /> Down
        </Button>
        <Button
          onClick={() => {
            dispatch(edit('take a band out', (c) => setBand(c, row, null)));
            onTaken();
          }}
          title="Take the band out"
        >
          <Trash2 size={14} aria-hidden /> Take out
        </Button>
      </div>
    </>
  );
}
