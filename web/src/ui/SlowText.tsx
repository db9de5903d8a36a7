import { useEffect, useRef, useState, type ComponentProps } from 'react';

/** How long the keys must rest before what was typed becomes one edit, in milliseconds. */
const REST = 700;

/** A text that is one edit when the keys rest or the field is left, and not one a letter. */
export function SlowText({
  value,
  most,
  rows = 1,
  onCommit,
  ...rest
}: {
  value: string;
  /** The most characters it may have. */
  most: number;
  rows?: number;
  onCommit: (text: string) => void;
} & Omit<ComponentProps<'textarea'>, 'value' | 'onChange'>) {
  const [draft, setDraft] = useState<string | null>(null);
  const latest = useRef({ draft, value, onCommit });
  const commit = () => {
    const { draft: typed, value: was, onCommit: keep } = latest.current;
    if (typed !== null && typed !== was) keep(typed);
    setDraft(null);
  };
  useEffect(() => {
    latest.current = { draft, value, onCommit };
  }, [draft, value, onCommit]);
  useEffect(() => {
    if (draft === null) return;
    const timer = setTimeout(commit, REST);
    return () => clearTimeout(timer);
  }, [draft]);
  // What was typed is not lost when the room is left in the midst of it.
  useEffect(
    () => () => {
      const { draft: typed, value: was, onCommit: keep } = latest.current;
      if (typed !== null && typed !== was) keep(typed);
    },
    [],
  );
  return (
    <textarea
      {...rest}
      rows={rows}
      maxLength={most}
      value={draft ?? value}
      onChange={(e) => setDraft(rows === 1 ? e.target.value.replace(/\n/g, ' ') : e.target.value)}
      onBlur={commit}
      className="w-full rounded-sm [&:not([rows='1'])]:resize-y [&[rows='1']]:resize-none border border-slate/80 bg-chalk px-2 py-1 text-[14px] hover:border-peat"
    />
  );
}
