import {
  isCrossing,
  simpleCrossing,
  stitchUse,
  type Chart,
  type Crossing,
  type Design,
  type Naming,
  type Stitch,
} from '@cordelina/core';
import { ChevronsLeft } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { bench } from '../desk/state/bench.js';
import { useAppDispatch } from '../desk/state/index.js';
import { IconButton } from '../ui/Button.js';
import { Builder } from './Builder.js';
import { InReach } from './InReach.js';
import { StitchCard } from './StitchCard.js';

/** The stitches a chart uses, the crossings first, most used first; knit, purl and no stitch last. */
export const useInReach = (chart: Chart): { stitch: Stitch; count: number }[] =>
  useMemo(() => {
    const used = stitchUse(chart);
    const crossings = used.filter((u) => isCrossing(u.stitch));
    const others = used.filter((u) => !isCrossing(u.stitch) && !['k', 'p', 'none'].includes(u.stitch));
    const count = (id: string) => used.find((u) => u.stitch === id)?.count ?? 0;
    const plain = ['k', 'p', 'none'].map((stitch) => ({ stitch, count: count(stitch) }));
    return [...crossings, ...others, ...plain];
  }, [chart]);

/** The width of the edge with the stitches, open and folded to a strip of pictures. */
export const STITCHES = { open: 220, folded: 56 } as const;

/** The edge with the stitches: the builder of crossings, the palette, and what lies in reach. */
export function StitchEdge({
  chart,
  settings,
  naming,
  hand,
  inReach,
  narrow,
  palette,
  onTake,
  onFold,
}: {
  chart: Chart;
  settings: Design['settings'];
  naming: Naming;
  hand: Stitch | null;
  inReach: readonly { stitch: Stitch; count: number }[];
  narrow: boolean;
  /** Where any other stitch is sought. */
  palette: ReactNode;
  onTake: (stitch: Stitch | null) => void;
  onFold: () => void;
}) {
  const dispatch = useAppDispatch();
  // The builder shows the crossing in hand, or else the one last built or held.
  const [lastBuilt, setBuilt] = useState<Crossing>(() => simpleCrossing('left', 2, 2));
  const inHand = hand !== null && isCrossing(hand);
  if (inHand && hand !== lastBuilt) setBuilt(hand);
  const built = inHand ? hand : lastBuilt;
  const others = useMemo(() => inReach.map((u) => u.stitch), [inReach]);
  return (
    <aside
      aria-label="Stitches"
      style={{ width: STITCHES.open }}
      className={`shrink-0 overflow-y-auto overflow-x-hidden border-r border-rule [scrollbar-gutter:stable] [scrollbar-width:thin] ${narrow ? 'h-full pt-10' : ''}`}
    >
      {!narrow && (
        <span className="float-right mt-1.5 mr-1">
          <IconButton name="Fold the stitches" keys="B" onClick={onFold}>
            <ChevronsLeft size={16} aria-hidden />
          </IconButton>
        </span>
      )}
      <InReach
        items={inReach}
        hand={hand}
        chart={chart}
        naming={naming}
        plain={settings.plain}
        onTake={onTake}
        more={(stitch, count) => (
          <StitchCard stitch={stitch} count={count} chart={chart} settings={settings} others={others} />
        )}
      />
      <Builder
        built={built}
        onBuild={(crossing) => {
          setBuilt(crossing);
          if (inHand) dispatch(bench.tookUp(crossing));
        }}
        onTake={() => onTake(inHand ? null : built)}
        inHand={inHand}
        naming={naming}
        hand={settings.hand}
        construction={chart.construction}
        onRefuse={(text) => dispatch(bench.said({ text, tone: 'refused' }))}
      />
      <div className="px-3 pt-3">{palette}</div>
    </aside>
  );
}
