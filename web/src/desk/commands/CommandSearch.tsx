import { useId, useRef, useState, type KeyboardEvent } from 'react';
import { Input } from '../../ui/Field.js';
import { SheetDialog } from '../../ui/Sheet.js';
import type { Command } from './command.js';
import { allCommands, useOffered } from './registry.js';

/** How well a command is what is sought: each word of it stands in its name, or in what is said of it; 0 where one does not. */
function fits({ label, note = '' }: Command, words: readonly string[]): number {
  const [name, more] = [label.toLowerCase(), note.toLowerCase()];
  if (!words.every((word) => name.includes(word) || more.includes(word))) return 0;
  if (name.startsWith(words[0] ?? '')) return 3;
  return words.every((word) => name.includes(word)) ? 2 : 1;
}

/** Everything that can be done here, sought by its name and done with Enter. */
export function CommandSearch({ onClose }: { onClose: () => void }) {
  const offered = useOffered();
  const list = useRef<HTMLDivElement>(null);
  const id = useId();
  const [sought, setSought] = useState('');
  const [at, setAt] = useState(0);
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const found = allCommands(offered)
    .map((one) => ({ ...one, fit: fits(one.command, words) }))
    .filter(({ fit }) => fit > 0);
  // What is offered by one stands together, the best of it first.
  const groups = [...new Set(found.map(({ from }) => from))].map(
    (from) => [from, found.filter((one) => one.from === from).sort((a, b) => b.fit - a.fit)] as const,
  );
  const inOrder = groups.flatMap(([, ones]) => ones);
  const chosen = inOrder[Math.min(at, inOrder.length - 1)];
  const choose = ({ run }: Command) => {
    onClose();
    // When the sheet is gone and the hands are back where they were.
    setTimeout(run);
  };
  const go = (to: number) => {
    const next = (to + inOrder.length) % Math.max(1, inOrder.length);
    setAt(next);
    list.current?.querySelectorAll('[role=option]')[next]?.scrollIntoView({ block: 'nearest' });
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const moves: Record<string, () => void> = {
      ArrowDown: () => go(at + 1),
      ArrowUp: () => go(at - 1),
      Home: () => go(0),
      End: () => go(inOrder.length - 1),
      Enter: () => chosen && choose(chosen.command),
    };
    const move = moves[e.key];
    if (!move) return;
    e.preventDefault();
    move();
  };
  return (
    <SheetDialog open onOpenChange={(open) => !open && onClose()} title="What is to be done?">
      <Input
        autoFocus
        role="combobox"
        aria-label="Its name, or a part of it"
        aria-expanded
        aria-controls={id}
        aria-activedescendant={chosen && `${id} ${chosen.command.id}`.replaceAll(' ', '-')}
        placeholder="Mirror, rows, PDF, cloth …"
        value={sought}
        onChange={(e) => {
          setSought(e.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
      />
      <div
        ref={list}
        id={id}
        role="listbox"
        aria-label="Commands"
        className="mt-3 h-[46vh] overflow-auto border-y border-rule"
      >
        {groups.map(([from, ones]) => (
          <div key={from} role="group" aria-label={from}>
            <div aria-hidden className="px-2 pt-2 pb-1 text-[13px] text-slate">
              {from}
            </div>
            {ones.map(({ command }) => (
              <div
                key={command.id}
                id={`${id} ${command.id}`.replaceAll(' ', '-')}
                role="option"
                aria-selected={command === chosen?.command}
                onClick={() => choose(command)}
                onPointerMove={() => setAt(inOrder.findIndex((one) => one.command === command))}
                className="flex cursor-pointer items-baseline gap-4 rounded-sm px-2 py-1.5 aria-selected:bg-wash aria-selected:shadow-[inset_3px_0_0_var(--color-peat)]"
              >
                <span className="min-w-0 flex-1">{command.label}</span>
                <span className="font-mono text-[12.5px] text-slate">{command.keys[0]}</span>
              </div>
            ))}
          </div>
        ))}
      </div>
      <p role="status" className="mt-2 text-[13px] text-slate">
        {inOrder.length ? `${inOrder.length} found` : 'Nothing here goes by that name.'}
      </p>
    </SheetDialog>
  );
}
