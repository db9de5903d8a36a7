import { mirrorChart, SCHOOL_NOTES, SCHOOLS, type KeyEntry, type Settings } from '@cordelina/core';
import { Printer } from 'lucide-react';
import { useMemo } from 'react';
import { useProved } from '../shell/ProofContext.js';
import { Seal } from '../shell/Seal.js';
import { editHead } from '../store/editing.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { Button } from '../ui/Button.js';
import { ChartSvg } from '../ui/ChartSvg.js';
import { Field, Select } from '../ui/Field.js';
import { PRINT_INKS } from '../ui/inks.js';
import type { Manner } from '../ui/paint.js';
import { StitchDrawing } from '../ui/StitchDrawing.js';
import type { Proved } from '../workers/useProof.js';

/** The pattern as it will be printed, with names and style beside it and the seal that it has been proved. */
export function WordsRoom() {
  const design = useAppSelector((s) => s.bench.design)!;
  const proved = useProved();
  const { settings } = design;
  const chart = design.charts[0]!;
  const manner = useMemo<Manner>(
    () => ({ plain: settings.plain, cords: true, grid: true, colours: settings.colours, inks: PRINT_INKS }),
    [settings.plain, settings.colours],
  );
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
          {proved ? (
            <Pattern proved={proved} round={chart.construction === 'round'} />
          ) : (
            <p className="mt-6 font-sans text-slate">Writing and proving …</p>
          )}
          <h2 className="mt-7 mb-2 text-[20px] font-semibold break-after-avoid">Chart</h2>
          <div className="break-inside-avoid">
            <ChartSvg
              chart={chart}
              manner={manner}
              label={`Chart of ${design.title}: ${chart.width} columns, ${chart.rows.length} rows`}
            />
          </div>
          {settings.hand === 'left-same-words' && (
            <figure className="mt-5 break-inside-avoid">
              <ChartSvg
                chart={mirrorChart(chart)}
                manner={manner}
                label="The cloth of a left-handed knitter"
              />
              <figcaption className="mt-1 text-[14px] italic">
                Worked with the left hand by the same words, the cloth comes out as its mirror image.
              </figcaption>
            </figure>
          )}
          {proved && <Key entries={proved.key} chart={chart} plain={settings.plain} />}
          <p className="mt-6 text-[13.5px] text-slate italic print:text-peat">
            A count is not a width: swatch this pattern, wash and block it, and measure before casting on.
          </p>
        </article>
      </main>
      <StyleEdge settings={settings} />
    </div>
  );
}

function Pattern({ proved, round }: { proved: Proved; round: boolean }) {
  // The text as it was proved: what is above the rows, the rows, and how they follow each other.
  const lines = proved.text.split('\n');
  const isRow = (l: string) => /^(Row|Round) \d/.test(l);
  const firstRow = lines.findIndex(isRow);
  const keyAt = lines.indexOf('Key');
  const head = lines.slice(0, firstRow).filter(Boolean);
  const rows = lines.slice(firstRow, keyAt).filter(isRow);
  const plan = lines.slice(firstRow, keyAt).filter((l) => l && !isRow(l));
  return (
    <>
      <p className="mt-5 text-[16px]">{head.join(' ')}</p>
      <h2 className="mt-6 mb-1.5 text-[20px] font-semibold break-after-avoid">{round ? 'Rounds' : 'Rows'}</h2>
      <ol className="grid gap-1" data-testid="rows">
        {rows.map((line, i) => {
          const at = line.indexOf(':');
          return (
            <li
              key={i}
              className="grid break-inside-avoid grid-cols-[116px_1fr] gap-2 text-[15px] leading-snug"
            >
              <span className="font-semibold">{line.slice(0, at)}</span>
              <span className="font-mono text-[13.5px]">{line.slice(at + 2)}</span>
            </li>
          );
        })}
      </ol>
      <p className="mt-3 text-[16px]">{plan.join(' ')}</p>
      <p className="mt-3 font-sans print:hidden">
        <Seal long />
      </p>
      {proved.checked && (
        <p className="mt-3 hidden text-[13px] print:block">
          Checked: these words were read back, worked on a needle and found equal to the chart, stitch by
          stitch.
        </p>
      )}
    </>
  );
}

