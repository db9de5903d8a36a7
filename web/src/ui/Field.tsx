import { useId, type ComponentProps, type ReactNode, type SelectHTMLAttributes } from 'react';

const BOX =
  'h-8 touch:h-11 w-full rounded-sm border border-slate/70 bg-chalk px-2 text-[14px] hover:border-peat aria-invalid:border-madder';

export function Field({
  label,
  error,
  hint,
  children,
}: {
  label: string;
  error?: string;
  hint?: string;
  children: (props: { id: string; 'aria-invalid'?: true; 'aria-describedby'?: string }) => ReactNode;
}) {
  const id = useId();
  const note = error ?? hint;
  return (
    <div className="grid content-start gap-1">
      <label htmlFor={id} className="text-[13px] text-slate">
        {label}
      </label>
      {children({
        id,
        'aria-invalid': error ? true : undefined,
        'aria-describedby': note ? `${id}-note` : undefined,
      })}
      {note && (
        <p id={`${id}-note`} className={`text-[13px] ${error ? 'text-madder' : 'text-slate'}`}>
          {note}
        </p>
      )}
    </div>
  );
}

export function Input({ className = '', ...rest }: ComponentProps<'input'>) {
  return <input className={`${BOX} ${className}`} {...rest} />;
}

export function Select({ className = '', ...rest }: SelectHTMLAttributes<HTMLSelectElement>) {
  return <select className={`${BOX} ${className}`} {...rest} />;
}

function Options<T extends string | number>({
  options,
  onChoose,
  ...rest
}: {
  options: readonly (readonly [value: T, name: string])[];
  onChoose: (value: T) => void;
} & SelectHTMLAttributes<HTMLSelectElement>) {
  return (
    <Select {...rest} onChange={(e) => onChoose(options[e.target.selectedIndex]![0])}>
      {options.map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </Select>
  );
}

/** One of a few values, each with what it is called. */
export function Choose<T extends string | number>({
  label,
  value,
  options,
  onChange,
  hint,
  disabled,
}: {
  label: string;
  value: T;
  options: readonly (readonly [value: T, name: string])[];
  onChange: (value: T) => void;
  hint?: string;
  disabled?: boolean;
}) {
  return (
    <Field label={label} hint={hint}>
      {(props) => (
        <Options {...props} disabled={disabled} value={value} options={options} onChoose={onChange} />
      )}
    </Field>
  );
}

/** The same in a line of other things: its label before it, only read out where the choice says what it is of. */
export function ChooseInLine<T extends string | number>({
  label,
  lead = label,
  isHidden = false,
  value,
  options,
  onChange,
}: {
  label: string;
  /** What stands before it, where its name says more. */
  lead?: string;
  isHidden?: boolean;
  value: T | undefined;
  options: readonly (readonly [value: T, name: string])[];
  onChange: (value: T) => void;
}) {
  return (
    <div className="flex min-w-0 items-center gap-1.5">
      {!isHidden && <span aria-hidden>{lead}</span>}
      <Options
        aria-label={label}
        className="max-w-[220px] min-w-0 flex-1 px-1.5 text-peat"
        value={value}
        options={options}
        onChoose={onChange}
      />
    </div>
  );
}

/** Something that is on or off. */
export function Check({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label className="flex items-start gap-2 text-[14px] touch:min-h-11 touch:items-center">
      <input
        type="checkbox"
        className="mt-1 touch:mt-0 touch:h-5 touch:w-5"
        checked={checked}
        onChange={(e) => onChange(e.target.checked)}
      />
      {label}
    </label>
  );
}
