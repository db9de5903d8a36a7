import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { onClosed } from './hands.js';

/** A dialog on its own sheet of paper. */
export function SheetDialog({
  open,
  onOpenChange,
  title,
  note,
  wide,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  note?: string;
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="no-print fixed inset-0 z-40 bg-peat/30" />
        <Dialog.Content
          className={`fixed top-1/2 left-1/2 z-50 max-h-[92vh] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-sm border border-slate/40 bg-chalk p-6 max-md:p-4 shadow-sheet ${wide ? 'w-[760px]' : 'w-[440px]'} max-w-[94vw]`}
          aria-describedby={note ? undefined : ''}
          onCloseAutoFocus={onClosed}
        >
          <Dialog.Title className="text-[22px] font-semibold">{title}</Dialog.Title>
          {note && <Dialog.Description className="mt-1 text-slate">{note}</Dialog.Description>}
          <Dialog.Close
            aria-label="Close"
            className="absolute top-4 right-4 grid h-8 w-8 touch:top-2 touch:right-2 touch:h-11 touch:w-11 place-items-center rounded-sm hover:bg-wash"
          >
            <X size={17} aria-hidden />
          </Dialog.Close>
          <div className="mt-4">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
