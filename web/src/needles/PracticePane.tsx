import {
  chartName,
  crossingsUsed,
  nameOf,
  namingOf,
  practiceChart,
  simpleCrossing,
  type Crossing,
  type Design,
} from '@cordelina/core';
import { useMemo, useState } from 'react';
import { chartIn } from '../desk/state/bench.js';
import { useAppSelector } from '../desk/state/index.js';
import { useProof } from '../workers/useProof.js';
import { Choose } from '../ui/Field.js';
import { ChartPicture } from '../ui/ChartPicture.js';
import { SmallCloth } from '../ui/fabric/SmallCloth.js';

/** Crossings that anyone may practise, whatever the design has: stitches in front and behind, and whether it is purled behind. */
const COMMON: readonly (readonly [number, number, 'k' | 'p'])[] = [
  [1, 1, 'k'],
  [2, 1, 'p'],
  [2, 2, 'k'],
  [3, 3, 'k'],
];

/** A crossing as a small swatch: its own sheet, and what it must look like from both sides. */
export function PracticePane({ design }: { design: Design }) {
  const [at, setAt] = useState(0);
  const chartId = useAppSelector((s) => s.bench.chart);
  const onTheBench = chartIn(design, chartId);
  const all = useMemo((): [string, Crossing][] => {
    const own = design.charts.flatMap((chart) => {
      const naming = namingOf(design.settings, chart);
      return crossingsUsed(chart).map((c): [string, Crossing] => [
        `${nameOf(c, naming, 'RS') ?? 'a crossing'} of ${chartName(design, chart)}`,
        c,
      ]);
    });
    const naming = namingOf(design.settings, onTheBench);
    const common = COMMON.flatMap(([front, back, under]) =>
      (['left', 'right'] as const).map((lean): [string, Crossing] => {
        const c = simpleCrossing(lean, front, back, under);
        return [nameOf(c, naming, 'RS') ?? `${front}/${back} ${lean}`, c];
      }),
    );
    return [...new Map([...own, ...common].reverse().map((one) => [one[0], one])).values()].reverse();
  }, [design, onTheBench]);
  const [name, crossing] = all[Math.min(at, all.length - 1)]!;
  const way = onTheBench.construction;
  const chart = useMemo(() => practiceChart(crossing, way), [crossing, way]);
  const swatch = useMemo<Design>(() => ({ ...design, charts: [chart], piece: null }), [design, chart]);
  const { proved } = useProof(swatch);
  return (
    <div className="grid max-w-[920px] gap-4">
      <div className="no-print max-w-[340px]">
        <Choose
          label="Crossing"
          value={Math.min(at, all.length - 1)}
          onChange={setAt}
          options={all.map(([n], i) => [i, n] as const)}
        />
      </div>
      <div className="flex flex-wrap gap-6">
        <section className="grid content-start gap-2">
          <h2 className="text-[18px] font-semibold">A swatch of {name}</h2>
          <div className="w-max max-w-full overflow-hidden bg-white">
            <ChartPicture
              chart={chart}
              settings={design.settings}
              rows={{ from: 0, to: chart.rows.length - 1 }}
              columns={{ from: 0, to: chart.width - 1 }}
              cell={24}
              label={`Chart of the swatch: ${name}`}
            />
          </div>
          <pre
            className="max-w-[440px] font-mono text-[14px] whitespace-pre-wrap"
            data-testid="practice-sheet"
          >
            {proved ? proved.text : 'Writing …'}
          </pre>
          {proved && (
            <p className={proved.checked ? 'text-lichen' : 'text-madder'}>
              {proved.checked ? '✓ proved' : 'not proved'}
            </p>
          )}
        </section>
        <section className="grid content-start gap-3" aria-label="What it must look like">
          <figure>
            <SmallCloth chart={chart} width={300} height={190} fill={false} />
            <figcaption className="text-[14px] text-slate">From the right side</figcaption>
          </figure>
          <figure>
            <SmallCloth chart={chart} width={300} height={190} fill={false} side="WS" />
            <figcaption className="text-[14px] text-slate">From the wrong side</figcaption>
          </figure>
          <p className="max-w-[300px] text-[14px] text-slate">
            The crossing lies in rows{' '}
            {chart.rows
              .flatMap((row, r) => (row.some((s) => typeof s !== 'string') ? [r + 1] : []))
              .join(' and ')}
            . From behind it leans the same way, with the other group in front.
          </p>
        </section>
      </div>
    </div>
  );
}
