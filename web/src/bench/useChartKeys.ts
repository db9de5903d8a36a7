import { namingOf, sideOf, type Chart, type Stitch } from '@cordelina/core';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { bench, type Cell } from '../desk/state/bench.js';
import { chartOnBench, onBench } from '../desk/state/editing.js';
import { store, useAppDispatch } from '../desk/state/index.js';
import type { ChartActs } from './acts/index.js';
import { commandFor } from '../desk/commands/command.js';
import type { Commands } from './commands.js';
import { lexiconOf, notRead, readEntry, type Entry, type Reading } from './entry.js';

/** The moves, as the sheet of keys tells them. */
export const MOVE_KEYS = [
  ['Arrows', 'one stitch or row; after a number, so many'],
  ['Home, End', 'to the right or left edge'],
  ['Page Up, Page Down', 'ten rows'],
  ['Shift + a move', 'select'],
  ['Space + drag', 'move the chart; Ctrl + wheel, or two fingers, zoom'],
] as const;

/** What entries are typed with; a key of these is a command only while nothing is typed. */
const TYPED = /^[\da-z/.!-]$/i;

const PAGE = 10;
const MOVES: Record<string, (c: Cell, chart: Chart) => Cell> = {
  ArrowUp: (c) => ({ ...c, row: c.row + 1 }),
  ArrowDown: (c) => ({ ...c, row: c.row - 1 }),
  ArrowLeft: (c) => ({ ...c, column: c.column + 1 }),
  ArrowRight: (c) => ({ ...c, column: c.column - 1 }),
  PageUp: (c) => ({ ...c, row: c.row + PAGE }),
  PageDown: (c) => ({ ...c, row: c.row - PAGE }),
  Home: (c) => ({ ...c, column: 0 }),
  End: (c, chart) => ({ ...c, column: chart.width - 1 }),
};

/** So long the browser may take to tell what is on the clipboard, in milliseconds. */
const UNTOLD = 80;

/**
 * What is typed and means something as it stands is done after so long, unless a further key makes more of it. Within the name of a
 * crossing hands may look for a key longer: 2/2l is one, and so is 2/2lc.
 */
const PAUSE = { word: 450, crossing: 1200 } as const;
const pauseAfter = (text: string): number => (text.includes('/') ? PAUSE.crossing : PAUSE.word);

