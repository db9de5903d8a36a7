import { NumberField as Base } from '@base-ui/react/number-field';
import { Minus, Plus } from 'lucide-react';
import { useId, type ReactNode } from 'react';

const BUTTON =
  'grid w-7 shrink-0 place-items-center border border-slate/80 bg-chalk hover:border-peat data-disabled:opacity-35';

/**
 * A whole number that is stepped or typed, within bounds: past them it is the nearest that may be. With `of`, what is counted, it
 * has a button at either side.
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
  const high = 'h-7';
  return (
    <Base.Root
      id={id}
      value={value}
      min={least}
      max={most}
      step={step}
      allowOutOfRange={refusable}
      format={{ maximumFractionDigits: 0, useGrouping: false }}
      onValueChange={(n) => n !== null && n !== value && onChange(n)}
      className="flex items-center gap-1.5 text-[14px]"
    >
      <label htmlFor={id} className={spread ? 'mr-auto' : ''}>
        {label}
      </label>
      <Base.Group className="flex items-stretch">
        {of !== undefined && (
          <Base.Decrement aria-label={`One fewer ${of}`} className={`${BUTTON} ${high} rounded-l-sm`}>
            <Minus size={13} />
          </Base.Decrement>
        )}
        <Base.Input
          className={
            of === undefined
              ? 'h-8 w-16 rounded-sm border border-slate/80 bg-chalk px-1.5 text-right hover:border-peat'
              : `${high} w-9 border-y border-slate/80 bg-chalk text-center`
          }
        />
        {of !== undefined && (
          <Base.Increment aria-label={`One more ${of}`} className={`${BUTTON} ${high} rounded-r-sm`}>
            <Plus size={13} />
          </Base.Increment>
        )}
      </Base.Group>
    </Base.Root>
  );
}
