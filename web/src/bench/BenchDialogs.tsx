import type { Chart, Design, Stitch } from '@cordelina/core';
import type { Cell } from '../desk/state/bench.js';
import { NameDialog } from '../ui/NameDialog.js';
import type { Manner } from '../ui/paint.js';
import type { ChartActs } from './acts/index.js';
import { ClosedRopesDialog } from './ClosedRopesDialog.js';
import { MotifDialog } from './MotifDialog.js';
import { OwnStitchDialog } from './OwnStitchDialog.js';
import { RulesDialog } from './RulesDialog.js';
import { SetupDialog } from './SetupDialog.js';

/** What may lie over the bench; one at a time. The palette of all stitches hangs from the edge; a picture is laid by those who trace. */
export type BenchDialog =
  'setup' | 'ropes' | 'palette' | 'making' | 'rules' | 'motifs' | 'keeping' | 'tracing';

/** The sheets that lie over the bench. */
export function BenchDialogs({
  open,
  onOpen,
  chart,
  cursor,
  settings,
  manner,
  acts,
  onMade,
}: {
  open: BenchDialog | null;
  onOpen: (dialog: BenchDialog | null) => void;
  chart: Chart;
  cursor: Cell;
  settings: Design['settings'];
  manner: Manner;
  acts: ChartActs;
  onMade: (stitch: Stitch) => void;
}) {
  const is = (dialog: BenchDialog) => ({
    open: open === dialog,
    onOpenChange: (now: boolean) => onOpen(now ? dialog : null),
  });
  return (
    <>
      <SetupDialog chart={chart} {...is('setup')} />
      <ClosedRopesDialog chart={chart} cursor={cursor} manner={manner} {...is('ropes')} />
      <OwnStitchDialog chart={chart} {...is('making')} onMade={onMade} />
      <MotifDialog chart={chart} cursor={cursor} manner={manner} {...is('motifs')} />
      {open === 'keeping' && (
        <NameDialog
          title="Keep as a motif"
          action="Keep it"
          label="Name"
          hint="It stands on the motif shelf, in every design."
          initial=""
          most={80}
          missing="A motif needs a name."
          onClose={() => onOpen(null)}
          onName={(name) => acts.keepMotif(name)}
        />
      )}
      <RulesDialog chart={chart} settings={settings} {...is('rules')} />
    </>
  );
}
