import { lazy, Suspense, useEffect, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { THEME_NAMES, THEMES } from '../../ui/inks.js';
import { habits } from '../state/habits.js';
import { useAppDispatch } from '../state/index.js';
import { command, commandFor, type Command } from './command.js';
import { allCommands, EVERYWHERE, show, useOffer, useShown } from './registry.js';

const CommandSearch = lazy(async () => ({ default: (await import('./CommandSearch.js')).CommandSearch }));
const KeySheet = lazy(async () => ({ default: (await import('./KeySheet.js')).KeySheet }));

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.closest('input, textarea, select, [contenteditable="true"]') !== null;

/** A key by itself, but the one that shows all keys. */
const isSingle = (e: KeyboardEvent) =>
  e.key.length === 1 && e.key !== '?' && !e.ctrlKey && !e.metaKey && !e.altKey;

/** Single keys are a room's own while the hands are in it, or nowhere: in the head of the page they do nothing. */
const isOnStage = (target: EventTarget | null) =>
  target === document.body || (target instanceof Element && target.closest('header.no-print') === null);

/** A dialog has the keys while it is open. */
const isAsked = () => document.querySelector('[role=dialog], [role=menu], [role=alertdialog]') !== null;

/** What can be done everywhere, the keys of all commands that are offered, and the sheets that show them. */
export function CommandDesk() {
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const shown = useShown();
  const commands = useMemo<Command[]>(() => {
    const place = (id: string, label: string, to: string) =>
      command(id, label, EVERYWHERE, () => void navigate(to));
    return [
      {
        id: 'search',
        label: 'Find a command',
        keys: ['Ctrl K'],
        group: EVERYWHERE,
        run: () => show('search'),
      },
      {
        id: 'help',
        label: 'Keys',
        note: 'this sheet',
        keys: ['?'],
        group: EVERYWHERE,
        run: () => show('keys'),
      },
      ...THEMES.map((theme) =>
        command(`theme-${theme}`, THEME_NAMES[theme], EVERYWHERE, () => dispatch(habits.changed({ theme }))),
      ),
      place('to-workroom', 'Go to the workroom', '/'),
      place('to-swatches', 'Go to the swatch book', '/swatches'),
      place('to-import', 'Read a pattern from its words', '/import'),
      place('to-folder', 'Read a folder of patterns', '/import/folder'),
    ];
  }, [dispatch, navigate]);
  useOffer(EVERYWHERE, commands);

  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const isCommand = e.ctrlKey || e.metaKey;
      // What a room or a field has taken is done; single keys are typed where someone types.
      if (
        e.defaultPrevented ||
        isAsked() ||
        (isTyping(e.target) && !(isCommand && e.key.toLowerCase() === 'k'))
      )
        return;
      const all = allCommands().flatMap(({ command: one }) => (one.atStage ? [] : one));
      const found = commandFor(e, all);
      if (!found || (isSingle(e) && !isOnStage(e.target))) return;
      e.preventDefault();
      found.run();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  return (
    <Suspense>
      {shown === 'search' && <CommandSearch onClose={() => show(null)} />}
      {shown === 'keys' && <KeySheet onClose={() => show(null)} />}
    </Suspense>
  );
}