function Key({
  entries,
  chart,
  plain,
}: {
  entries: readonly KeyEntry[];
  chart: Parameters<typeof StitchDrawing>[0]['chart'];
  plain: 'empty' | 'bars';
}) {
  return (
    <>
      <h2 className="mt-7 mb-2 text-[20px] font-semibold break-after-avoid">Key</h2>
      <ul className="grid gap-2.5" data-testid="key">
        {entries.map((entry, i) => (
          <li key={i} className="grid break-inside-avoid grid-cols-[120px_1fr_56px] items-start gap-3">
            <StitchDrawing
              stitch={entry.stitch}
              chart={chart}
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

/** How the words are written; every change is an edit like any other and can be undone on the bench. */
function StyleEdge({ settings }: { settings: Settings }) {
  const dispatch = useAppDispatch();
  const set = (patch: Partial<Settings>) =>
    dispatch(editHead('style of the words', { settings: { ...settings, ...patch } }));
  const style = (patch: Partial<Settings['style']>) => set({ style: { ...settings.style, ...patch } });
  return (
    <aside
      aria-label="Style of the words"
      className="no-print flex w-[236px] shrink-0 flex-col gap-3.5 overflow-auto border-l border-rule px-4 py-4"
    >
      <Field
        label="Names of crossings"
        hint={`${SCHOOL_NOTES[settings.school].example}: ${SCHOOL_NOTES[settings.school].meaning}`}
      >
        {(props) => (
          <Select
            {...props}
            value={settings.school}
            onChange={(e) => set({ school: e.target.value as Settings['school'] })}
          >
            {SCHOOLS.map((s) => (
              <option key={s} value={s}>
                {SCHOOL_NOTES[s].title}
              </option>
            ))}
          </Select>
        )}
      </Field>
      <Field label="Wrong-side rows that only repeat the faces">
        {(props) => (
          <Select
            {...props}
            value={settings.style.wsRows}
            onChange={(e) => style({ wsRows: e.target.value as 'written' })}
          >
            <option value="written">written out</option>
            <option value="presented">as they present</option>
          </Select>
        )}
      </Field>
      <Field label="Stitch counts">
        {(props) => (
          <Select
            {...props}
            value={settings.style.counts}
            onChange={(e) => style({ counts: e.target.value as 'every' })}
          >
            <option value="every">after every row</option>
            <option value="changes">where they change</option>
          </Select>
        )}
      </Field>
      <Field label="Knitter">
        {(props) => (
          <Select
            {...props}
            value={settings.hand}
            onChange={(e) => set({ hand: e.target.value as Settings['hand'] })}
          >
            <option value="right">right-handed</option>
            <option value="left-same-fabric">left-handed, same fabric</option>
            <option value="left-same-words">left-handed, same words, mirrored cloth</option>
          </Select>
        )}
      </Field>
      <Field label="Two-stitch twists">
        {(props) => (
          <Select
            {...props}
            value={settings.twist}
            onChange={(e) => set({ twist: e.target.value as Settings['twist'] })}
          >
            <option value="cable">with a cable needle</option>
            <option value="together">knit two together, then the first again</option>
            <option value="second-first">the second stitch before the first</option>
            <option value="both-tbl">left twists through the back loops</option>
          </Select>
        )}
      </Field>
      <Field label="Bobbles">
        {(props) => (
          <Select
            {...props}
            value={settings.bobble}
            onChange={(e) => set({ bobble: Number(e.target.value) as Settings['bobble'] })}
          >
            {[3, 5, 7].map((n) => (
              <option key={n} value={n}>
                of {n} loops
              </option>
            ))}
          </Select>
        )}
      </Field>
      <label className="flex items-start gap-2 text-[14px]">
        <input
          type="checkbox"
          className="mt-1"
          checked={settings.cableless}
          onChange={(e) => set({ cableless: e.target.checked })}
        />
        Also say how to cross without a cable needle, up to three stitches a group
      </label>
      <Field label="Plain cells">
        {(props) => (
          <Select
            {...props}
            value={settings.plain}
            onChange={(e) => set({ plain: e.target.value as 'empty' })}
          >
            <option value="empty">knit empty, purl a dot</option>
            <option value="bars">knit upright, purl level bar</option>
          </Select>
        )}
      </Field>
      <Button tone="main" onClick={() => globalThis.print()} className="mt-1">
        <Printer size={16} aria-hidden /> Print
      </Button>
    </aside>
  );
}
