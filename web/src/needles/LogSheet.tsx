import {
  finishedRows,
  type Finished,
  gramsPerLoop,
  leftFrom,
  paceOf,
  titleOf,
  type At,
  type Edition,
  type Job,
  type Knitting,
} from '@cordelina/core';
import { max, min } from 'd3-array';
import { scaleLinear, scaleTime } from 'd3-scale';
import { format } from 'date-fns';
import { useMemo, useState } from 'react';
import { useAppDispatch } from '../desk/state/index.js';
import { changeKnitting, putSkein, takeSkein } from '../desk/state/needles.js';
import { useSwatches } from '../desk/useSwatches.js';
import { Button } from '../ui/Button.js';
import { Choose, Field, Input } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';
import { usePaneSize } from '../ui/usePaneSize.js';

const hoursText = (hours: number): string =>
  hours < 1 ? `${Math.max(1, Math.round(hours * 60))} minutes` : `${hours.toFixed(hours < 10 ? 1 : 0)} hours`;

/** Rows by time, what is left by her own pace, skeins, and when the hands rest. */
export function LogSheet({
  job,
  at,
  knitting,
  edition,
  onClose,
}: {
  job: Job;
  at: At;
  knitting: Knitting;
  edition: Edition;
  onClose: () => void;
}) {
  const dispatch = useAppDispatch();
  const swatches = useSwatches();
  const { id, log, skeins, rest } = knitting;
  // A weighed swatch of the design's charts tells what a loop weighs.
  const weighed = swatches.map(gramsOf(edition)).find((g) => g !== null) ?? null;
  const pace = useMemo(() => paceOf(job, log), [job, log]);
  const left = useMemo(() => leftFrom(job, at.row, pace, weighed), [job, at.row, pace, weighed]);
  const [lot, setLot] = useState('');
  const rows = Object.entries(skeins).sort(([, a], [, b]) => a.row - b.row || a.at - b.at);
  return (
    <SheetDialog open wide onOpenChange={(open) => !open && onClose()} title="Rows, hours and skeins">
      <div className="grid gap-4">
        <dl className="grid grid-cols-2 gap-x-6 gap-y-1" data-testid="pace">
          <dt className="text-slate">Worked</dt>
          <dd>
            {at.row} of {job.rows.length} rows
          </dd>
          <dt className="text-slate">Your pace</dt>
          <dd>
            {pace.rowsAnHour === null
              ? 'not known yet: it is told after three rows'
              : `${pace.rowsAnHour.toFixed(1)} rows an hour, over ${hoursText(pace.hours)}`}
          </dd>
          <dt className="text-slate">Left</dt>
          <dd>
            {left.rows} rows, {left.loops} loops
            {left.hours !== null && `, about ${hoursText(left.hours)}`}
            {left.grams !== null && `, about ${Math.ceil(left.grams)} g of yarn`}
          </dd>
        </dl>
        <RowsByTime job={job} log={log} />
        <section className="grid gap-2">
          <h3 className="text-[17px] font-semibold">Skeins</h3>
          {rows.length === 0 && (
            <p className="text-slate">
              Write down each skein as you begin or join it, so that a dye lot can be found again.
            </p>
          )}
          <ul className="grid gap-1">
            {rows.map(([key, { lot: of, row }]) => (
              <li key={key} className="flex items-center gap-2">
                <span className="mr-auto">
                  {of || 'a skein'}, begun in{' '}
                  {row < job.rows.length ? titleOf(job, row).text.toLowerCase() : 'the last row'}
                </span>
                <Button onClick={() => dispatch(takeSkein(id, key))}>Take out</Button>
              </li>
            ))}
          </ul>
          <form
            className="flex items-end gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              dispatch(putSkein(id, { lot: lot.trim(), row: at.row }));
              setLot('');
            }}
          >
            <Field label="Skein and dye lot">
              {(props) => (
                <Input {...props} maxLength={80} value={lot} onChange={(e) => setLot(e.target.value)} />
              )}
            </Field>
            <Button type="submit" className="min-h-11">
              Joined in this row
            </Button>
          </form>
        </section>
        <Choose
          label="Remind me to rest my hands"
          value={rest ?? 0}
          onChange={(to) => dispatch(changeKnitting(id, { rest: to || null }))}
          options={[
            [0, 'never'],
            [20, 'after 20 minutes'],
            [30, 'after 30 minutes'],
            [45, 'after 45 minutes'],
            [60, 'after an hour'],
          ]}
        />
      </div>
    </SheetDialog>
  );
}

const gramsOf =
  ({ document }: Edition) =>
  (swatch: Parameters<typeof gramsPerLoop>[0]) =>
    swatch.of?.design === document.id ? gramsPerLoop(swatch) : null;

const [HIGH, PAD] = [150, 34];

/** Which row was finished when. */
function RowsByTime({ job, log }: { job: Job; log: Knitting['log'] }) {
  const {
    ref,
    size: { width },
  } = usePaneSize();
  const rows = useMemo(() => finishedRows(log), [log]);
  if (rows.length < 2) return null;
  return <div ref={ref}>{width > 0 && <Plot job={job} rows={rows} wide={width} />}</div>;
}

function Plot({ job, rows, wide }: { job: Job; rows: readonly Finished[]; wide: number }) {
  const times = rows.map(({ at }) => at);
  const x = scaleTime([new Date(min(times)!), new Date(max(times)!)], [PAD, wide - 8]);
  const y = scaleLinear([0, max(rows, ({ row }) => row)! + 1], [HIGH - 22, 8]);
  const path = rows
    .map(({ row, at }, i) => `${i ? 'L' : 'M'}${x(new Date(at)).toFixed(1)} ${y(row + 1).toFixed(1)}`)
    .join('');
  return (
    <svg
      role="img"
      aria-label={`${rows.length} rows finished between ${format(times[0]!, 'd MMM HH:mm')} and ${format(times.at(-1)!, 'd MMM HH:mm')}`}
      viewBox={`0 0 ${wide} ${HIGH}`}
      width={wide}
      height={HIGH}
      className="charted block border border-rule bg-chalk"
    >
      {y.ticks(4).map((row) => (
        <g key={row}>
          <line x1={PAD} x2={wide} y1={y(row)} y2={y(row)} stroke="var(--color-rule)" />
          <text x={PAD - 4} y={y(row) + 4} fontSize={11} textAnchor="end" fill="var(--color-slate)">
            {row}
          </text>
        </g>
      ))}
      {x.ticks(Math.max(2, Math.floor(wide / 130))).map((time) => (
        <text
          key={+time}
          x={x(time)}
          y={HIGH - 6}
          fontSize={11}
          textAnchor="middle"
          fill="var(--color-slate)"
        >
          {format(time, +times.at(-1)! - times[0]! > 86_400_000 ? 'd MMM' : 'HH:mm')}
        </text>
      ))}
      <path d={path} fill="none" stroke="var(--color-woad)" strokeWidth={2} />
      {rows.length < 200 &&
        rows.map(({ row, at }) => (
          <circle key={row} cx={x(new Date(at))} cy={y(row + 1)} r={2.5} fill="var(--color-woad)" />
        ))}
      <title>{`Rows of ${job.rows.length} by time`}</title>
    </svg>
  );
}
