import {
  answered,
  chartName,
  readingOf,
  rowTitle,
  sideOf,
  sideSign,
  type Design,
  type Reading,
} from '@cordelina/core';
import { useMemo, useState } from 'react';
import { chartIn } from '../desk/state/bench.js';
import { useAppSelector } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { Choose } from '../ui/Field.js';
import { ChartPicture } from '../ui/ChartPicture.js';

const HANDS = [
  ['right', 'right-handed'],
  ['left-same-fabric', 'left-handed, the same fabric'],
] as const;
const PLAIN = [
  ['empty', 'knit empty, purl a dot'],
  ['bars', 'knit a bar, purl a level bar'],
] as const;

const CELL = 26;
const MOST_WIDE = 24;

/** Rows of the design's own charts to be read: one taps what is worked; what is missed comes again. */
export function ReadingPane({ design }: { design: Design }) {
  const [id, setId] = useState(useAppSelector((s) => s.bench.chart));
  const [hand, setHand] = useState<(typeof HANDS)[number][0]>('right');
  const [plain, setPlain] = useState(design.settings.plain);
  const chart = chartIn(design, id);
  const settings = useMemo(() => ({ ...design.settings, hand, plain }), [design.settings, hand, plain]);
  const begun = useMemo((): Reading | string => {
    try {
      return readingOf(chart, settings);
    } catch (error) {
      return error instanceof Error ? error.message : 'This chart cannot be read row by row.';
    }
  }, [chart, settings]);
  return (
    <div className="grid max-w-[760px] gap-4">
      <div className="grid grid-cols-3 gap-3 max-md:grid-cols-1">
        <Choose
          label="Chart"
          value={chart.id}
          onChange={setId}
          options={design.charts.map((c) => [c.id, chartName(design, c)] as const)}
        />
        <Choose label="Hands" value={hand} onChange={setHand} options={HANDS} />
        <Choose label="Symbols" value={plain} onChange={setPlain} options={PLAIN} />
      </div>
      {typeof begun === 'string' ? (
        <p role="alert">{begun}</p>
      ) : (
        <Tasks key={`${chart.id} ${hand} ${plain}`} begun={begun} design={{ ...design, settings }} />
      )}
    </div>
  );
}

function Tasks({ begun, design }: { begun: Reading; design: Design }) {
  const [reading, setReading] = useState(begun);
  const [said, setSaid] = useState<string | null>(null);
  const now = reading.queue[0];
  const task = now === undefined ? undefined : reading.tasks[now];
  if (!task)
    return (
      <p data-testid="reading-done">
        All {reading.right} are read, {reading.missed} missed on the way.{' '}
        <Button onClick={() => setReading(begun)}>Once more</Button>
      </p>
    );
  const { chart, row, choices, answer, group } = task;
  const tell = (choice: string) => {
    setSaid(choice === answer ? `Yes: ${answer}.` : `Not ${choice}: here it is ${answer}. It comes again.`);
    setReading(answered(reading, choice));
  };
  const from = Math.max(0, row - 3);
  return (
    <section aria-label="Read the chart" className="grid gap-3" data-testid="reading">
      <p className="text-[18px]">
        {rowTitle(chart, row + 1)}, {sideSign(sideOf(chart, row), chart)}: what is worked{' '}
        {group === 0 ? 'first' : `after ${group} ${group === 1 ? 'group' : 'groups'}`}?
      </p>
      <div className="w-max max-w-full overflow-auto bg-white">
        <ChartPicture
          chart={chart}
          settings={design.settings}
          rows={{ from, to: Math.min(chart.rows.length - 1, row + 1) }}
          columns={{ from: 0, to: Math.min(chart.width, MOST_WIDE) - 1 }}
          cell={CELL}
          marked={new Set([row])}
          label={`Rows ${from + 1} to ${row + 1} of the chart`}
        />
      </div>
      <p className="font-mono text-[15px] text-slate">
        {reading.tasks
          .filter((t) => t.row === row && t.group < group)
          .map((t) => t.answer)
          .concat('…')
          .join(', ')}
      </p>
      <div className="flex flex-wrap gap-2">
        {choices.map((choice) => (
          <Button key={choice} className="min-h-11 font-mono text-[16px]!" onClick={() => tell(choice)}>
            {choice}
          </Button>
        ))}
      </div>
      <p role="status" className="min-h-[1.4em]">
        {said}
      </p>
      <p className="text-[14px] text-slate">
        {reading.right} read, {reading.queue.length} to go, {reading.missed} missed.
      </p>
    </section>
  );
}