/** Keys of the chart: moves, the words of stitches as they are typed, and commands. `inReach` are what the digits set. */
export function useChartKeys(acts: ChartActs, commands: Commands, inReach: readonly Stitch[]) {
  const dispatch = useAppDispatch();
  const [typed, setTyped] = useState('');
  const typedNow = useRef('');
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** The commands of the letters typed so far, where each is one and they may also begin a word. */
  const waiting = useRef<readonly { run: () => void }[]>([]);
  /** What was typed last, for Enter to set it again. */
  const last = useRef<readonly Stitch[]>([]);
  const pasting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const type = (text: string) => {
    clearTimeout(timer.current);
    typedNow.current = text;
    setTyped(text);
  };

  const refuse = (text: string): void => {
    dispatch(bench.said({ text, tone: 'refused' }));
  };

  /** What keys mean at the cursor, as the chart and its names are now. */
  const read = (text: string): Reading => {
    const design = onBench(store.getState())?.document;
    const chart = chartOnBench(store.getState());
    if (!design || !chart) return { now: null, more: false };
    const side = sideOf(chart, store.getState().bench.cursor.row);
    return readEntry(text, lexiconOf(chart, namingOf(design.settings, chart), side));
  };

  const act = (entry: Entry): void => {
    if (entry.kind === 'refused') refuse(entry.message);
    else if (entry.kind === 'leave') acts.leave(entry.columns);
    else {
      const { stitches, alone } = entry;
      last.current = stitches;
      if (stitches.length === 1 && store.getState().bench.anchor) acts.fill(stitches[0]!, alone);
      else acts.place(stitches, 'work a run', alone);
    }
  };

  /** The longest part from the beginning that means something as it stands; 0 where none does. */
  const longestMeant = (text: string): number => {
    for (let n = text.length; n > 0; n--) {
      const { now } = read(text.slice(0, n));
      if (now && now.kind !== 'refused') return n;
    }
    return 0;
  };

  /** Does what is typed, as far as it means something; a count that is left waits for what it counts. */
  const settle = (): void => {
    const text = typedNow.current;
    const commanded = waiting.current;
    waiting.current = [];
    if (!text) return;
    const n = longestMeant(text);
    type('');
    if (commanded.length) for (const { run } of commanded) run();
    else if (n > 0) {
      act(read(text.slice(0, n)).now!);
      if (n < text.length) feed(text.slice(n));
    } else if (/^!?\d{0,3}$/.test(text)) type(text);
    else
      refuse(
        read(text).now?.kind === 'refused' ? (read(text).now as { message: string }).message : notRead(text),
      );
  };

  /** Takes keys on top of nothing: what they can no longer be part of is done, or refused and nothing set. */
  const feed = (text: string): void => {
    const { now, more } = read(text);
    if (now && !more) {
      type('');
      return act(now);
    }
    if (more) {
      type(text);
      if (now || waiting.current.length) timer.current = setTimeout(settle, pauseAfter(text));
      return;
    }
    const n = longestMeant(text);
    type('');
    if (!n || n === text.length) return refuse(notRead(text));
    act(read(text.slice(0, n)).now!);
    feed(text.slice(n));
  };

  const enter = (text: string): void => {
    if (/^\d{1,2}$/.test(text)) {
      type('');
      const stitch = inReach[Number(text) - 1];
      if (stitch) acts.fill(stitch);
      else refuse(`Nothing lies in reach under ${text}.`);
      return;
    }
    waiting.current = [];
    settle();
  };

  /** Esc lets go of one thing after the other. */
  const letGo = () => {
    const { cursor, anchor } = store.getState().bench;
    waiting.current = [];
    if (typedNow.current) type('');
    else if (anchor) dispatch(bench.moved({ cell: cursor }));
    else commands.point.run();
  };

  const onKeyDown = (e: KeyboardEvent) => {
    const { hand } = store.getState().bench;
    const chart = chartOnBench(store.getState());
    if (!chart) return;
    const isPlain = !e.ctrlKey && !e.metaKey && !e.altKey;
    const move = isPlain ? MOVES[e.key] : undefined;
    const command = commandFor(e, Object.values(commands));
    let handled = true;
    if (move) {
      // A count before an arrow moves so far; anything else that is typed is done first.
      const isCount = /^\d{1,3}$/.test(typedNow.current);
      const times = e.key.startsWith('Arrow') && isCount ? Number(typedNow.current) : 1;
      if (!isCount) settle();
      type('');
      let { cursor: cell } = store.getState().bench;
      for (let i = 0; i < times; i++) cell = move(cell, chart);
      dispatch(bench.moved({ cell, extend: e.shiftKey }));
    } else if (e.key === 'Enter' && isPlain) {
      if (typedNow.current) enter(typedNow.current);
      else if (hand) acts.fill(hand);
      else if (last.current.length === 1) acts.fill(last.current[0]!);
      else if (last.current.length) acts.place(last.current, 'work a run');
    } else if (e.key === 'Escape') letGo();
    else if (e.key === 'Backspace' && typedNow.current) {
      waiting.current = waiting.current.slice(0, -1);
      type(typedNow.current.slice(0, -1));
    } else if (command === commands.paste) {
      settle();
      // The browser tells what is on the clipboard by an event of its own; where none comes, what is held here is laid.
      handled = false;
      pasting.current = setTimeout(() => void acts.paste(), UNTOLD);
    } else if (command && (!isPlain || !TYPED.test(e.key))) {
      settle();
      command.run();
    } else if (isPlain && TYPED.test(e.key)) {
      const text = typedNow.current + e.key;
      const isFirst = !typedNow.current;
      // A letter that is a command, and may begin a word, waits for the next key.
      if (isFirst && command && !read(text).more) command.run();
      else if (waiting.current.length && !read(text).more && !read(text).now) {
        settle();
        if (command && !read(e.key).more) command.run();
        else {
          waiting.current = command ? [command] : [];
          feed(e.key);
        }
      } else {
        // Letters that are all commands are these, if no word comes of them.
        const isAll = command && waiting.current.length === typedNow.current.length;
        waiting.current = isAll ? [...waiting.current, command] : [];
        feed(text);
      }
    } else handled = false;
    if (handled) e.preventDefault();
  };

  const onPaste = (e: ClipboardEvent) => {
    clearTimeout(pasting.current);
    e.preventDefault();
    void acts.paste(e.clipboardData.getData('text/plain'));
  };

  return { typed, onKeyDown, onPaste, settle };
}
