import {
  chartName,
  countOver,
  needleText,
  OVER,
  typedNeedle,
  typedNumber,
  weightsAt,
  YARN_WEIGHTS,
  type Chart,
  type Swatch,
} from '@cordelina/core';
import { Copy, Trash2 } from 'lucide-react';
import { useEffect, useState, type ReactNode, type Ref } from 'react';
import { fetchDesign, Refused, ServerAway } from '../sync/server.js';
import { IconButton } from '../ui/Button.js';
import { Entry } from '../ui/Entry.js';
import { Choose, Field } from '../ui/Field.js';
import { SlowText } from '../ui/SlowText.js';
import { OVER_TEXT, percent, type SwatchFacts, type Unit } from './swatch-facts.js';
import { Photo } from './Photo.js';
import { Readings } from './Readings.js';

type Patch = Partial<Omit<Swatch, 'id'>>;

/** One swatch of the book: what was measured, and under it what follows. Every change is kept at once and can be undone. */
export function SwatchPage({
  facts,
  unit,
  titles,
  top,
  onChange,
  onCopy,
  onTakeOut,
}: {
  facts: SwatchFacts;
  unit: Unit;
  titles: Readonly<Record<string, string>>;
  top: Ref<HTMLDivElement>;
  onChange: (label: string, patch: Patch) => void;
  onCopy: () => void;
  onTakeOut: () => void;
}) {
  const { swatch, kept } = facts;
  const set = (patch: Patch) => onChange(Object.keys(patch)[0]!, patch);
  const measured = (state: 'before' | 'after', way: 'stitches' | 'rows', title: string) => (
    <Readings
      title={title}
      what={way}
      unit={unit}
      readings={swatch[state][way]}
      onChange={(readings) => onChange('readings', { [state]: { ...swatch[state], [way]: readings } })}
    />
  );
  // What was not counted is not made up: rows are not stitches.
  const setWhole = (way: 'stitches' | 'rows', n: number | null) => {
    const now = { stitches: null, rows: null, ...swatch.whole, [way]: n };
    set({ whole: now.stitches === null && now.rows === null ? null : now });
  };
  const whole = (way: 'stitches' | 'rows') => (
    <Entry
      label={`${way === 'stitches' ? 'Stitches' : 'Rows'} of it`}
      text={String(swatch.whole?.[way] ?? '')}
      read={(t) => typedNumber(t, { what: 'A count', least: 1, most: 2000 })}
      onCommit={(n) => setWhole(way, n)}
      onEmptied={() => setWhole(way, null)}
    />
  );
  return (
    <section aria-label={`Swatch ${swatch.name}`} className="flex h-full min-h-0 flex-col">
      <header className="flex items-center gap-1 border-b border-rule py-2 pr-2 pl-4">
        <h2 className="min-w-0 flex-1 truncate text-[19px] font-semibold">{swatch.name}</h2>
        <IconButton name="Begin another like it" onClick={onCopy}>
          <Copy size={15} aria-hidden />
        </IconButton>
        <IconButton name="Take it out of the book" onClick={onTakeOut}>
          <Trash2 size={15} aria-hidden />
        </IconButton>
      </header>
      <div ref={top} className="grid min-h-0 flex-1 content-start gap-4 overflow-auto px-4 py-3">
        <WorkedOut facts={facts} unit={unit} />
        <Part title="The swatch">
          <Field label="Name">
            {(props) => (
              <SlowText
                {...props}
                value={swatch.name}
                most={120}
                onCommit={(name) => name.trim() && set({ name })}
              />
            )}
          </Field>
          <Belongs swatch={swatch} titles={titles} onChange={set} />
          <div className="grid grid-cols-2 gap-3">
            <Choose
              label="Cloth"
              value={swatch.cloth}
              onChange={(cloth) => set({ cloth })}
              options={[
                ['cabled', 'Cabled'],
                ['plain', 'Plain, to compare'],
              ]}
            />
            <Choose
              label="Side measured"
              value={swatch.side}
              onChange={(side) => set({ side })}
              options={[
                ['RS', 'Right side'],
                ['WS', 'Wrong side'],
              ]}
            />
            <Entry
              label="Needle"
              placeholder="4, US 6 or UK 8"
              text={swatch.needle === null ? '' : String(swatch.needle)}
              hint={swatch.needle === null ? undefined : needleText(swatch.needle)}
              read={typedNeedle}
              onCommit={(needle) => set({ needle })}
              onEmptied={() => set({ needle: null })}
            />
            <Choose
              label="Weight of yarn"
              value={swatch.weight ?? -1}
              onChange={(weight) => set({ weight: weight < 0 ? null : weight })}
              options={[
                [-1, 'not told'],
                ...YARN_WEIGHTS.map((w) => [w.number, `${w.number} ${w.name}`] as const),
              ]}
            />
            <Text label="Yarn" value={swatch.yarn} onCommit={(yarn) => set({ yarn })} />
            <Text label="Fibre" value={swatch.fibre} onCommit={(fibre) => set({ fibre })} />
          </div>
        </Part>
        <Part title="Washed and dried">
          {measured('after', 'stitches', 'Stitches')}
          {measured('after', 'rows', 'Rows')}
        </Part>
        <Part title="Off the needle">
          {measured('before', 'stitches', 'Stitches before')}
          {measured('before', 'rows', 'Rows before')}
        </Part>
        <Part title="Weighed">
          <div className="grid grid-cols-3 gap-3">
            <Entry
              label="Grams"
              text={swatch.grams === null ? '' : String(swatch.grams)}
              read={(t) => typedNumber(t, { what: 'A weight', least: 0.1, most: 1000, isWhole: false })}
              onCommit={(grams) => set({ grams })}
              onEmptied={() => set({ grams: null })}
            />
            {whole('stitches')}
            {whole('rows')}
          </div>
        </Part>
        <Part title="Photo">
          <Photo key={swatch.id} kept={kept} />
        </Part>
        <Part title="Notes">
          <SlowText
            aria-label="Notes"
            rows={3}
            value={swatch.notes}
            most={4000}
            onCommit={(notes) => set({ notes })}
          />
        </Part>
      </div>
    </section>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <div className="grid gap-2.5">
    <h3 className="border-b border-rule pb-0.5 text-[16px]">{title}</h3>
    {children}
  </div>
);

const Text = ({
  label,
  value,
  onCommit,
}: {
  label: string;
  value: string;
  onCommit: (text: string) => void;
}) => (
  <Field label={label}>
    {(props) => <SlowText {...props} value={value} most={120} onCommit={onCommit} />}
  </Field>
);

/** What follows from what was measured. */
function WorkedOut({ facts, unit }: { facts: SwatchFacts; unit: Unit }) {
  const { swatch, stitches, rows, isWashed, drawIn, plain, wider, longer, gramsPerLoop } = facts;
  const lines: [string, ReactNode][] = [
    [
      'Gauge',
      stitches === undefined && rows === undefined ? (
        'count stitches and rows between two marks'
      ) : (
        <>
          {stitches?.toFixed(1) ?? '–'} sts, {rows?.toFixed(1) ?? '–'} rows in {OVER_TEXT[unit]}
          {!isWashed && stitches !== undefined && ', not washed yet'}
        </>
      ),
    ],
    ...(wider === undefined && longer === undefined
      ? []
      : ([
          [
            'In the wash',
            [
              wider !== undefined && `${percent(wider, true)} across`,
              longer !== undefined && `${percent(longer, true)} up`,
            ]
              .filter(Boolean)
              .join(', '),
          ],
        ] as [string, ReactNode][])),
    ...(swatch.cloth === 'plain'
      ? []
      : ([
          [
            'Draw-in',
            drawIn !== undefined && plain
              ? `${percent(drawIn)} against ${plain.name}`
              : 'no plain swatch of this yarn and needle, measured alike',
          ],
        ] as [string, ReactNode][])),
    [
      'Yarn',
      gramsPerLoop === undefined
        ? 'weigh it, and count all its loops'
        : `${(gramsPerLoop * 1000).toFixed(1)} g in 1000 loops`,
    ],
  ];
  const in10 = stitches !== undefined && swatch.cloth === 'plain' ? (stitches * OVER.cm) / OVER[unit] : null;
  const told = in10 === null ? [] : weightsAt(in10);
  const doubts = swatch.weight !== null && told.length > 0 && !told.some((w) => w.number === swatch.weight);
  return (
    <dl className="grid grid-cols-[84px_1fr] gap-x-3 gap-y-0.5 bg-wash/70 px-3 py-2 text-[14px]">
      {lines.map(([term, said]) => (
        <div key={term} className="contents">
          <dt className="text-slate">{term}</dt>
          <dd>{said}</dd>
        </div>
      ))}
      {doubts && (
        <p className="col-span-2 text-[13px] text-slate">
          By the trade’s table {countOver({ count: in10!, over: OVER.cm }, OVER.cm).toFixed(0)} sts in 10 cm
          of plain cloth is {told.map((w) => w.name).join(' or ')} yarn. Go by the swatch.
        </p>
      )}
    </dl>
  );
}

/** Of which design and chart it is. The charts of a design are fetched when it is chosen. */
function Belongs({
  swatch,
  titles,
  onChange,
}: {
  swatch: Swatch;
  titles: Readonly<Record<string, string>>;
  onChange: (patch: Patch) => void;
}) {
  const design = swatch.of?.design ?? '';
  const [charts, setCharts] = useState<{ of: string; list: { id: string; name: string }[] } | null>(null);
  useEffect(() => {
    if (!design) return;
    let isOld = false;
    fetchDesign(design)
      .then(({ document }) => {
        const list = document.charts.map((c: Chart) => ({ id: c.id, name: chartName(document, c) }));
        if (!isOld) setCharts({ of: design, list });
      })
      .catch((error: unknown) => {
        // Without its design only the names of its charts are missing.
        if (!(error instanceof ServerAway || error instanceof Refused)) throw error;
      });
    return () => {
      isOld = true;
    };
  }, [design]);
  const list = charts?.of === design ? charts.list : [];
  const known = Object.entries(titles);
  return (
    <div className="grid grid-cols-2 gap-3">
      <Choose
        label="Of design"
        value={design}
        onChange={(id) => onChange({ of: id ? { design: id, chart: 'chart' } : null })}
        options={[
          ['', 'none'],
          ...(design && !titles[design] ? [[design, 'a design taken out'] as const] : []),
          ...known,
        ]}
      />
      <Choose
        label="Chart"
        value={swatch.of?.chart ?? ''}
        disabled={!design}
        onChange={(chart) => onChange({ of: { design, chart } })}
        options={
          list.length
            ? list.map(({ id, name }) => [id, name] as const)
            : [[swatch.of?.chart ?? '', design ? '…' : 'none']]
        }
      />
    </div>
  );
}
