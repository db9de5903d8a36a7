import { ChevronRight, CircleQuestionMark } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { IconButton } from '../../ui/Button.js';
import { toStage } from '../../ui/hands.js';
import { show } from '../commands/registry.js';

export function Wordmark() {
  return (
    <Link
      to="/"
      title="To the workroom"
      className="flex shrink-0 items-center gap-2 touch:h-11 touch:min-w-11 touch:justify-center font-serif text-[20px] font-semibold tracking-tight"
    >
      <img src="/icon.svg" alt="" className="h-5 w-5 shrink-0" />
      <span className="max-md:sr-only">Cordelina</span>
    </Link>
  );
}

export function Header({ children, title }: { children?: ReactNode; title?: ReactNode }) {
  return (
    <header className="no-print flex h-11 shrink-0 items-center gap-3 border-b border-rule bg-fleece px-4 max-[900px]:h-auto max-[900px]:min-h-11 max-[900px]:flex-wrap max-[900px]:gap-x-1.5 max-[900px]:gap-y-0 max-[900px]:px-2">
      <button
        type="button"
        className="sr-only focus:not-sr-only focus:absolute focus:top-1 focus:left-2 focus:z-50 focus:bg-peat focus:px-3 focus:py-2 focus:text-chalk"
        onClick={toStage}
      >
        Skip to what lies here
      </button>
      <Wordmark />
      {title && (
        <>
          <ChevronRight size={16} className="shrink-0 text-slate max-md:hidden" aria-hidden />
          {title}
        </>
      )}
      {children}
      <IconButton name="This room and its keys" keys="?" onClick={() => show('keys')}>
        <CircleQuestionMark size={17} aria-hidden />
      </IconButton>
    </header>
  );
}
