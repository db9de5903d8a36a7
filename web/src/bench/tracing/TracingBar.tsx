import { counted } from '@cordelina/core';
import { Eye, EyeOff, Scan, X } from 'lucide-react';
import { Button, IconButton } from '../../ui/Button.js';
import type { TracingActs, TracingHere } from './useTracing.js';

/** What stands of the picture under the chart, and what is done with it row by row. */
export function TracingBar({
  traced,
  acts,
  keys,
  onCorners,
}: {
  traced: TracingHere;
  acts: TracingActs;
  keys: { show: string | undefined; take: string | undefined };
  onCorners: () => void;
}) {
  const { tracing, here, rowsTaken, problem } = traced;
  return (
    <section
      aria-label="Tracing"
      className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-chalk px-3 py-1 text-[13.5px]"
    >
      <span className="flex items-center">
        <IconButton
          name={tracing.isSeen ? 'Hide the picture' : 'Show the picture'}
          pressed={tracing.isSeen}
          onClick={() => acts.change({ isSeen: !tracing.isSeen })}
        >
          {tracing.isSeen ? <Eye size={16} /> : <EyeOff size={16} />}
        </IconButton>
        <label className="ml-1 flex items-center gap-1.5">
          <span className="sr-only">How strongly the picture shows</span>
          <input
            type="range"
            min={10}
            max={100}
            step={5}
            value={Math.round(tracing.opacity * 100)}
            onChange={(e) => acts.change({ opacity: Number(e.target.value) / 100 })}
            className="h-6 w-24 accent-peat touch:h-11"
          />
        </label>
        <IconButton name="Its corners and grid …" onClick={onCorners}>
          <Scan size={16} />
        </IconButton>
      </span>
      <p data-testid="tracing-told" role="status" className="min-w-0 flex-1">
        {problem ? <span className="text-madder">{problem}</span> : <Told traced={traced} />}
        <span className="ml-2 text-slate">
          {rowsTaken} of {counted(tracing.grid.rows, 'row')} done
        </span>
      </p>
      <span className="flex items-center gap-2">
        <Button
          title={`The row at the cursor, or what is selected, is charted as the picture shows it: the rest is guessed by it (${keys.show ?? ''})`}
          onClick={acts.show}
        >
          This is right
        </Button>
        <Button
          tone={here && here.guessed > 0 && !here.isTaken ? 'main' : 'plain'}
          title={`The row at the cursor becomes what is guessed of it (${keys.take ?? ''})`}
          disabled={!here || here.guessed === 0}
          onClick={acts.take}
        >
          Take this row
        </Button>
        <IconButton name="Put the picture away" onClick={acts.putAway}>
          <X size={16} />
        </IconButton>
      </span>
    </section>
  );
}

function Told({ traced: { tracing, here } }: { traced: TracingHere }) {
  if (!here) return <>The picture does not reach this row.</>;
  const row = `Row ${here.row}`;
  if (here.isTaken) return <>{row} is done.</>;
  if (!tracing.shown.length)
    return <>Chart one row, or a few cells, over the picture, and press “This is right”.</>;
  if (!here.guessed && !here.open) return <>{row}: looking …</>;
  return (
    <>
      {row}: {counted(here.guessed, 'stitch', 'stitches')} guessed
      {here.unsure > 0 && <>, {here.unsure} not sure</>}
      {here.open > 0 && <>, {counted(here.open, 'cell')} like nothing shown</>}.
    </>
  );
}
