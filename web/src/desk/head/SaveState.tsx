import { lightFormat } from 'date-fns';
import { FileDown, History } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { onBench } from '../state/editing.js';
import { useAppSelector } from '../state/index.js';
import type { SaveState as State } from '../../sync/outbox.js';
import { IconButton } from '../../ui/Button.js';

const HistorySheet = lazy(async () => ({ default: (await import('./HistorySheet.js')).HistorySheet }));

const edits = (count: number) => `${count} ${count === 1 ? 'edit' : 'edits'}`;

function saying(save: State, count: number, isNew: boolean, kept: boolean): string {
  const where = kept ? 'kept in this browser' : 'kept only in this open page';
  switch (save.kind) {
    case 'saved':
      return `saved ${lightFormat(new Date(save.at), 'HH:mm')}`;
    case 'waiting':
    case 'saving':
      return 'saving …';
    case 'away':
      if (isNew) return `new, ${where}; the server is away`;
      return count ? `${edits(count)} ${where}; the server is away` : 'the server is away';
    case 'refused':
      return 'not saved';
    case 'gone':
      return count ? `${edits(count)} ${where}` : 'taken out of the workroom';
  }
}

/** Says whether what was done is safe, and where; and opens the way back to earlier states. */
export function SaveState({ onSaveCopy, onBringBack }: { onSaveCopy: () => void; onBringBack: () => void }) {
  const box = useAppSelector(onBench);
  const keeping = useAppSelector((s) => s.browser.keeping);
  const [history, setHistory] = useState(false);
  if (!box) return null;
  const { save } = box;
  const bad = save.kind === 'refused' || save.kind === 'gone' || keeping !== 'kept';
  const text = saying(save, box.unsaved.length, box.base === 0, keeping === 'kept');
  return (
    <>
      <span
        role="status"
        data-save={save.kind}
        title={text}
        className={`max-w-[340px] truncate text-[13px] ${save.kind === 'saved' && !bad ? 'max-md:sr-only' : 'max-md:max-w-[64px]'} ${bad ? 'text-madder' : 'text-slate'}`}
      >
        {text}
        {keeping !== 'kept' && save.kind === 'saved' && (
          <> (this browser {keeping === 'full' ? 'is full' : 'keeps nothing'})</>
        )}
      </span>
      <IconButton name="Earlier states" onClick={() => setHistory(true)}>
        <History size={16} aria-hidden />
      </IconButton>
      <span className="contents max-md:hidden">
        <IconButton name="Save a copy as a file" onClick={onSaveCopy}>
          <FileDown size={16} aria-hidden />
        </IconButton>
      </span>
      <Suspense>
        {history && (
          <HistorySheet
            onClose={() => setHistory(false)}
            onSaveCopy={() => {
              setHistory(false);
              onSaveCopy();
            }}
            onBringBack={() => {
              setHistory(false);
              onBringBack();
            }}
          />
        )}
      </Suspense>
    </>
  );
}
