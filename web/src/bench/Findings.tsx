import type { Finding } from '@cordelina/core';
import { ChevronsLeft, ChevronsRight } from 'lucide-react';
import { LEVEL_LOOK } from '../ui/levels.js';

/** The width of the edge, in CSS pixels. */
export const FINDINGS = { folded: 36, open: 236 } as const;

/** What the checks found; each leads to its place and, where it can, mends it. Folds to a strip with a number. */
export function Findings({
  findings,
  open,
  onOpenChange,
  onGo,
  onMend,
}: {
  findings: readonly Finding[];
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onGo: (finding: Finding) => void;
  onMend: (finding: Finding) => void;
}) {
  const errors = findings.filter((f) => f.level === 'error').length;
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
          title={findings.length ? 'Open the findings' : 'Every row comes out'}
          disabled={!findings.length}
          className="flex h-full w-full flex-col items-center gap-2 pt-2.5 hover:bg-wash"
        >
          <ChevronsLeft size={15} aria-hidden />
          <span
            className={`text-[15px] font-semibold ${errors ? 'text-madder' : findings.length ? 'text-weld' : 'text-lichen'}`}
          >
            {findings.length}
          </span>
          <span className="text-[12.5px] text-slate [writing-mode:vertical-rl]">findings</span>
        </button>
      </aside>
    );
  return (
    <aside
      aria-label="Findings"
      className="flex shrink-0 flex-col border-l border-rule"
      style={{ width: FINDINGS.open }}
    >
      <div className="flex items-center px-3 pt-2.5 pb-1.5">
        <h2 className="text-[15px] font-semibold">
          Findings <span className={errors ? 'text-madder' : 'text-slate'}>{findings.length}</span>
        </h2>
        <button
          type="button"
          aria-label="Fold the findings"
          onClick={() => onOpenChange(false)}
          className="ml-auto grid h-7 w-7 place-items-center rounded-sm hover:bg-wash"
        >
          <ChevronsRight size={15} />
        </button>
      </div>
      <ul className="min-h-0 flex-1 overflow-auto" data-testid="findings">
        {findings.map((finding, i) => {
          const { Icon, tone, name } = LEVEL_LOOK[finding.level];
          return (
            <li
              key={`${finding.id}-${finding.row ?? 0}-${i}`}
              data-finding={finding.id}
              className="border-t border-rule px-3 py-2"
            >
              <button
                type="button"
                onClick={() => onGo(finding)}
                className="flex gap-2 text-left text-[14px] leading-snug hover:underline hover:underline-offset-3"
              >
                <Icon size={15} className={`mt-0.5 shrink-0 ${tone}`} aria-label={name} />
                {finding.message}
              </button>
              {finding.fix && (
                <button
                  type="button"
                  onClick={() => onMend(finding)}
                  className="mt-1.5 ml-[23px] rounded-sm border border-slate/50 bg-chalk px-2 py-0.5 text-left text-[13px] hover:border-peat"
                >
                  {finding.fix.label}
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </aside>
  );
}
