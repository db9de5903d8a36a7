import { findingsText, grouped, unmeant, type Chart, type Finding, type Fix } from '@cordelina/core';
import { ChevronsLeft, ChevronsRight, ClipboardCopy, SlidersHorizontal } from 'lucide-react';
import { useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { IconButton } from '../ui/Button.js';
import { ChooseInLine } from '../ui/Field.js';
import { LEVEL_LOOK } from '../ui/levels.js';
import type { Checks } from '../workers/useChecks.js';
import { MeantButton, type Acceptance } from './MeantButton.js';
import { copyText } from '../ui/copy.js';

/** The width of the edge, in CSS pixels. */
export const FINDINGS = { folded: 36, open: 252 } as const;

const SHOWN = {
  all: 'all',
  error: 'errors',
  caution: 'cautions',
  note: 'notes',
  meant: 'meant so',
} as const;
const UNCHECKED = 'The checks could not be run on this chart. They are tried again at its next change.';

type Shown = keyof typeof SHOWN;

const SHOWN_KEYS = Object.keys(SHOWN) as Shown[];

const isShown = ({ level, meant }: Finding, shown: Shown): boolean =>
  shown === 'meant' ? meant !== undefined : meant === undefined && (shown === 'all' || shown === level);

/** What is said where no finding is told. */
const NOTHING_FOUND: Record<Checks['state'], string> = {
  checked: 'Every row comes out, and the ropes lie as they should.',
  checking: 'Checking the chart …',
  failed: UNCHECKED,
};

/**
 * What the checks found, by check; each leads to its place, can be mended, or accepted as meant. Folds to a strip with
 * a number. `above` and `below` stand over and under the list.
 */
export function Findings({
  title,
  chart,
  findings,
  state,
  open,
  above,
  below,
  onOpenChange,
  onGo,
  onTry,
  onMend,
  onAccept,
  onTakeBack,
  onRules,
}: {
  /** What the copied text is headed with. */
  title: string;
  chart: Chart;
  findings: readonly Finding[];
  state: Checks['state'];
  open: boolean;
  above?: ReactNode;
  below?: ReactNode;
  onOpenChange: (open: boolean) => void;
  onGo: (finding: Finding) => void;
  /** Shows a mend on the chart before it is made; null takes it away again. */
  onTry: (finding: Finding | null) => void;
  onMend: (fix: Fix) => void;
  onAccept: (finding: Finding, acceptance: Acceptance) => void;
  onTakeBack: (finding: Finding) => void;
  /** Opens where the lines of custom are drawn. */
  onRules: () => void;
}) {
  const [shown, setShown] = useState<Shown>('all');
  const [copied, setCopied] = useState(false);
  const list = useRef<HTMLDivElement>(null);
  const toSee = unmeant(findings);
  const errors = toSee.filter((f) => f.level === 'error').length;
  if (!open)
    return (
      <aside
        aria-label="Findings"
        className="shrink-0 border-l border-rule"
        style={{ width: FINDINGS.folded }}
      >
        <button
          type="button"
          onClick={() => onOpenChange(true)}
          title={
            toSee.length || state !== 'checked'
              ? 'Open the findings'
              : 'Nothing is to be seen to: open the findings'
          }
          className="flex h-full w-full flex-col items-center gap-2 pt-2.5 hover:bg-wash"
        >
          <ChevronsLeft size={15} aria-hidden />
          <span
            className={`text-[15px] font-semibold ${errors ? 'text-madder' : toSee.length ? 'text-weld' : 'text-lichen'}`}
          >
            {state === 'checked' || toSee.length ? toSee.length : state === 'failed' ? '?' : '…'}
          </span>
          <span className="text-[12.5px] text-slate [writing-mode:vertical-rl]">findings</span>
        </button>
      </aside>
    );
  const groups = grouped(findings.filter((f) => isShown(f, shown)));
  const copy = () =>
    void copyText(findingsText(title, findings)).then((done) => {
      setCopied(done);
      setTimeout(() => setCopied(false), 2000);
    });
  /** Arrows go from finding to finding, whatever else can be done with each. */
  const onKeyDown = (e: KeyboardEvent) => {
    const way = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0;
    if (!way) return;
    const items = [...list.current!.querySelectorAll<HTMLElement>('[data-place]')];
    const own = (document.activeElement as HTMLElement | null)?.closest('[data-finding]');
    const at = items.findIndex((item) => own?.contains(item));
    items[Math.max(0, Math.min(items.length - 1, at + way))]?.focus();
    e.preventDefault();
  };
  return (
    <aside
      aria-label="Findings"
      className="flex shrink-0 flex-col border-l border-rule"
      style={{ width: FINDINGS.open }}
    >
      {above}
      <div className="flex items-center pt-1.5 pr-1.5 pb-1 pl-3">
        <h2 className="text-[15px] font-semibold">
          Findings <span className={errors ? 'text-madder' : 'text-slate'}>{toSee.length}</span>
        </h2>
        <span className="ml-auto flex">
          <IconButton
            name={copied ? 'Copied' : 'Copy the findings as text'}
            disabled={!findings.length}
            onClick={copy}
          >
            <ClipboardCopy size={15} aria-hidden />
          </IconButton>
          <IconButton name="Where the checks draw the line" onClick={onRules}>
            <SlidersHorizontal size={15} aria-hidden />
          </IconButton>
          <IconButton name="Fold the findings" onClick={() => onOpenChange(false)}>
            <ChevronsRight size={15} aria-hidden />
          </IconButton>
        </span>
        <span role="status" className="sr-only">
          {copied && 'The findings were copied.'}
        </span>
      </div>
      {findings.length > 0 && (
        <div className="px-3 pb-2 text-[13px] text-slate">
          <ChooseInLine
            label="Which findings are shown"
            lead="Show"
            value={shown}
            options={SHOWN_KEYS.map((key) => [
              key,
              `${SHOWN[key]} (${findings.filter((f) => isShown(f, key)).length})`,
            ])}
            onChange={setShown}
          />
        </div>
      )}
      <div
        ref={list}
        className="min-h-0 flex-1 overflow-auto"
        data-testid="findings"
        onKeyDown={onKeyDown}
        onMouseLeave={() => onTry(null)}
      >
        {state === 'failed' && findings.length > 0 && (
          <p role="alert" className="px-3 py-2 text-[14px] text-madder">
            {UNCHECKED}
          </p>
        )}
        {!groups.length && (
          <p className="px-3 py-2 text-[14px] text-slate">
            {findings.length ? 'None of these.' : NOTHING_FOUND[state]}
          </p>
        )}
        {groups.map((group) => (
          <section key={group.id} aria-label={group.title}>
            <h3 className="flex items-baseline gap-1.5 border-t border-rule bg-wash/60 px-3 py-1 text-[13px] font-semibold">
              {group.title}
              <span className="font-normal text-slate">
                {group.findings.length > 1 && group.findings.length}
              </span>
            </h3>
            <ul>
              {group.findings.map((finding, i) => (
                <Item
                  key={`${finding.row ?? 0}-${finding.columns?.[0] ?? 0}-${i}`}
                  finding={finding}
                  chart={chart}
                  onGo={onGo}
                  onTry={onTry}
                  onMend={onMend}
                  onAccept={onAccept}
                  onTakeBack={onTakeBack}
                />
              ))}
            </ul>
          </section>
        ))}
      </div>
      {below}
    </aside>
  );
}

function Item({
  finding,
  chart,
  onGo,
  onTry,
  onMend,
  onAccept,
  onTakeBack,
}: {
  finding: Finding;
  chart: Chart;
  onGo: (finding: Finding) => void;
  onTry: (finding: Finding | null) => void;
  onMend: (fix: Fix) => void;
  onAccept: (finding: Finding, acceptance: Acceptance) => void;
  onTakeBack: (finding: Finding) => void;
}) {
  const { Icon, tone, name } = LEVEL_LOOK[finding.level];
  const { fix, others, meant } = finding;
  return (
    <li data-finding={finding.id} className="border-t border-rule px-3 py-2">
      <button
        type="button"
        data-place
        onClick={() => onGo(finding)}
        className={`flex gap-2 text-left text-[14px] leading-snug hover:underline hover:underline-offset-3 ${meant === undefined ? '' : 'text-slate'}`}
      >
        <Icon size={15} className={`mt-0.5 shrink-0 ${tone}`} aria-label={name} />
        {finding.message}
      </button>
      {meant !== undefined && (
        <p className="mt-1 ml-[23px] text-[13px]">
          <span className="text-slate">Meant: </span>
          {meant}
        </p>
      )}
      <div className="mt-1.5 ml-[23px] flex flex-wrap gap-1.5 empty:hidden">
        {meant === undefined &&
          [...(fix ? [fix] : []), ...(others ?? [])].map((mend) => (
            <button
              key={mend.label}
              type="button"
              data-mend
              onMouseEnter={() => onTry({ ...finding, fix: mend })}
              onMouseLeave={() => onTry(null)}
              onFocus={() => onTry({ ...finding, fix: mend })}
              onBlur={() => onTry(null)}
              onClick={() => {
                onTry(null);
                onMend(mend);
              }}
              className="rounded-sm border border-slate/80 bg-chalk px-2 py-0.5 text-left text-[13px] hover:border-peat"
            >
              {mend.label}
            </button>
          ))}
        {finding.level !== 'error' && finding.id !== 'more-findings' && (
          <MeantButton finding={finding} chart={chart} onAccept={onAccept} onTakeBack={onTakeBack} />
        )}
      </div>
    </li>
  );
}
