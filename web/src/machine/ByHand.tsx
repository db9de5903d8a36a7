import type { ListRead } from '@cordelina/core';
import { Button } from '../ui/Button.js';

/** A list that is typed: what is not understood is told at its line. */
export function ByHand({
  text,
  read,
  isOwn,
  onType,
  onReset,
}: {
  text: string;
  read: ListRead | null;
  isOwn: boolean;
  onType: (text: string) => void;
  onReset: () => void;
}) {
  return (
    <>
      <label htmlFor="hand-list" className="text-[13.5px] text-slate">
        Needles in work, a line for each action, and how many rows are knit.
      </label>
      <textarea
        id="hand-list"
        value={text}
        onChange={(e) => onType(e.target.value)}
        spellCheck={false}
        className="min-h-[220px] flex-1 resize-none rounded-sm border border-slate/80 bg-chalk p-2 font-mono text-[13px] leading-relaxed"
      />
      {read && read.problems.length > 0 && (
        <ul className="grid max-h-32 gap-1 overflow-auto text-[13.5px] text-madder" role="status">
          {read.problems.slice(0, 5).map(({ line, message }, i) => (
            <li key={i}>
              Line {line}: {message}
            </li>
          ))}
        </ul>
      )}
      <div>
        <Button onClick={onReset} disabled={!isOwn}>
          As the chart’s
        </Button>
      </div>
    </>
  );
}
