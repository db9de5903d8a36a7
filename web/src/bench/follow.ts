import { eventText, ropeColumns, ropeName, ropesOf, rowTitle, type Ropes } from '@cordelina/core';
import { bench, type Cell } from '../desk/state/bench.js';
import { chartOnBench } from '../desk/state/editing.js';
import type { AppDispatch, RootState } from '../desk/state/index.js';

/** The rope that stands in a cell; null where none does. */
export function ropeAtCell({ cells }: Ropes, { row, column }: Cell): number | null {
  const rope = cells[row]?.[column] ?? -1;
  return rope < 0 ? null : rope;
}

/** Follows the rope at the cursor to its next crossing, upwards or down, and says what it does there. */
export function followRope(way: 1 | -1) {
  return (dispatch: AppDispatch, getState: () => RootState): void => {
    const chart = chartOnBench(getState());
    const { cursor } = getState().bench;
    if (!chart) return;
    const ropes = ropesOf(chart);
    const rope = ropeAtCell(ropes, cursor);
    const say = (text: string, tone: 'said' | 'refused') => dispatch(bench.said({ text, tone }));
    if (rope === null) {
      say('No rope stands at the cursor. Put it on one, and follow it.', 'refused');
      return;
    }
    const { events, begins, ends } = ropes.ropes[rope]!;
    const event =
      way > 0 ? events.find((e) => e.row > cursor.row) : events.findLast((e) => e.row < cursor.row);
    const row = event?.row ?? (way > 0 ? ends : begins.row);
    const [column] = ropeColumns(ropes, rope, row);
    dispatch(bench.moved({ cell: { row, column: column ?? cursor.column } }));
    const name = `Rope ${ropeName(rope)}`;
    say(
      event
        ? `${name} ${eventText(chart, event)}.`
        : `${name} ${way > 0 ? 'ends' : 'begins'} in ${rowTitle(chart, row + 1).toLowerCase()}.`,
      'said',
    );
  };
}
