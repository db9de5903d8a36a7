import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

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
          className={`fixed top-1/2 left-1/2 z-50 max-h-[92vh] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-sm border border-slate/40 bg-chalk p-6 shadow-sheet ${wide ? 'w-[760px]' : 'w-[440px]'} max-w-[94vw]`}
          aria-describedby={note ? undefined : ''}
          onCloseAutoFocus={(e) => {
            // A sheet that was opened meanwhile has them.
            if (document.querySelector('[role=dialog][data-state=open]')) return e.preventDefault();
            // Where the hands were at work on a chart, they go back to it.
            const chart = document.querySelector<HTMLElement>('[data-keys]');
            if (!chart) return;
            e.preventDefault();
            chart.focus({ preventScroll: true });
          }}
        >
          <Dialog.Title className="text-[22px] font-semibold">{title}</Dialog.Title>
          {note && <Dialog.Description className="mt-1 text-slate">{note}</Dialog.Description>}
          <Dialog.Close
            aria-label="Close"
            className="absolute top-4 right-4 grid h-8 w-8 place-items-center rounded-sm hover:bg-wash"
          >
            <X size={17} aria-hidden />
          </Dialog.Close>
          <div className="mt-4">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
