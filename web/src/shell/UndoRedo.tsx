import { Redo2, Undo2 } from 'lucide-react';
import { useEffect } from 'react';
import { onBench, redo, undo } from '../store/editing.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { IconButton } from '../ui/Button.js';

/** Undo and redo of the design in hand, by buttons and by their keys, for rooms that have no other commands. */
export function UndoRedo() {
  const dispatch = useAppDispatch();
  const { done, undone } = useAppSelector(onBench)!;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const isTyping = e.target instanceof HTMLElement && e.target.closest('input, textarea, select');
      if (isTyping || !(e.ctrlKey || e.metaKey)) return;
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
      <IconButton name="Undo" keys="Ctrl Z" disabled={!done.length} onClick={() => dispatch(undo())}>
        <Undo2 size={16} aria-hidden />
      </IconButton>
      <IconButton name="Redo" keys="Ctrl Y" disabled={!undone.length} onClick={() => dispatch(redo())}>
        <Redo2 size={16} aria-hidden />
      </IconButton>
    </>
  );
}
