import { stitchId, unmeant, type Chart, type Finding, type Naming, type Stitch } from '@cordelina/core';
import { AlignLeft, Grid2x2Plus, ListChecks } from 'lucide-react';
import type { ReactNode } from 'react';
import { StitchDrawing } from '../ui/StitchDrawing.js';
import { stitchName } from '../desk/describe.js';

export type DrawerName = 'stitches' | 'words' | 'findings';

/** On a narrow screen: large keys of what is in reach, and what slides in from the edges, under the thumb. */
export function ThumbBar({
  chart,
  naming,
  plain,
  reachable,
  hand,
  findings,
  open,
  onOpen,
  onWork,
}: {
  chart: Chart;
  naming: Naming;
  plain: 'empty' | 'bars';
  reachable: readonly Stitch[];
  hand: Stitch | null;
  findings: readonly Finding[];
  open: DrawerName | null;
  onOpen: (name: DrawerName | null) => void;
  /** Sets a stitch at the cursor. */
  onWork: (stitch: Stitch) => void;
}) {
  const held = hand && stitchId(hand);
  const opener = (name: DrawerName, label: string, icon: ReactNode) => (
    <button
      type="button"
      aria-pressed={open === name}
      onClick={() => onOpen(open === name ? null : name)}
      className="grid h-12 min-w-12 place-items-center rounded-sm px-1 text-[11.5px] leading-none aria-pressed:bg-wash"
    >
      {icon}
      {label}
    </button>
  );
  return (
    <div className="flex h-14 shrink-0 items-center gap-1 border-t border-rule px-2">
      {opener('stitches', 'Stitches', <Grid2x2Plus size={19} aria-hidden />)}
      {opener('words', 'Words', <AlignLeft size={19} aria-hidden />)}
      {opener('findings', `Findings ${unmeant(findings).length}`, <ListChecks size={19} aria-hidden />)}
      <div
        role="group"
        aria-label="In reach"
        className="ml-1 flex min-w-0 flex-1 gap-1 overflow-x-auto [scrollbar-width:none]"
      >
        {reachable.map((stitch) => (
          <button
            key={stitchId(stitch)}
            type="button"
            aria-label={`Set ${stitchName(stitch, chart, naming)}`}
            aria-pressed={stitchId(stitch) === held}
            onClick={() => onWork(stitch)}
            className="grid h-12 min-w-12 shrink-0 place-items-center rounded-sm border border-slate/40 bg-chalk px-1 aria-pressed:border-peat"
          >
            <StitchDrawing stitch={stitch} chart={chart} plain={plain} height={22} most={64} />
          </button>
        ))}
      </div>
    </div>
  );
}
