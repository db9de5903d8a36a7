import { Redo2, Undo2 } from 'lucide-react';
import { useMemo } from 'react';
import { IconButton } from '../../ui/Button.js';
import type { Command } from '../commands/command.js';
import { EVERYWHERE, useOffer } from '../commands/registry.js';

/** On a phone the title has the room of what cannot be pressed. */
const NONE_ON_PHONES = 'max-md:disabled:hidden';

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
  const undo = last === null ? 'Undo' : `Undo: ${last}`;
  const redo = next === null ? 'Do again' : `Do again: ${next}`;
  const commands = useMemo<Command[]>(
    () => [
      { id: 'undo', label: undo, note: 'undo', keys: ['Ctrl Z'], group: EVERYWHERE, run: onUndo },
      {
        id: 'redo',
        label: redo,
        note: 'do again',
        keys: ['Ctrl Y', 'Ctrl Shift Z'],
        group: EVERYWHERE,
        run: onRedo,
      },
    ],
    [undo, redo, onUndo, onRedo],
  );
  useOffer(EVERYWHERE, commands);
  return (
    <>
      <IconButton
        name={undo}
        keys="Ctrl Z"
        disabled={last === null}
        onClick={onUndo}
        className={NONE_ON_PHONES}
      >
        <Undo2 size={16} aria-hidden />
      </IconButton>
      <IconButton
        name={redo}
        keys="Ctrl Y"
        disabled={next === null}
        onClick={onRedo}
        className={NONE_ON_PHONES}
      >
        <Redo2 size={16} aria-hidden />
      </IconButton>
    </>
  );
}
