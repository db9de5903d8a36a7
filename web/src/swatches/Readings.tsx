import {
  averaged,
  countOver,
  LONGEST,
  OVER,
  TOKENS,
  typedLength,
  typedNumber,
  typedText,
  UNIT,
  type Gauge,
} from '@cordelina/core';
import { scaleLinear } from 'd3-scale';
import { Plus, X } from 'lucide-react';
import { useId, useRef, useState } from 'react';
import { IconButton } from '../ui/Button.js';
import { Entry } from '../ui/Entry.js';
import { OVER_TEXT, percent, type Unit } from './swatch-facts.js';

/**
 * What was counted between two marks, at several places of a swatch. A reading is typed as a count and the distance of its
 * marks, and is one when both were typed; Enter begins another.
 */
export function Readings({
  title,
  what,
  readings,
  unit,
  onChange,
}: {
  title: string;
  what: 'stitches' | 'rows';
  readings: readonly Gauge[];
  unit: Unit;
  onChange: (readings: Gauge[]) => void;
}) {
  const id = useId();
  const list = useRef<HTMLOListElement>(null);
  const average = readings.length ? averaged(readings) : null;
  const put = (i: number, reading: Partial<Gauge>) =>
    readings.map((r, k) => (k === i ? { ...r, ...reading } : r));
  /** A reading that is being taken: nothing of it is measured until both its numbers were typed. */
  const [begun, setBegun] = useState<Partial<Gauge> | null>(null);
  const begin = () => {
    setBegun({});
    setTimeout(() => list.current?.querySelector<HTMLInputElement>('li:last-of-type input')?.focus());
  };
  const take = (typed: Partial<Gauge>, isEnter: boolean) => {
    const { count, over } = { ...begun, ...typed };
    if (count === undefined || over === undefined) {
      setBegun({ ...begun, ...typed });
      // Enter goes on to the number that is still missing.
      if (isEnter)
        list.current
          ?.querySelector<HTMLInputElement>(
            `li:last-of-type [data-of=${count === undefined ? 'count' : 'over'}]`,
          )
          ?.focus();
      return;
    }
    onChange([...readings, { count, over }]);
    if (isEnter) begin();
    else setBegun(null);
  };
  return (
    <section aria-labelledby={id} className="grid gap-1.5">
      <div className="flex items-center gap-2">
        <h3 id={id} className="font-sans text-[14px] font-semibold">
          {title}
        </h3>
        {average && (
          <span className="text-[13.5px]">
            {countOver(average.gauge, OVER[unit]).toFixed(1)} in {OVER_TEXT[unit]}
            {readings.length > 1 && <span className="text-slate">, spread {percent(average.spread)}</span>}
          </span>
        )}
        <IconButton
          name={`Add a reading: ${title.toLowerCase()}`}
          className="ml-auto h-7 w-7"
          onClick={begin}
        >
          <Plus size={15} aria-hidden />
        </IconButton>
      </div>
      {(readings.length > 0 || begun) && (
        <ol ref={list} className="grid gap-1">
          {readings.map((reading, i) => (
            <li key={i} className="grid gap-0.5">
              <div className="flex items-start gap-1.5 text-[14px]">
                <Numbers
                  i={i}
                  what={what}
                  unit={unit}
                  reading={reading}
                  onType={(typed, isEnter) => {
                    if (Object.keys(typed).length) onChange(put(i, typed));
                    if (isEnter) begin();
                  }}
                />
                <IconButton
                  name={`Take out reading ${i + 1}`}
                  className="ml-auto"
                  onClick={() => onChange(readings.filter((_, k) => k !== i))}
                >
                  <X size={14} aria-hidden />
                </IconButton>
              </div>
              {average!.far.includes(i) && (
                <p role="status" className="text-[13px] text-madder">
                  This one lies far from the others ({countOver(reading, OVER[unit]).toFixed(1)} in{' '}
                  {OVER_TEXT[unit]}): was it counted between the same marks?
                </p>
              )}
            </li>
          ))}
          {begun && (
            <li className="grid gap-0.5">
              <div className="flex items-start gap-1.5 text-[14px]">
                <Numbers
                  i={readings.length}
                  what={what}
                  unit={unit}
                  reading={begun}
                  like={readings.at(-1)}
                  onType={take}
                />
                <IconButton
                  name={`Take out reading ${readings.length + 1}`}
                  className="ml-auto"
                  onClick={() => setBegun(null)}
                >
                  <X size={14} aria-hidden />
                </IconButton>
              </div>
              <p className="text-[13px] text-slate">It counts when both its numbers are typed.</p>
            </li>
          )}
        </ol>
      )}
      {readings.length > 0 && <Ruler readings={readings} unit={unit} what={what} />}
    </section>
  );
}

