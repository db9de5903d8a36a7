import { ChevronLeft, ChevronRight, ChevronsLeft, ChevronsRight } from 'lucide-react';
import { IconButton } from '../ui/Button.js';

/** What a thumb reaches: on by a group, back, and by rows. */
export function Going({
  go,
  group,
  isLast,
  thumb,
  done,
  beds,
}: {
  go: Record<'forward' | 'back' | 'rowForward' | 'rowBack', () => void>;
  group: string | null;
  isLast: boolean;
  thumb: 'both' | 'left' | 'right';
  done: boolean;
  beds: boolean;
}) {
  const small = 'h-14! w-14! border-slate/80! bg-chalk';
  return (
    <footer
      className={`flex shrink-0 gap-2 border-t border-rule bg-fleece p-2 ${thumb === 'left' ? 'flex-row-reverse pr-[18%]' : thumb === 'right' ? 'pl-[18%]' : ''}`}
    >
      <IconButton name="Back by a row" keys="↑" className={small} onClick={go.rowBack}>
        <ChevronsLeft size={22} aria-hidden />
      </IconButton>
      <IconButton name="Back by a group" keys="←" className={small} onClick={go.back}>
        <ChevronLeft size={22} aria-hidden />
      </IconButton>
      <button
        type="button"
        disabled={done}
        onClick={go.forward}
        className="flex h-14 min-w-0 flex-1 items-center justify-center gap-1 rounded-sm bg-peat px-2 text-[18px] text-chalk disabled:opacity-45"
        data-testid="go-on"
      >
        <span className="truncate">
          {done ? 'Done' : `${isLast && !beds ? 'Row done' : 'Done'}${group ? `: ${group}` : ''}`}
        </span>
        <ChevronRight size={22} aria-hidden className="shrink-0" />
      </button>
      <IconButton name="On by a row" keys="↓" className={small} onClick={go.rowForward} disabled={done}>
        <ChevronsRight size={22} aria-hidden />
      </IconButton>
    </footer>
  );
}
