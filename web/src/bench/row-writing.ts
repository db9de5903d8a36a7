import {
  completionsFor,
  readRowWords,
  rowFromWords,
  withRow,
  writeRowsFrom,
  type Chart,
  type Completion,
  type RowRead,
  type Settings,
} from '@cordelina/core';
import { bench } from '../desk/state/bench.js';
import { drafts } from '../desk/state/drafts.js';
import { editOwn, onBench, ownChart } from '../desk/state/editing.js';
import type { AppDispatch, RootState } from '../desk/state/index.js';
import { draftsByRow, shownWords } from './row-drafts.js';

type Thunk<T = void> = (dispatch: AppDispatch, getState: () => RootState) => T;

/** What is on the bench, for words to be written into. */
function laid(state: RootState): { design: string; chart: Chart; settings: Settings } | null {
  const document = onBench(state)?.document;
  const chart = ownChart(state);
  return document && chart ? { design: document.id, chart, settings: document.settings } : null;
}

/** What words make of a row of the chart on the bench. */
export const readRow =
  (row: number, text: string): Thunk<RowRead | null> =>
  (_, getState) => {
    const on = laid(getState());
    return on && readRowWords(on.chart, row, text, on.settings);
  };

/** What may stand in the words of a row. */
export const rowCompletions =
  (row: number): Thunk<readonly Completion[]> =>
  (_, getState) => {
    const on = laid(getState());
    return on ? completionsFor(on.chart, row, on.settings) : [];
  };

/** The draft of a row is given up. */
const dropDraft =
  (row: number): Thunk =>
  (dispatch, getState) => {
    const on = laid(getState());
    const found = on && draftsByRow(getState().drafts, on.design, on.chart, on.settings).get(row);
    if (found) dispatch(drafts.dropped(found));
  };

/** Words that were written in a row become the row; where they do not come out they wait as they were written. */
export const writeRow =
  (row: number, written: string | null): Thunk =>
  (dispatch, getState) => {
    dispatch(dropDraft(row));
    const on = laid(getState());
    if (!on || !written?.trim()) return;
    const { design, chart, settings } = on;
    const was = shownWords(chart, settings, row);
    if (written === was) return;
    if (readRowWords(chart, row, written, settings).problem)
      dispatch(drafts.kept({ design, chart: chart.id, row, was, text: written }));
    else
      dispatch(
        editOwn(`write row ${row + 1}`, (c) => withRow(c, row, rowFromWords(c, row, written, settings))),
      );
  };

const rows = (n: number): string => `${n} ${n === 1 ? 'row' : 'rows'}`;

/** A text of several rows goes into the chart from a row up, or at the numbers it names, as one edit. */
export const writeRows =
  (row: number, text: string): Thunk =>
  (dispatch, getState) => {
    dispatch(dropDraft(row));
    const on = laid(getState());
    if (!on) return;
    const { design, settings } = on;
    let told: ReturnType<typeof writeRowsFrom> | undefined;
    dispatch(editOwn('write rows', (c) => (told = writeRowsFrom(c, row, text, settings)).edit));
    if (!told) return;
    const { chart } = told.edit;
    for (const draft of told.drafts)
      dispatch(
        drafts.kept({
          design,
          chart: chart.id,
          row: draft.row,
          was: shownWords(chart, settings, draft.row),
          text: draft.text,
        }),
      );
    const left = told.drafts.length;
    dispatch(
      bench.said({
        text: left
          ? `${rows(told.set)} written; ${rows(left)} did not come out and ${left === 1 ? 'waits' : 'wait'} as written, marked.`
          : `${rows(told.set)} written.`,
        tone: left ? 'refused' : 'said',
      }),
    );
  };
