import { sideOf, type Chart, type Stitch } from '@cordelina/core';
import { useRef, useState, type KeyboardEvent } from 'react';
import { bench, type Cell } from '../store/bench.js';
import { chartOnBench, onBench } from '../store/editing.js';
import { store, useAppDispatch } from '../store/index.js';
import type { ChartActs } from './acts.js';
import { commandFor, type Commands } from './commands.js';
import { lexiconOf, readEntry } from './entry.js';

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

/** Keys of the chart: moves, the words of stitches as they are typed, and commands. `inReach` are what the digits set. */
export function useChartKeys(acts: ChartActs, commands: Commands, inReach: readonly Stitch[]) {
  const dispatch = useAppDispatch();
  const [typed, setTyped] = useState('');
  const typedNow = useRef('');
  /** What was typed last, for Enter to set it again. */
  const last = useRef<readonly Stitch[]>([]);
  const type = (text: string) => {
    typedNow.current = text;
    setTyped(text);
  };

  const take = (text: string, ended: boolean): void => {
    const design = onBench(store.getState())?.document;
    if (!design) return;
    if (ended && /^\d{1,2}$/.test(text)) {
      type('');
      const stitch = inReach[Number(text) - 1];
      if (stitch) acts.fill(stitch);
      else dispatch(bench.said({ text: `Nothing lies in reach under ${text}.`, tone: 'refused' }));
      return;
    }
    const chart = chartOnBench(store.getState())!;
    const side = sideOf(chart, store.getState().bench.cursor.row);
    const entry = readEntry(text, lexiconOf(chart, design.settings, side), ended);
    if (entry.kind === 'more') return type(text);
    type('');
    if (entry.kind === 'refused') dispatch(bench.said({ text: entry.message, tone: 'refused' }));
    else if (entry.kind === 'leave') acts.leave(entry.columns);
    else {
      const { stitches, alone } = entry;
      last.current = stitches;
      if (stitches.length === 1 && store.getState().bench.anchor) acts.fill(stitches[0]!, alone);
      else acts.place(stitches, 'work a run', alone);
    }
  };

  /** Esc lets go of one thing after the other. */
  const letGo = () => {
    const { cursor, anchor } = store.getState().bench;
    if (typedNow.current) type('');
    else if (anchor) dispatch(bench.moved({ cell: cursor }));
    else commands.point.run();
  };

  const onKeyDown = (e: KeyboardEvent) => {
    const { cursor, hand } = store.getState().bench;
    const chart = chartOnBench(store.getState());
    if (!chart) return;
    const isPlain = !e.ctrlKey && !e.metaKey && !e.altKey;
    const move = isPlain ? MOVES[e.key] : undefined;
    const command = commandFor(e, commands);
    let handled = true;
    if (move) {
      // A count before an arrow moves so far.
      const times =
        e.key.startsWith('Arrow') && /^\d{1,3}$/.test(typedNow.current) ? Number(typedNow.current) : 1;
      type('');
      let cell = cursor;
      for (let i = 0; i < times; i++) cell = move(cell, chart);
      dispatch(bench.moved({ cell, extend: e.shiftKey }));
    } else if (e.key === 'Enter' && isPlain) {
      if (typedNow.current) take(typedNow.current, true);
      else if (hand) acts.fill(hand);
      else if (last.current.length === 1) acts.fill(last.current[0]!);
      else if (last.current.length) acts.place(last.current, 'work a run');
    } else if (e.key === 'Escape') letGo();
    else if (e.key === 'Backspace' && typedNow.current) type(typedNow.current.slice(0, -1));
    else if (command && (!isPlain || !typedNow.current || !TYPED.test(e.key))) command.run();
    else if (isPlain && TYPED.test(e.key)) take(typedNow.current + e.key, false);
    else handled = false;
    if (handled) e.preventDefault();
  };

  return { typed, onKeyDown };
}
