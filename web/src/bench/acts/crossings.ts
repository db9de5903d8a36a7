import {
  bookOf,
  EditError,
  flipCrossing,
  indexAt,
  isCrossing,
  mirrorBlock,
  mirrorCrossing,
  placeStitches,
  rowFacts,
  slipBelow,
  turnCrossing,
  type Crossing,
} from '@cordelina/core';
import { bench } from '../../desk/state/bench.js';
import { edit, work } from '../../desk/state/editing.js';
import { store, type AppDispatch } from '../../desk/state/index.js';
import { now } from './here.js';

/** What is done to the crossing at the cursor. */
export function crossings(dispatch: AppDispatch) {
  /** Puts another crossing in the place of the one at the cursor; without one, of the one in hand. */
  const recross = (label: string, change: (c: Crossing) => Crossing) => {
    const { cursor, chart } = now();
    const { hand } = store.getState().bench;
    const here = chart.rows[cursor.row]!;
    const under = here[indexAt(here, cursor.column, bookOf(chart))];
    if (hand && isCrossing(hand) && !(under && isCrossing(under)))
      return dispatch(bench.tookUp(change(hand)));
    return dispatch(
      work(label, (c) => {
        const book = bookOf(c);
        const row = c.rows[cursor.row]!;
        const i = indexAt(row, cursor.column, book);
        const stitch = row[i];
        if (stitch === undefined || !isCrossing(stitch))
          throw new EditError('Put the cursor on a crossing, or select what to mirror.');
        return placeStitches(c, cursor.row, rowFacts(row, book).starts[i]!, [change(stitch)]);
      }),
    );
  };

  return {
    flip: () => recross('swap over and under', flipCrossing),
    turn: () => recross('turn the lean', turnCrossing),
    mirror: () => {
      const { block, hasSelection } = now();
      if (hasSelection) dispatch(work('mirror', (c) => mirrorBlock(c, block), { alone: true }));
      else recross('mirror the crossing', mirrorCrossing);
    },
    slip: () => {
      const { cursor } = now();
      dispatch(edit('slip the rope below', (c) => slipBelow(c, cursor.row, cursor.column)));
    },
  };
}
