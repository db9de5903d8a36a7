import {
  countOver,
  gaugeOf,
  MOST_COUNTED,
  OVER,
  typedNumber,
  type Design,
  type MeasuredCloth,
  type Swatch,
} from '@cordelina/core';
import { Link } from 'react-router';
import { useSwatches } from '../desk/useSwatches.js';
import { Entry } from '../ui/Entry.js';
import { Choose } from '../ui/Field.js';

/** What a swatch gives a piece; null where its stitches were not counted. */
export function measuredOf(swatch: Swatch): MeasuredCloth | null {
  const stitches = gaugeOf(swatch, 'stitches')?.gauge;
  if (!stitches) return null;
  // Several readings add up to one: it is kept as the same proportion, in what a reading may hold.
  const kept = (g: { count: number; over: number }) =>
    g.count <= MOST_COUNTED ? g : { count: (g.count * OVER.cm) / g.over, over: OVER.cm };
  const rows = gaugeOf(swatch, 'rows')?.gauge ?? null;
  return { stitches: kept(stitches), rows: rows && kept(rows), swatch: swatch.id };
}

/** A gauge: taken from a swatch of the book, or typed in. */
export function GaugeField({
  label,
  units,
  design,
  chart,
  cloth,
  value,
  hasRows = false,
  onChange,
}: {
  label: string;
  units: 'cm' | 'in';
  design: Design;
  /** Swatches of this chart are named first. */
  chart: string | null;
  cloth: Swatch['cloth'];
  value: MeasuredCloth | null;
  hasRows?: boolean;
  onChange: (value: MeasuredCloth | null, swatch: Swatch | null) => void;
}) {
  const swatches = useSwatches();
  const isOfThis = ({ of }: Swatch) => of?.design === design.id && (chart === null || of.chart === chart);
  const able = swatches
    .filter((s) => gaugeOf(s, 'stitches') !== null)
    .sort(
      (a, b) =>
        Number(isOfThis(b)) - Number(isOfThis(a)) || Number(b.cloth === cloth) - Number(a.cloth === cloth),
    );
  const taken = value?.swatch ? swatches.find((s) => s.id === value.swatch) : undefined;
  const now = taken && measuredOf(taken);
  const over = OVER[units];
  const isOld =
    value && now && Math.abs(countOver(now.stitches, over) - countOver(value.stitches, over)) > 0.05;
  const told = (of: 'stitches' | 'rows') => {
    const gauge = value?.[of];
    return gauge ? String(Number(countOver(gauge, over).toFixed(2))) : '';
  };
  const read = (t: string) => typedNumber(t, { what: 'A gauge', least: 1, most: 200, isWhole: false });
  const where = units === 'cm' ? '10 cm' : '4 in';
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 text-[14px] font-semibold">{label}</legend>
      <Choose
        label="From a swatch"
        value={value ? (value.swatch ?? 'typed') : ''}
        onChange={(id) => {
          const swatch = swatches.find((s) => s.id === id) ?? null;
          if (swatch) onChange(measuredOf(swatch), swatch);
          else if (id === '') onChange(null, null);
        }}
        options={[
          ['', 'none'],
          ...(value && !value.swatch ? [['typed', 'typed in'] as const] : []),
          ...(value?.swatch && !taken ? [[value.swatch, 'a swatch taken out of the book'] as const] : []),
          ...able.map((s) => [s.id, isOfThis(s) ? `${s.name} (of this design)` : s.name] as const),
        ]}
      />
      <div className="grid grid-cols-2 gap-3">
        <Entry
          label={`Sts in ${where}`}
          inputMode="decimal"
          text={told('stitches')}
          read={read}
          onCommit={(count) =>
            onChange({ rows: null, ...value, stitches: { count, over }, swatch: null }, null)
          }
          onEmptied={() => onChange(null, null)}
        />
        {hasRows && (
          <Entry
            label={`Rows in ${where}`}
            inputMode="decimal"
            disabled={!value}
            text={told('rows')}
            read={read}
            onCommit={(count) => value && onChange({ ...value, rows: { count, over }, swatch: null }, null)}
            onEmptied={() => value && onChange({ ...value, rows: null }, null)}
          />
        )}
      </div>
      {isOld && taken && (
        <p className="text-[13px] text-slate">
          The swatch has been measured again: {countOver(now.stitches, over).toFixed(1)} in {where} now.{' '}
          <button type="button" className="underline" onClick={() => onChange(now, taken)}>
            Go by that
          </button>
        </p>
      )}
      {!able.length && (
        <p className="text-[13px] text-slate">
          No swatch has been measured yet:{' '}
          <Link to="/swatches" className="underline">
            the swatch book
          </Link>
          .
        </p>
      )}
    </fieldset>
  );
}
