import { counted, type Restored, type Take } from '@cordelina/core';
import { format } from 'date-fns';
import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { loadCards } from '../desk/designs.js';
import { useAppDispatch } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';
import { Button } from '../ui/Button.js';
import { Choose } from '../ui/Field.js';
import { FileInput } from '../ui/FileInput.js';
import { SheetDialog } from '../ui/Sheet.js';
import type { BackupSeen } from '../workers/files.worker.js';
import { Stopped } from '../workers/link.js';
import { filesLink } from '../workers/links.js';

const TAKES: readonly [Take, string][] = [
  ['new', 'Only what is not here'],
  ['beside', 'The rest too, as copies beside what is here'],
  ['all', 'What differs is set back, in the place of what is here'],
];

/** The whole workroom as one file, and such a file back into it. */
export function Backup({ onClose }: { onClose: () => void }) {
  const dispatch = useAppDispatch();
  const link = useRef<ReturnType<typeof filesLink> | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const [seen, setSeen] = useState<BackupSeen | null>(null);
  const [take, setTake] = useState<Take>('new');
  const [going, setGoing] = useState<{ what: string; done: number; of: number } | null>(null);
  const [result, setResult] = useState<Restored | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => () => link.current?.close(), []);

  const shows = (what: string) => proxy((done: number, of: number) => setGoing({ what, done, of }));
  const work = async (job: () => Promise<void>) => {
    setProblem(null);
    try {
      await job();
    } catch (error) {
      if (!(error instanceof Stopped)) throw error;
      setProblem('Stopped. What was done by then stays done.');
    } finally {
      setGoing(null);
    }
  };
  const files = () => (link.current ??= filesLink());
  const open = (file: File) =>
    work(async () => {
      setSeen(null);
      setResult(null);
      setGoing({ what: 'Checking the backup', done: 0, of: 1 });
      const bytes = new Uint8Array(await file.arrayBuffer());
      const told = await files().ask((worker) => worker.openBackup(bytes, shows('Looking at what is here')));
      setSeen(told.seen);
      setProblem(told.problem);
    });
  const restore = () =>
    work(async () => {
      const ids = Array.from({ length: seen?.is.differs ?? 0 }, newId);
      const told = await files().ask((worker) => worker.restore(take, ids, shows('Restoring')));
      setResult(told.restored);
      setProblem(told.problem);
      setSeen(null);
      await dispatch(loadCards());
    });

  const is = seen?.is;
  const willDo = is && (is.new > 0 || (take !== 'new' && is.differs > 0));
  return (
    <SheetDialog
      open
      onOpenChange={(now) => !now && onClose()}
      title="Backup"
      note="Every design with its named states, swatches and their photos, places at the needles, notes, the studio: one zip, every file in it with its sum."
      wide
    >
      <a
        href="/api/backup"
        download
        className="inline-flex h-8 items-center rounded-sm bg-peat px-3 text-[14px] text-chalk touch:h-11"
      >
        Save a backup now
      </a>
      <h3 className="mt-5 text-[17px] font-semibold">Restore</h3>
      <p className="text-[14px] text-slate">
        A backup is checked whole before anything of it is taken. What is here is never lost: a design that is
        set back keeps its earlier states.
      </p>
      <Button className="mt-2" disabled={going !== null} onClick={() => input.current?.click()}>
        Open a backup …
      </Button>
      <FileInput
        ref={input}
        label="Open a backup"
        accept=".zip,application/zip"
        onFiles={([file]) => void open(file!)}
      />
      {seen && is && (
        <div className="mt-4 border-t border-rule pt-3">
          <p>
            Of {format(new Date(seen.at), 'd MMM yyyy, HH:mm')}, whole: {counted(seen.designs, 'design')} and{' '}
            {counted(seen.documents - seen.designs, 'other document')}. Of these {is.new} are not here,{' '}
            {is.same} are as they are here, {is.differs} differ
            {is.spoiled > 0 && `, ${is.spoiled} cannot be read`}.
          </p>
          <div className="mt-3">
            <Choose label="What to take" value={take} options={TAKES} onChange={setTake} />
          </div>
          <div className="mt-3 flex justify-end">
            <Button tone="main" disabled={!willDo || going !== null} onClick={() => void restore()}>
              {willDo ? 'Restore' : 'There is nothing to restore'}
            </Button>
          </div>
        </div>
      )}
      {going && (
        <p className="mt-4 flex items-center gap-3 text-[14px]" role="status">
          {going.what} …
          <progress className="flex-1" value={going.done} max={going.of} aria-label={going.what} />
          <button type="button" className="underline" onClick={() => link.current?.stop()}>
            Stop
          </button>
        </p>
      )}
      {result && (
        <div className="mt-4 text-[14px]" role="status">
          <p>
            Restored: {result.made} made, {result.copied} laid beside, {result.changed} set back.
          </p>
          {result.left.length > 0 && (
            <ul className="mt-1 text-slate">
              {result.left.slice(0, 20).map(({ title, why }, i) => (
                <li key={i}>
                  {title}: {why}
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
      {problem && (
        <p role="alert" className="mt-4 text-madder">
          {problem}
        </p>
      )}
    </SheetDialog>
  );
}
