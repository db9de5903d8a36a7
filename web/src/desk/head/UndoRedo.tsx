import { Redo2, Undo2 } from 'lucide-react';
import { useEffect } from 'react';
import { IconButton } from '../../ui/Button.js';

/**
 * Undo and redo of what a room has in hand, in its head and by their keys wherever no one types; each says what it
 * does. `last` and `next` are what would be taken back and done again, null where there is nothing.
 */
export function UndoRedo({
  last,
  next,
  onUndo,
  onRedo,
}: {
  last: string | null;
  next: string | null;
  onUndo: () => void;
  onRedo: () => void;
}) {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const isTyping =
        e.target instanceof HTMLElement &&
        e.target.closest('input, textarea, select, [contenteditable="true"]');
      // A room may have taken it already.
      if (e.defaultPrevented || isTyping || !(e.ctrlKey || e.metaKey)) return;
      const key = e.key.toLowerCase();
      if (key === 'z') (e.shiftKey ? onRedo : onUndo)();
      else if (key === 'y') onRedo();
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [onUndo, onRedo]);
  return (
    <>
      <IconButton
        name={last === null ? 'Undo' : `Undo: ${last}`}
        keys="Ctrl Z"
        disabled={last === null}
        onClick={onUndo}
      >
        <Undo2 size={16} aria-hidden />
      </IconButton>
      <IconButton
        name={next === null ? 'Do again' : `Do again: ${next}`}
        keys="Ctrl Y"
        disabled={next === null}
        onClick={onRedo}
      >
        <Redo2 size={16} aria-hidden />
      </IconButton>
    </>
  );
}
