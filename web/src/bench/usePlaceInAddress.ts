import { rowTitle } from '@cordelina/core';
import { useEffect, useRef } from 'react';
import { bench, chartIn } from '../desk/state/bench.js';
import { onBench } from '../desk/state/editing.js';
import { store, useAppDispatch, useAppSelector } from '../desk/state/index.js';

/** The address follows so long after the hand. */
const AFTER = 300;

/**
 * The chart and the cell in hand stand in the address, `?chart=…&row=7&column=3`, so that a reload, Back and Forward come back to
 * them, and a link leads there. What an address names that is not there is said, and the nearest is shown.
 */
export function usePlaceInAddress(design: string): void {
  const dispatch = useAppDispatch();
  const chart = useAppSelector((s) => s.bench.chart);
  const { row, column } = useAppSelector((s) => s.bench.cursor);
  const isRead = useRef<string | null>(null);

  useEffect(() => {
    if (isRead.current === design) return;
    isRead.current = design;
    const asked = new URLSearchParams(window.location.search);
    const document = onBench(store.getState())?.document;
    if (!document || ![...asked.keys()].some((key) => ['chart', 'row', 'column'].includes(key))) return;
    const id = asked.get('chart');
    const found = chartIn(document, id);
    if (found.id !== chartIn(document, store.getState().bench.chart).id)
      dispatch(bench.turnedTo({ chart: found }));
    const at = (name: string, most: number) => {
      const n = Number(asked.get(name) ?? 1);
      return Number.isInteger(n) && n >= 1 && n <= most ? n - 1 : null;
    };
    const [r, c] = [at('row', found.rows.length), at('column', found.width)];
    dispatch(bench.moved({ cell: { row: r ?? 0, column: c ?? 0 } }));
    const missing =
      id !== null && found.id !== id
        ? 'The chart this address names is not in the design any more: this is its first.'
        : r === null || c === null
          ? `There is no such ${r === null ? 'row' : 'column'} in this chart: it has ${found.rows.length} rows and ${found.width} columns. This is ${rowTitle(found, 1).toLowerCase()}.`
          : null;
    if (missing) dispatch(bench.said({ text: missing, tone: 'refused' }));
  }, [dispatch, design]);

  useEffect(() => {
    const timer = setTimeout(() => {
      const address = new URL(window.location.href);
      if (chart === null) address.searchParams.delete('chart');
      else address.searchParams.set('chart', chart);
      for (const [name, n] of [
        ['row', row],
        ['column', column],
      ] as const)
        if (n) address.searchParams.set(name, `${n + 1}`);
        else address.searchParams.delete(name);
      // The router is not asked: nothing of the page is another by it.
      if (address.href !== window.location.href)
        window.history.replaceState(window.history.state, '', address);
    }, AFTER);
    return () => clearTimeout(timer);
  }, [chart, row, column]);
}
