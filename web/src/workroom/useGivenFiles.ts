import { useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { takeShared } from '../ui/shared-files.js';

/** What opens files with this program, where the browser lets an installed page do that. */
interface LaunchQueue {
  setConsumer(use: (launched: { files?: readonly FileSystemFileHandle[] }) => void): void;
}

/**
 * Files that come to the workroom otherwise than by choosing them: pasted, opened with the installed page, or shared with it by
 * another program. A pasted text is a file too.
 */
export function useGivenFiles(take: (files: readonly File[]) => void): void {
  useEffect(() => {
    const onPaste = (e: ClipboardEvent) => {
      if ((e.target as Element).closest('input, textarea, [contenteditable], [role=dialog]')) return;
      const files = [...(e.clipboardData?.files ?? [])];
      const text = e.clipboardData?.getData('text/plain') ?? '';
      if (files.length) take(files);
      else if (text.trim()) take([new File([text], 'pasted text', { type: 'text/plain' })]);
      else return;
      e.preventDefault();
    };
    document.addEventListener('paste', onPaste);
    return () => document.removeEventListener('paste', onPaste);
  }, [take]);

  useEffect(() => {
    const { launchQueue } = window as { launchQueue?: LaunchQueue };
    launchQueue?.setConsumer(({ files = [] }) => {
      void Promise.all(files.map((handle) => handle.getFile())).then(take);
    });
  }, [take]);

  const [sought, seek] = useSearchParams();
  const isShared = sought.has('shared');
  useEffect(() => {
    if (!isShared) return;
    void takeShared().then((files) => {
      seek((now) => (now.delete('shared'), now), { replace: true });
      take(files);
    });
  }, [isShared, seek, take]);
}
