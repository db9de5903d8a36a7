import { Redo2, Undo2 } from 'lucide-react';
import { useEffect } from 'react';
import { onBench, redo, undo } from '../store/editing.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { IconButton } from '../ui/Button.js';

/** Undo and redo of the design in hand, in the head of each of its rooms and by their keys wherever no one types; each says what it does. */
export function UndoRedo() {
  const dispatch = useAppDispatch();
  const { done, undone } = useAppSelector(onBench)!;
  const [last, next] = [done.at(-1)?.label, undone.at(-1)?.label];
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const isTyping =
        e.target instanceof HTMLElement &&
        e.target.closest('input, textarea, select, [contenteditable="true"]');
      // A room may have taken it already.
      if (e.defaultPrevented || isTyping || !(e.ctrlKey || e.metaKey)) return;
      const key = e.key.toLowerCase();
      if (key === 'z') dispatch(e.shiftKey ? redo() : undo());
      else if (key === 'y') dispatch(redo());
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [dispatch]);
  return (
    <>
      <IconButton
        name={last ? `Undo: ${last}` : 'Undo'}
        keys="Ctrl Z"
        disabled={!done.length}
        onClick={() => dispatch(undo())}
      >
        <Undo2 size={16} aria-hidden />
      </IconButton>
      <IconButton
        name={next ? `Do again: ${next}` : 'Do again'}
        keys="Ctrl Y"
        disabled={!undone.length}
        onClick={() => dispatch(redo())}
      >
        <Redo2 size={16} aria-hidden />
      </IconButton>
    </>
  );
}
