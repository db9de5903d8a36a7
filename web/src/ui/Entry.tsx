import { useState, type InputHTMLAttributes } from 'react';
import type { Typed } from '@cordelina/core';
import { Field, Input } from './Field.js';

/**
 * A number or measure that is typed, and taken when the field is left or Enter pressed. What cannot be one stays in the
 * field with a sentence, and what was there before holds; Escape goes back to it.
 */
export function Entry<T>({
  label,
  text,
  read,
  hint,
  isHidden = false,
  onCommit,
  onEmptied,
  onEnter,
  ...rest
}: {
  label: string;
  /** What is held, as it stands in the field. */
  text: string;
  read: (typed: string) => Typed<T>;
  hint?: string;
  /** Whether its label is only read out. */
  isHidden?: boolean;
  onCommit: (value: T) => void;
  /** What an empty field means; none where it must not be empty. */
  onEmptied?: () => void;
  /** Enter was pressed, on what was typed or on what was there: it takes the value, in the place of `onCommit`. */
  onEnter?: (typed?: T) => void;
} & Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange'>) {
  const [draft, setDraft] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const leave = (byEnter: boolean): void => {
    const take = byEnter && onEnter ? onEnter : onCommit;
    if (draft === null || draft === text) {
      if (byEnter) onEnter?.();
    } else if (draft.trim() === '' && (onEmptied || text === '')) onEmptied?.();
    else {
      const typed = read(draft);
      if ('problem' in typed) return setProblem(typed.problem);
      take(typed.value);
    }
    setDraft(null);
    setProblem(null);
  };
  const input = (props: object) => (
    <Input
      {...props}
      {...rest}
      value={draft ?? text}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={() => leave(false)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          e.preventDefault();
          leave(true);
        }
        if (e.key === 'Escape' && draft !== null) {
          e.stopPropagation();
          setDraft(null);
          setProblem(null);
        }
      }}
    />
  );
  if (!isHidden)
    return (
      <Field label={label} hint={hint} error={problem ?? undefined}>
        {input}
      </Field>
    );
  return (
    <div>
      {input({ 'aria-label': label, 'aria-invalid': problem ? true : undefined })}
      {problem && (
        <p role="alert" className="mt-0.5 w-max max-w-[300px] text-[13px] text-madder">
          {problem}
        </p>
      )}
    </div>
  );
}
