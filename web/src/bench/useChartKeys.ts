import type { Chart, Stitch } from '@cordelina/core';
import { useRef, useState, type KeyboardEvent } from 'react';
import { bench, type Cell } from '../store/bench.js';
import { chartOnBench, onBench } from '../store/editing.js';
import { store, useAppDispatch } from '../store/index.js';
import type { ChartActs } from './acts.js';
import { commandFor, type Commands } from './commands.js';
import { readEntry } from './entry.js';

/** The moves, as the sheet of keys tells them. */
export const MOVE_KEYS = [
  ['Arrows', 'one stitch or row'],
  ['Home, End', 'to the right or left edge'],
  ['Page Up, Page Down', 'ten rows'],
  ['Shift + a move', 'select'],
] as const;

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
    const entry = readEntry(text, design.settings.school, ended);
    if (entry.kind === 'more') return type(text);
    type('');
    if (entry.kind === 'refused') dispatch(bench.said({ text: entry.message, tone: 'refused' }));
    else if (entry.stitches.length === 1 && store.getState().bench.anchor) acts.fill(entry.stitches[0]!);
    else acts.place(entry.stitches, 'work a run');
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
      type('');
      dispatch(bench.moved({ cell: move(cursor, chart), extend: e.shiftKey }));
    } else if (e.key === 'Enter' && isPlain) {
      if (typedNow.current) take(typedNow.current, true);
      else if (hand) acts.fill(hand);
    } else if (e.key === 'Escape') letGo();
    else if (e.key === 'Backspace' && typedNow.current) type(typedNow.current.slice(0, -1));
    else if (command && (!isPlain || !typedNow.current || !/^[\da-z/]$/i.test(e.key))) command.run();
    else if (isPlain && /^[\da-z/]$/i.test(e.key)) take(typedNow.current + e.key, false);
    else handled = false;
    if (handled) e.preventDefault();
  };

  return { typed, onKeyDown };
}
