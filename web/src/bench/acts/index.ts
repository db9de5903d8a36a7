import { useMemo } from 'react';
import { bench } from '../../desk/state/bench.js';
import { redo, undo } from '../../desk/state/editing.js';
import { useAppDispatch, type AppDispatch } from '../../desk/state/index.js';
import { clipboard } from './clipboard.js';
import { crossings } from './crossings.js';
import { entering } from './entering.js';
import { now } from './here.js';
import { shape } from './shape.js';

/** What is done to the chart itself; each acts on the cursor and the selection as they are when it is called. */
export function useChartActs() {
  const dispatch = useAppDispatch();
  return useMemo(() => chartActs(dispatch), [dispatch]);
}

const chartActs = (dispatch: AppDispatch) => ({
  ...entering(dispatch),
  ...crossings(dispatch),
  ...clipboard(dispatch),
  ...shape(dispatch),
  hasSelection: () => now().hasSelection,
  selectAll: () => {
    const { chart } = now();
    dispatch(
      bench.selected({
        anchor: { row: 0, column: 0 },
        cursor: { row: chart.rows.length - 1, column: chart.width - 1 },
      }),
    );
  },
  undo: () => dispatch(undo()),
  redo: () => dispatch(redo()),
});

export type ChartActs = ReturnType<typeof chartActs>;
