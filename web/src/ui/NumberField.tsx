import { typedNumber } from '@cordelina/core';
import { Minus, Plus } from 'lucide-react';
import { useId, useState, type ReactNode } from 'react';

const BUTTON =
  'grid w-7 shrink-0 place-items-center border border-slate/80 bg-chalk hover:border-peat disabled:opacity-35';

/**
 * A whole number that is stepped or typed, as people type numbers anywhere here, within bounds: past them it is the nearest that may
 * be. With `of`, what is counted, it has a button at either side.
 */
export function NumberField({
  label,
  value,
  least = 1,
  most,
  step = 1,
  of,
  spread = false,
  refusable = false,
  onChange,
}: {
  label: ReactNode;
  value: number;
  least?: number;
  most: number;
  step?: number;
  /** What one more or fewer is of, for the buttons' names. */
  of?: string;
  /** Whether label and field stand at either end of the line. */
  spread?: boolean;
  /** Whether a number past the bounds is handed on, to be refused with a reason, and not bent. */
  refusable?: boolean;
  onChange: (value: number) => void;
}) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const within = (n: number) => (refusable ? n : Math.max(least, Math.min(most, n)));
  const become = (n: number) => {
    setDraft(null);
    setProblem(null);
    if (within(n) !== value) onChange(within(n));
  };
  const commit = () => {
    if (draft === null) return;
    if (!draft.trim()) return become(value);
    const typed = typedNumber(draft, { what: 'It', least: -1e6, most: 1e6 });
    if ('problem' in typed) return setProblem(typed.problem);
    become(typed.value);
  };
  const high = 'h-7';
  const steps: Record<string, number> = {
    ArrowUp: value + step,
    ArrowDown: value - step,
    PageUp: value + 10 * step,
    PageDown: value - 10 * step,
  };
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-[14px]">
      <label htmlFor={id} className={spread ? 'mr-auto' : ''}>
        {label}
      </label>
      <div className="flex items-stretch" role="group">
        {of !== undefined && (
          <button
            type="button"
            aria-label={`One fewer ${of}`}
            disabled={value <= least}
            onClick={() => become(value - step)}
            className={`${BUTTON} ${high} rounded-l-sm`}
          >
            <Minus size={13} aria-hidden />
          </button>
        )}
        <input
          id={id}
          inputMode="numeric"
          role="spinbutton"
          aria-valuenow={value}
          aria-valuemin={least}
          aria-valuemax={most}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? `${id}-problem` : undefined}
          value={draft ?? String(value)}
          onChange={(e) => {
            setDraft(e.target.value);
            // What is a number that may be already is taken at once; what is none yet waits until the field is left.
            const typed = typedNumber(e.target.value, { what: 'It', least, most });
            if ('value' in typed && typed.value !== value) onChange(typed.value);
          }}
          onBlur={commit}
          onKeyDown={(e) => {
            const to = steps[e.key];
            if (to !== undefined) {
              e.preventDefault();
              become(to);
            }
            if (e.key === 'Enter') commit();
            if (e.key === 'Escape' && draft !== null) {
              e.stopPropagation();
              setDraft(null);
              setProblem(null);
            }
          }}
          className={
            of === undefined
              ? 'h-8 w-16 rounded-sm border border-slate/80 bg-chalk px-1.5 text-right hover:border-peat aria-invalid:border-madder'
              : `${high} w-9 border-y border-slate/80 bg-chalk text-center aria-invalid:border-madder`
          }
        />
        {of !== undefined && (
          <button
            type="button"
            aria-label={`One more ${of}`}
            disabled={value >= most}
            onClick={() => become(value + step)}
            className={`${BUTTON} ${high} rounded-r-sm`}
          >
            <Plus size={13} aria-hidden />
          </button>
        )}
      </div>
      {problem && (
        <p id={`${id}-problem`} role="alert" className="basis-full text-[13px] text-madder">
          {problem}
        </p>
      )}
    </div>
  );
}
