import {
  aboutLines,
  chartName,
  mirrorChart,
  planLines,
  rowBodyText,
  rowHeadText,
  type Chart,
  type KeyEntry,
  type ProvedDesign,
} from '@cordelina/core';
import { useMemo } from 'react';
import { useProofState } from '../shell/ProofContext.js';
import { Seal } from '../shell/Seal.js';
import { useAppSelector } from '../store/index.js';
import { chartOnBench, onBench } from '../store/editing.js';
import { ChartSvg } from '../ui/ChartSvg.js';
import { PRINT_INKS } from '../ui/inks.js';
import type { Manner } from '../ui/paint.js';
import { StitchDrawing } from '../ui/StitchDrawing.js';
import { ChartBlocks } from './ChartBlocks.js';
import { StyleEdge } from './StyleEdge.js';

/** The pattern as it will be printed, with names and style beside it and the seal that it has been proved. */
export function WordsRoom() {
  const design = useAppSelector(onBench)!.document;
  const { proved, last } = useProofState();
  const { settings, charts } = design;
  const onTheBench = useAppSelector(chartOnBench)!;
  const manner = useMemo<Manner>(
    () => ({ plain: settings.plain, cords: true, grid: true, colours: settings.colours, inks: PRINT_INKS }),
    [settings.plain, settings.colours],
  );
  const isOne = charts.length === 1;
  return (
    <div className="flex min-h-0 flex-1 print:block">
      <main
        tabIndex={0}
        aria-label="The printed sheet"
        className="min-w-0 flex-1 overflow-auto px-6 py-5 outline-none print:overflow-visible print:p-0"
      >
        <article
          className="mx-auto max-w-[820px] border border-rule bg-chalk px-12 py-10 font-serif shadow-sheet print:max-w-none print:border-0 print:bg-white print:p-0 print:shadow-none"
          data-testid="sheet"
        >
          <h1 className="text-[30px] leading-tight font-semibold">{design.title}</h1>
          {design.notes && <p className="mt-1 text-slate italic print:text-peat">{design.notes}</p>}
          {!last && <p className="mt-6 min-h-[120vh] font-sans text-slate">Writing and proving …</p>}
          {last?.charts.map((written) => (
            <Rows
              key={written.id}
              written={written}
              name={isOne ? null : written.name}
              current={proved !== null}
            />
          ))}
          {last && <Checked current={proved !== null} proved={last} />}
          {charts.map((chart) => (
            <ChartPart
              key={chart.id}
              chart={chart}
              name={isOne ? 'Chart' : chartName(design, chart)}
              title={design.title}
              manner={manner}
              mirrored={settings.hand === 'left-same-words'}
            />
          ))}
          {last && <Key entries={last.key} charts={charts} plain={settings.plain} />}
          <p className="mt-6 text-[13.5px] text-slate italic print:text-peat">
            A count is not a width: swatch this pattern, wash and block it, and measure before casting on.
          </p>
        </article>
      </main>
      <StyleEdge settings={settings} chart={onTheBench} />
    </div>
  );
}

function ChartPart({
  chart,
  name,
  title,
  manner,
  mirrored,
}: {
  chart: Chart;
  name: string;
  title: string;
  manner: Manner;
  mirrored: boolean;
}) {
  return (
    <>
      <h2 className="mt-7 mb-2 text-[20px] font-semibold break-after-avoid">{name}</h2>
      <ChartBlocks chart={chart} manner={manner} title={title} />
      {mirrored && (
        <figure className="mt-5 break-inside-avoid">
          <ChartSvg chart={mirrorChart(chart)} manner={manner} label="The cloth of a left-handed knitter" />
          <figcaption className="mt-1 text-[14px] italic">
            Worked with the left hand by the same words, the cloth comes out as its mirror image.
          </figcaption>
        </figure>
      )}
    </>
  );
}

/** The written rows of one chart; under its name where there are several. */
function Rows({
  written: { pattern },
  name,
  current,
}: {
  written: ProvedDesign['charts'][number];
  name: string | null;
  current: boolean;
}) {
  const rows = pattern.head.construction === 'round' ? 'Rounds' : 'Rows';
  return (
    <section aria-label={name ?? rows}>
      {name && <h2 className="mt-6 text-[20px] font-semibold break-after-avoid">{name}</h2>}
      <p className={`${name ? 'mt-1' : 'mt-5'} text-[16px]`}>{aboutLines(pattern, manner).join(' ')}</p>
      <h3 className="mt-4 mb-1.5 text-[18px] font-semibold break-after-avoid">{rows}</h3>
      <ol className={`grid gap-1 ${current ? '' : 'opacity-60'}`} data-testid="rows">
        {pattern.rows.map((line) => (
          <li
            key={line.numbers[0]}
            className="grid break-inside-avoid grid-cols-[116px_1fr] gap-2 text-[15px] leading-snug"
          >
            <span className="font-semibold">{rowHeadText(line, manner)}</span>
            <span className="font-mono text-[13.5px]">{rowBodyText(line, manner)}</span>
          </li>
        ))}
      </ol>
      <p className="mt-3 text-[16px]">{planLines(pattern).join(' ')}</p>
    </section>
  );
}

function Checked({ current, proved }: { current: boolean; proved: ProvedDesign }) {
  return (
    <>
      <p className="mt-3 font-sans print:hidden">
        <Seal long />
      </p>
      {current && proved.checked && (
        <p className="mt-3 hidden text-[13px] print:block">
          Checked: these words were read back, worked on a needle and found equal to the{' '}
          {proved.charts.length > 1 ? 'charts' : 'chart'}, stitch by stitch.
        </p>
      )}
    </>
  );
}

function Key({
  entries,
  charts,
  plain,
}: {
  entries: readonly KeyEntry[];
  charts: readonly Chart[];
  plain: 'empty' | 'bars';
}) {
  const holds = (stitch: KeyEntry['stitch']) =>
    charts.find(({ own }) => own.some((o) => o.id === stitch)) ?? charts[0]!;
  return (
    <>
      <h2 className="mt-7 mb-2 text-[20px] font-semibold break-after-avoid">Key</h2>
      <ul className="grid gap-2.5" data-testid="key">
        {entries.map((entry, i) => (
          <li key={i} className="grid break-inside-avoid grid-cols-[120px_1fr_56px] items-start gap-3">
            <StitchDrawing
              stitch={entry.stitch}
              chart={holds(entry.stitch)}
              plain={plain}
              height={22}
              most={116}
              inks={PRINT_INKS}
            />
            <div className="text-[14.5px] leading-snug">
              <span className="font-semibold">{entry.name}</span>
              {entry.sides.map(({ side, word, steps, loose }) => (
                <p key={side}>
                  {entry.sides.length > 1 || side === 'WS' ? (
                    <span className="text-slate print:text-peat">{side} </span>
                  ) : null}
                  {!word.startsWith('(') && word.replace(/ ?#/, '') !== entry.name && (
                    <span className="font-mono text-[13px]">{word.replace(/ ?#/, '')}: </span>
                  )}
                  {steps}
                  {loose && <span className="block italic">without a cable needle: {loose}</span>}
                </p>
              ))}
            </div>
            <span
              className="text-right text-[13.5px] text-slate print:text-peat"
              title="loops taken and made"
            >
              {entry.takes} → {entry.makes}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
