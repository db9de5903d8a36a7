import { actionSigns, type Settings } from '@cordelina/core';
import { ArrowRightToLine, Pause, Play, RotateCcw, StepForward } from 'lucide-react';
import { useMemo } from 'react';
import { Button } from '../ui/Button.js';
import { ChartPicture } from '../ui/ChartPicture.js';
import { SPEEDS, type AtBeds, type Speed } from './useOperator.js';

/** The counter, and what moves it. */
export function Controls({ at, rows }: { at: AtBeds; rows: number }) {
  const { operator, isRunning } = at;
  const isDone = !operator.next;
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
      <p
        className="font-serif text-[26px] leading-none font-semibold tabular-nums"
        data-testid="machine-count"
      >
        <span className="sr-only">Row counter: </span>
        {operator.counter}
        <span className="text-[15px] font-normal text-slate"> of {rows}</span>
      </p>
      <div className="flex flex-wrap gap-1.5">
        <Button onClick={at.step} disabled={isDone || isRunning} title="Do the next thing">
          <StepForward size={15} aria-hidden /> Step
        </Button>
        <Button onClick={isRunning ? at.stop : at.run} disabled={isDone} tone="main">
          {isRunning ? <Pause size={15} aria-hidden /> : <Play size={15} aria-hidden />}{' '}
          {isRunning ? 'Stop' : 'Run'}
        </Button>
        <Button onClick={at.toEnd} disabled={isDone || isRunning} title="Knit all rows">
          <ArrowRightToLine size={15} aria-hidden /> To the end
        </Button>
        <Button onClick={at.again} disabled={operator.counter === 0 && !at.last} title="Set the counter to 0">
          <RotateCcw size={15} aria-hidden /> Begin again
        </Button>
      </div>
      <label className="flex items-center gap-2 text-[14px] text-slate">
        Speed
        <select
          className="h-8 rounded-sm border border-slate/80 bg-chalk px-1.5 text-peat"
          value={at.speed}
          onChange={(e) => at.setSpeed(e.target.value as Speed)}
        >
          {Object.keys(SPEEDS).map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** What was done, what comes next, and where the cloth is another than the chart's. */
export function Told({ at, isByHand, isChecked }: { at: AtBeds; isByHand: boolean; isChecked: boolean }) {
  const { operator, difference } = at;
  const { next } = operator;
  const coming =
    next?.what === 'action'
      ? `Next, at count ${next.action.counter}: ${next.action.kind} ${actionSigns(next.action)}.`
      : next
        ? `Next: knit row ${next.row + 1}.`
        : operator.problems.length
          ? ''
          : 'All rows are knit.';
  return (
    <div className="mt-2 grid shrink-0 gap-1 text-[14px]" aria-live="polite" data-testid="machine-told">
      <p>{coming}</p>
      {difference ? (
        <p className="font-semibold text-madder">✗ {difference.message}</p>
      ) : isChecked ? (
        <p className="text-lichen">✓ Run on the simulated beds: the list makes the chart’s cloth.</p>
      ) : (
        isByHand && !next && <p className="text-lichen">✓ The list makes the chart’s cloth.</p>
      )}
    </div>
  );
}

/** Cells of the cloth: as wide as leaves all of it in sight, within what reads well. */
const cellOf = (columns: number): number => Math.max(10, Math.min(24, Math.floor(560 / columns)));
const MOST_ROWS = 60;

/** The cloth that has come off the beds, the newest row at its top. */
export function Cloth({ at: { operator, last }, settings }: { at: AtBeds; settings: Settings }) {
  const { cloth, width } = operator;
  // The cloth grows in place: it is another with each thing done.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const chart = useMemo(() => operator.clothShown(MOST_ROWS), [operator, last, cloth.length]);
  return (
    <div className="mt-2 grid min-h-[120px] flex-1 content-start justify-items-center overflow-auto border border-rule bg-chalk p-3">
      {chart ? (
        <ChartPicture
          chart={chart}
          settings={settings}
          rows={{ from: 0, to: chart.rows.length - 1 }}
          columns={{ from: 0, to: width - 1 }}
          cell={cellOf(width)}
          label={`The cloth after ${cloth.length} rows`}
        />
      ) : (
        <p className="self-center text-slate">No row is knit yet.</p>
      )}
    </div>
  );
}
