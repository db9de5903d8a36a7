import type { Fix } from '@cordelina/core';
import { Button } from '../ui/Button.js';
import type { Listed } from '../workers/machine.worker.js';

/** Why two beds cannot knit the chart, and what would let them. */
export function Refused({
  listed: { list, mends },
  onMend,
  onGo,
  onCopy,
}: {
  listed: Listed;
  onMend: (fix: Fix) => void;
  onGo: (row: number) => void;
  /** Lays a copy of it that is worked flat on the bench. */
  onCopy: () => void;
}) {
  return (
    <section
      className="mt-4 grid max-w-[640px] content-start gap-3 overflow-auto"
      aria-label="What stands in the way"
    >
      <h2 className="text-[19px] font-semibold">Two beds cannot knit this chart as it stands</h2>
      <ul className="grid gap-1.5">
        {list.problems.slice(0, 12).map(({ row, message }, i) => (
          <li key={i} className="text-[15px] leading-snug">
            <button type="button" className="text-left hover:underline" onClick={() => onGo(row)}>
              {message}
            </button>
          </li>
        ))}
        {list.problems.length > 12 && <li className="text-slate">{list.problems.length - 12} more.</li>}
      </ul>
      {list.problems.some(({ id }) => id === 'one-fabric') && (
        <Button tone="main" className="justify-self-start" onClick={onCopy}>
          Make a flat copy of the chart
        </Button>
      )}
      {mends.map((fix) => (
        <Button key={fix.label} tone="main" className="justify-self-start" onClick={() => onMend(fix)}>
          {fix.label}
        </Button>
      ))}
    </section>
  );
}
