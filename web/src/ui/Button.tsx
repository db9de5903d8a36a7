import type { ButtonHTMLAttributes, ReactNode } from 'react';

type Tone = 'plain' | 'main' | 'quiet';

const TONES: Record<Tone, string> = {
  main: 'bg-peat text-chalk border-peat hover:bg-slate',
  plain: 'bg-chalk text-peat border-slate/80 hover:border-peat',
  quiet: 'bg-transparent text-peat border-transparent hover:bg-wash',
};

export function Button({
  tone = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { tone?: Tone }) {
  return (
    <button
      type="button"
      className={`inline-flex h-8 items-center justify-center gap-1.5 border px-3 text-[14px] whitespace-nowrap rounded-sm transition-colors duration-100 disabled:opacity-45 ${TONES[tone]} ${className}`}
      {...rest}
    />
  );
}

/** A square button that shows an icon; its name is read out and shown as its tooltip. */
export function IconButton({
  name,
  keys,
  children,
  pressed,
  label,
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & {
  name: string;
  keys?: string;
  children: ReactNode;
  pressed?: boolean;
  /** A word beside the icon, on screens with room for it. */
  label?: string;
}) {
  return (
    <button
      type="button"
      aria-label={name}
      aria-pressed={pressed}
      title={keys ? `${name} (${keys})` : name}
      className={`inline-flex h-8 min-w-8 touch:min-w-11 shrink-0 items-center justify-center gap-1 rounded-sm border border-transparent hover:bg-wash disabled:opacity-35 disabled:hover:bg-transparent aria-pressed:border-peat aria-pressed:bg-wash ${className}`}
      {...rest}
    >
      {children}
      {label && (
        <span aria-hidden className="hidden pr-1 text-[13px] min-[1680px]:inline">
          {label}
        </span>
      )}
    </button>
  );
}
