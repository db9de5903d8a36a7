import {
  changeOf,
  EditError,
  headChange,
  RowWordsError,
  StepMisfit,
  type Change,
  type Chart,
  type Design,
  type Edit,
} from '@cordelina/core';
import type { AppDispatch, RootState } from './index.js';
import { bench } from './bench.js';
import { newId } from './newId.js';

const isRefusal = (error: unknown): error is Error =>
  [EditError, StepMisfit, RowWordsError, RangeError].some((kind) => error instanceof kind);

/** Makes an edit of the chart; what cannot be done is said and changes nothing. Edits of one stroke are undone as one. */
export function edit(label: string, change: (chart: Chart) => Edit, stroke?: number) {
  return (dispatch: AppDispatch, getState: () => RootState): boolean => {
    const { design } = getState().bench;
    if (!design) return false;
    try {
      const made = changeOf(change(design.charts[0]!), label, newId());
      if (made) dispatch(bench.edited({ ...made, stroke }));
      return true;
    } catch (error) {
      if (!isRefusal(error)) throw error;
      dispatch(bench.said({ text: error.message, tone: 'refused' }));
      return false;
    }
  };
}

/** Changes the title, notes or settings. */
export function editHead(label: string, patch: Partial<Pick<Design, 'title' | 'notes' | 'settings'>>) {
  return (dispatch: AppDispatch, getState: () => RootState): void => {
    const { design } = getState().bench;
    const change: Change | null = design && headChange(design, patch, label, newId());
    if (change) dispatch(bench.edited(change));
  };
}
