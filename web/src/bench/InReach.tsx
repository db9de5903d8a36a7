import { bookOf, isCrossing, kindOf, stitchId, type Chart, type Naming, type Stitch } from '@cordelina/core';
import { ChevronsRight } from 'lucide-react';
import { Toolbar as Bar } from 'radix-ui';
import type { ReactNode } from 'react';
import { stitchName } from '../desk/describe.js';
import { IconButton } from '../ui/Button.js';
import { StitchDrawing } from '../ui/StitchDrawing.js';

/** The word a stitch is written with, or its name where that says more. */
function shortName(stitch: Stitch, chart: Chart, naming: Naming): string {
  const name = stitchName(stitch, chart, naming);
  if (isCrossing(stitch)) return name;
  const { group, rs } = kindOf(stitch, bookOf(chart));
  return group === 'plain' || group === 'gap' ? name : rs.replace(/ ?#/, '');
}

/** The stitches in reach, and which of them is in the hand. */
interface Reach {
  items: readonly { stitch: Stitch; count: number }[];
  hand: Stitch | null;
  chart: Chart;
  naming: Naming;
  plain: 'empty' | 'bars';
  onTake: (stitch: Stitch | null) => void;
}

/** What a button that takes a stitch up, or lays it down, has wherever it stands. */
function takes({ hand, chart, naming, onTake, items }: Reach, i: number) {
  const { stitch, count } = items[i]!;
  const isHeld = hand !== null && stitchId(stitch) === stitchId(hand);
  return {
    'aria-pressed': isHeld,
    title: `${stitchName(stitch, chart, naming)}, used ${count} times. ${i < 9 ? `Key: ${i + 1} then Enter` : ''}`,
    onClick: () => onTake(isHeld ? null : stitch),
  };
}

/** Stitches and crossings the chart uses, most used first: a click or its digit and Enter takes one up. */
export function InReach({
  more,
  ...reach
}: Reach & {
  /** What stands behind each stitch: its card. */
  more: (stitch: Stitch, count: number) => ReactNode;
}) {
  const { items, chart, naming, plain } = reach;
  return (
    <section aria-label="In reach" className="border-b border-rule px-3 pt-2.5 pb-2">
      <h2 className="text-[15px] font-semibold">In reach</h2>
      <p className="text-[12px] text-slate">a number, then Enter, sets it</p>
      <Bar.Root
        orientation="vertical"
        aria-label="Stitches of this chart"
        // The builder below it stays in sight too: many are scrolled through.
        className="mt-1.5 grid max-h-[204px] grid-cols-[minmax(0,1fr)] gap-0.5 overflow-y-auto [scrollbar-width:thin]"
      >
        {items.map(({ stitch, count }, i) => (
          <div key={stitchId(stitch)} className="flex items-center">
            <Bar.Button
              {...takes(reach, i)}
              className="flex h-8 min-w-0 flex-1 items-center gap-1.5 rounded-sm border border-transparent px-1 hover:bg-wash aria-pressed:border-peat aria-pressed:bg-wash"
            >
              <span className="w-3 text-right text-[12px] text-slate">{i < 9 ? i + 1 : ''}</span>
              <StitchDrawing stitch={stitch} chart={chart} plain={plain} height={20} most={48} />
              <span className="truncate font-mono text-[12.5px]">{shortName(stitch, chart, naming)}</span>
              <span className="ml-auto text-[12px] text-slate">{count || ''}</span>
            </Bar.Button>
            {more(stitch, count)}
          </div>
        ))}
      </Bar.Root>
    </section>
  );
}

/** The same as a strip of pictures, where the edge is folded. */
export function ReachStrip({
  onOpen,
  palette,
  ...reach
}: Reach & {
  onOpen: () => void;
  /** Where any other stitch is sought. */
  palette: ReactNode;
}) {
  const { items, chart, naming, plain } = reach;
  return (
    <aside
      aria-label="Stitches"
      className="flex w-[56px] shrink-0 flex-col items-center overflow-x-hidden overflow-y-auto border-r border-rule py-1.5 [scrollbar-width:none]"
    >
      <IconButton name="Open the stitches" keys="B" onClick={onOpen}>
        <ChevronsRight size={16} aria-hidden />
      </IconButton>
      {palette}
      <Bar.Root orientation="vertical" aria-label="Stitches of this chart" className="mt-1 grid gap-1">
        {items.map(({ stitch }, i) => (
          <Bar.Button
            key={stitchId(stitch)}
            {...takes(reach, i)}
            aria-label={stitchName(stitch, chart, naming)}
            className="grid h-11 w-12 place-items-center rounded-sm border border-transparent hover:bg-wash aria-pressed:border-peat aria-pressed:bg-wash"
          >
            <StitchDrawing stitch={stitch} chart={chart} plain={plain} height={18} most={42} />
            <span aria-hidden className="text-[11px] leading-none text-slate">
              {i < 9 ? i + 1 : ''}
            </span>
          </Bar.Button>
        ))}
      </Bar.Root>
    </aside>
  );
}
