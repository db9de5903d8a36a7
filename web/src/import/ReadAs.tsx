import {
  castOnOf,
  ChartSchema,
  wayOf,
  repeatColumns,
  repeatsAcross,
  SAID_SO,
  SettingsSchema,
  timesOf,
  type Chart,
  type Problem,
  type Row,
  type SectionRead,
  counted,
} from '@cordelina/core';
import { MessageSquareOff } from 'lucide-react';
import { useMemo } from 'react';
import { Button } from '../ui/Button.js';
import { ChartPicture } from '../ui/ChartPicture.js';
import { LEVEL_LOOK } from '../ui/levels.js';
import { CorrectChart } from './CorrectChart.js';
import { usePaneSize } from '../ui/usePaneSize.js';

const SETTINGS = SettingsSchema.parse({});
/** The largest picture of a chart in this room, in pixels. */
const TALLEST = 340;

/** What was made of a pattern, in a line. */
function summary(chart: Chart): string {
  const { row, worked } = wayOf(chart);
  const rows = counted(chart.rows.length, row);
  const { start, end } = repeatColumns(chart);
  const repeat = repeatsAcross(chart) ? `, a repeat of ${end - start} columns × ${timesOf(chart)}` : '';
  return `${worked}: ${rows} on ${castOnOf(chart)} stitches${repeat}`;
}

/** One pattern of the text: its chart, and what is to be told of it. */
export function ReadAs({
  section: { reading, title },
  isAlone,
  isReading,
  onShow,
  onCorrect,
  onAside,
}: {
  section: SectionRead;
  isAlone: boolean;
  /** Whether the words have changed since, so that the chart is not theirs. */
  isReading: boolean;
  onCorrect: (r: number, row: Row) => Promise<string | null>;
  onShow: (from: number, to: number) => void;
  /** Says of words that they say nothing of the rows, or no longer so. */
  onAside: (at: { from: number; to: number }, isAside: boolean) => void;
}) {
  const { ref, size } = usePaneSize();
  // Read in another thread: its crossings are made this thread's own.
  const chart = useMemo(() => (reading.chart ? ChartSchema.parse(reading.chart) : null), [reading.chart]);
  // What is asked stands above, with its drawings.
  const problems = reading.problems.filter((p) => !p.ask);
  const asked = reading.questions.length;
  const errors = problems.filter((p) => p.level === 'error').length;
  const marked = useMemo(
    () => new Set(reading.problems.flatMap((p) => (p.row && p.level === 'error' ? [p.row - 1] : []))),
    [reading.problems],
  );
  const cell = chart
    ? Math.max(
        3,
        Math.min(22, Math.floor((size.width - 14) / chart.width), Math.floor(TALLEST / chart.rows.length)),
      )
    : 0;
  const rows = chart && Math.min(chart.rows.length, Math.floor(900 / cell));
  return (
    <section ref={ref} aria-label={title ?? 'The pattern'} className="mb-6 grid gap-3">
      <div>
        {!isAlone && <h2 className="text-[17px] font-semibold">{title ?? 'Without a title'}</h2>}
        <p data-testid="read-as" className={errors ? 'text-madder' : asked ? 'text-weld' : 'text-lichen'}>
          {errors
            ? `${errors} ${errors === 1 ? 'thing does' : 'things do'} not add up.`
            : asked
              ? `${asked} ${asked === 1 ? 'name wants' : 'names want'} an answer first.`
              : chart && `Read whole. ${summary(chart)[0]!.toUpperCase()}${summary(chart).slice(1)}.`}
        </p>
      </div>
      {problems.length > 0 && (
        <ul className="grid gap-1.5">
          {problems.map((problem, i) => (
            <Told
              key={i}
              problem={problem}
              onShow={onShow}
              onAside={CAN_BE_ASIDE.has(problem.id) ? onAside : undefined}
            />
          ))}
        </ul>
      )}
      {chart && rows && size.width > 0 && (
        <div className="overflow-hidden border border-rule bg-chalk p-2">
          <CorrectChart chart={chart} cell={cell} shown={rows} isWaiting={isReading} onCorrect={onCorrect}>
            <ChartPicture
              chart={chart}
              settings={SETTINGS}
              rows={{ from: 0, to: rows - 1 }}
              columns={{ from: 0, to: chart.width - 1 }}
              cell={cell}
              marked={marked}
              label={`Chart of ${chart.width} columns and ${chart.rows.length} rows, as it was read`}
            />
          </CorrectChart>
        </div>
      )}
      {reading.asides.length > 0 && (
        <details className="text-[13px]">
          <summary className="cursor-pointer text-slate select-none">
            {reading.asides.length} {reading.asides.length === 1 ? 'piece' : 'pieces'} of the text left aside
          </summary>
          <ul className="mt-1.5 grid gap-1">
            {reading.asides.map(({ from, to, text, why }) => (
              <li key={from}>
                <button type="button" className="text-left hover:underline" onClick={() => onShow(from, to)}>
                  <span className="font-mono text-[12.5px]">{text.replace(/\s+/g, ' ')}</span>{' '}
                  <span className="text-slate">– {why}</span>
                </button>
                {why === SAID_SO && (
                  <Button className="ml-2 h-6 px-2 text-[12px]" onClick={() => onAside({ from, to }, false)}>
                    Read it after all
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

/** What may say nothing of the rows, if she says so. */
const CAN_BE_ASIDE = new Set(['line-not-read']);

/** One thing to be told; it leads to its words. */
function Told({
  problem: { level, message, at },
  onShow,
  onAside,
}: {
  problem: Problem;
  onShow: (from: number, to: number) => void;
  onAside?: (at: { from: number; to: number }, isAside: boolean) => void;
}) {
  const { Icon, tone, name } = LEVEL_LOOK[level];
  return (
    <li>
      <button
        type="button"
        disabled={!at}
        onClick={() => at && onShow(at.from, at.to)}
        className="flex gap-2 text-left text-[14px] enabled:hover:underline"
      >
        <Icon size={16} className={`mt-0.5 shrink-0 ${tone}`} aria-label={name} />
        <span>{message}</span>
      </button>
      {at && onAside && (
        <Button className="mt-1 ml-6 h-7 px-2 text-[13px]" onClick={() => onAside(at, true)}>
          <MessageSquareOff size={14} aria-hidden /> This says nothing of the rows
        </Button>
      )}
    </li>
  );
}
