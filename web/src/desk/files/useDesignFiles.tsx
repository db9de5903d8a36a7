import { lazy, Suspense, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { FileInput } from '../../ui/FileInput.js';
import { command } from '../commands/command.js';
import { EVERYWHERE, useOffer } from '../commands/registry.js';

const BringIn = lazy(async () => ({ default: (await import('./BringIn.js')).BringIn }));
const SaveCopy = lazy(async () => ({ default: (await import('./SaveCopy.js')).SaveCopy }));

/** Saving copies of the open design as files, and bringing files back: by command, by button, by dropping them on the page. */
export function useDesignFiles(id: string): {
  saveCopy: () => void;
  bringBack: () => void;
  /** Of what files may be dropped on. */
  drop: { onDragOver: (e: DragEvent) => void; onDrop: (e: DragEvent) => void };
  sheets: ReactNode;
} {
  const [over, setOver] = useState<'save-copy' | readonly File[] | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const saveCopy = () => setOver('save-copy');
  const bringBack = () => input.current?.click();
  useOffer(EVERYWHERE, [
    command('save-copy', 'Save a copy of this design as a file …', EVERYWHERE, saveCopy),
    {
      id: 'bring-back',
      label: 'Bring a file back into this design …',
      keys: [],
      group: EVERYWHERE,
      run: () => input.current?.click(),
    },
  ]);
  const close = () => setOver(null);
  return {
    saveCopy,
    bringBack,
    drop: {
      onDragOver: (e) => {
        if (e.dataTransfer.types.includes('Files')) e.preventDefault();
      },
      onDrop: (e) => {
        if (e.defaultPrevented || !e.dataTransfer.files.length) return;
        e.preventDefault();
        setOver([...e.dataTransfer.files]);
      },
    },
    sheets: (
      <>
        <FileInput
          ref={input}
          label="Bring a file back into this design"
          accept=".json,.csv,.xlsx,application/json,text/csv,image/png,image/jpeg,image/webp,.pdf,application/pdf"
          onFiles={setOver}
        />
        <Suspense>
          {over === 'save-copy' && <SaveCopy ids={[id]} onClose={close} />}
          {over !== null && over !== 'save-copy' && <BringIn files={over} isOpen onClose={close} />}
        </Suspense>
      </>
    ),
  };
}
