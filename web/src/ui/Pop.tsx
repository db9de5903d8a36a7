import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { onClosed } from './hands.js';

/** The sheet of a popover: it keeps to the window and scrolls in itself; the keys go back to where they were. */
export function PopSheet({
  label,
  side,
  sideOffset,
  className = '',
  children,
}: {
  label: string;
  side: 'left' | 'right' | 'top' | 'bottom';
  sideOffset?: number;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Popover.Portal>
      <Popover.Content
        side={side}
        align="start"
        sideOffset={sideOffset}
        collisionPadding={12}
        aria-label={label}
        onCloseAutoFocus={onClosed}
        className={`z-30 max-h-(--radix-popper-available-height) max-w-[calc(100vw-24px)] overflow-y-auto rounded-sm border border-slate/40 bg-chalk p-3.5 shadow-sheet ${className}`}
      >
        {children}
      </Popover.Content>
    </Popover.Portal>
  );
}
