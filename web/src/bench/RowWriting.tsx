import { useMemo } from 'react';
import { bench } from '../desk/state/bench.js';
import { useAppDispatch } from '../desk/state/index.js';
import { ownChart } from '../desk/state/editing.js';
import { useAppSelector } from '../desk/state/index.js';
import RowEditor from './RowEditor.js';
import { readRow, rowCompletions, writeRow, writeRows } from './row-writing.js';

/** The editor of a row's words, in their place. `onEnd` when they have become the row, or wait, or were left as they were. */
export function Writing({ row, initial, onEnd }: { row: number; initial: string; onEnd: () => void }) {
  const dispatch = useAppDispatch();
  const words = useMemo(() => dispatch(rowCompletions(row)), [dispatch, row]);
  return (
    <RowEditor
      initial={initial}
      read={(text) => dispatch(readRow(row, text))}
      words={words}
      onRead={({ waiting, taken }) => dispatch(bench.wrote({ row, waiting, taken }))}
      onDone={(text) => {
        onEnd();
        dispatch(writeRow(row, text));
      }}
      onRows={(text) => {
        onEnd();
        dispatch(writeRows(row, text));
      }}
    />
  );
}

/** Words that wait, with why they are not on the chart. */
export function Unfinished({ row, text }: { row: number; text: string }) {
  const dispatch = useAppDispatch();
  // As it is on the chart of now.
  useAppSelector(ownChart);
  const why = dispatch(readRow(row, text))?.problem?.message ?? 'it comes out now.';
  return <span title={`Not on the chart yet: ${why}\nDouble click to go on writing.`}>{text}</span>;
}
