import { X } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';

/** A sheet that slides in from an edge over the chart, on screens too narrow for both. */
export function Drawer({
  name,
  side,
  onClose,
  children,
}: {
  name: string;
  side: 'left' | 'right';
  onClose: () => void;
  children: ReactNode;
}) {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => e.key === 'Escape' && onClose();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [onClose]);
  return (
    <section
      aria-label={name}
      className={`absolute inset-y-0 z-20 max-w-[86%] bg-fleece shadow-sheet ${side === 'left' ? 'left-0 border-r' : 'right-0 border-l'} border-slate/40`}
    >
      <button
        type="button"
        aria-label={`Close ${name.toLowerCase()}`}
        onClick={onClose}
        className={`absolute top-1 z-10 grid h-11 w-11 place-items-center rounded-sm bg-fleece/90 hover:bg-wash ${side === 'left' ? 'right-0' : 'left-0'}`}
      >
        <X size={20} aria-hidden />
      </button>
      {children}
    </section>
  );
}