/** The two numbers of a reading: what was counted, and between marks how far apart. */
function Numbers({
  i,
  what,
  unit,
  reading,
  like,
  onType,
}: {
  i: number;
  what: string;
  unit: Unit;
  reading: Partial<Gauge>;
  like?: Gauge;
  onType: (typed: Partial<Gauge>, isEnter: boolean) => void;
}) {
  return (
    <>
      <div className="w-16">
        <Entry
          label={`${what}, reading ${i + 1}`}
          isHidden
          inputMode="decimal"
          data-of="count"
          className="text-right"
          text={reading.count === undefined ? '' : String(reading.count)}
          read={(t) => typedNumber(t, { what: 'A count', least: 0.5, most: 2000, isWhole: false })}
          onCommit={(count) => onType({ count }, false)}
          onEnter={(count) => onType(count === undefined ? {} : { count }, true)}
        />
      </div>
      <span className="pt-1.5 text-slate">{what} in</span>
      <div className="w-20">
        <Entry
          label={`between the marks, reading ${i + 1}, in ${unit}`}
          isHidden
          data-of="over"
          className="text-right"
          placeholder={like && reading.over === undefined ? typedText(like.over, unit) : undefined}
          text={reading.over === undefined ? '' : typedText(reading.over, unit)}
          read={(t) => typedLength(t, unit, { what: 'The distance', least: UNIT.mm, most: LONGEST / 5 })}
          onCommit={(over) => onType({ over }, false)}
          onEnter={(over) => onType(over === undefined ? {} : { over }, true)}
        />
      </div>
      <span className="pt-1.5 text-slate">{unit}</span>
    </>
  );
}

const WIDE = 320;
const MARKS = 14;
const STEP = 12;

/** A ruler with the readings laid along it: so far apart were the marks, and so many lie between them. */
function Ruler({ readings, unit, what }: { readings: readonly Gauge[]; unit: Unit; what: string }) {
  const longest = Math.max(OVER[unit], ...readings.map((r) => r.over));
  const x = scaleLinear()
    .domain([0, longest / UNIT[unit]])
    .range([4, WIDE - 4]);
  const high = MARKS + readings.length * STEP + 4;
  const ticks = x.ticks(10);
  return (
    <svg viewBox={`0 0 ${WIDE} ${high}`} aria-hidden className="charted w-full">
      <line x1={x(0)} x2={x.range()[1]} y1={MARKS} y2={MARKS} stroke={TOKENS.slate} />
      {ticks.map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={MARKS} y2={MARKS - 4} stroke={TOKENS.slate} />
          <text x={x(t)} y={9} textAnchor="middle" className="fill-slate text-[9px]">
            {t}
          </text>
        </g>
      ))}
      {readings.map(({ count, over }, i) => {
        const y = MARKS + STEP * (i + 1);
        const end = over / UNIT[unit];
        const each = end / count;
        // One mark a stitch, as far as they can be told apart.
        const marks = x(each) - x(0) < 2 ? 0 : Math.floor(count);
        return (
          <g key={i} stroke={TOKENS.peat}>
            <line x1={x(0)} x2={x(end)} y1={y} y2={y} strokeWidth={0.75} />
            {[0, end].map((at) => (
              <line key={at} x1={x(at)} x2={x(at)} y1={y - 4} y2={y + 4} strokeWidth={1.5} />
            ))}
            {Array.from({ length: marks }, (_, k) => {
              const at = x(k * each);
              const w = x(each) - x(0);
              return what === 'stitches' ? (
                <path
                  key={k}
                  d={`M${at + w * 0.15} ${y - 3}L${at + w / 2} ${y + 2.5}L${at + w * 0.85} ${y - 3}`}
                  fill="none"
                  strokeWidth={0.75}
                />
              ) : (
                <line key={k} x1={at + w / 2} x2={at + w / 2} y1={y - 2.5} y2={y + 2.5} strokeWidth={0.75} />
              );
            })}
          </g>
        );
      })}
    </svg>
  );
}
