import type { Chart } from '@cordelina/core';
import { useEffect } from 'react';
import { TraceDialog } from './TraceDialog.js';
import { TracingBar } from './TracingBar.js';
import { useTracing, type TracingActs, type TracingHere } from './useTracing.js';

/** How the tracing of the chart on the bench stands, and what may be done with it. */
export interface TracingNow {
  traced: TracingHere | null;
  acts: TracingActs;
}

/** All there is of tracing on the bench: its bar, and the sheet on which a picture is laid. Fetched when somebody traces. */
export function TracingDesk({
  design,
  chart,
  keys,
  isOpen,
  onOpenChange,
  tell,
}: {
  design: string;
  /** The chart as the design has it. */
  chart: Chart;
  keys: { show: string | undefined; take: string | undefined };
  /** Whether a picture is being laid. */
  isOpen: boolean;
  onOpenChange: (open: boolean) => void;
  /** Is told how it stands, so that the chart shows it; null when it goes. */
  tell: (now: TracingNow | null) => void;
}) {
  const { traced, acts } = useTracing(design, chart);
  useEffect(() => tell({ traced, acts }), [tell, traced, acts]);
  useEffect(() => () => tell(null), [tell]);
  return (
    <>
      {traced && <TracingBar traced={traced} acts={acts} keys={keys} onCorners={() => onOpenChange(true)} />}
      <TraceDialog
        chart={chart}
        tracing={traced?.tracing ?? null}
        open={isOpen}
        onOpenChange={onOpenChange}
        onLay={acts.lay}
      />
    </>
  );
}
