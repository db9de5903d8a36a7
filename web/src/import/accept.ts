import { EditError, headChange, LIMITS, putChart, type Change, type TakenFromWords } from '@cordelina/core';
import { makeIn } from '../desk/state/editing.js';
import type { AppDispatch, RootState } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';
import { boxOf } from '../sync/outbox.js';
import { openOutbox } from '../sync/post.js';

/** Puts what was read into a design that is there, as one change that can be undone. @throws EditError */
export function putInto(id: string, { charts, names, asides }: TakenFromWords) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<boolean> => {
    await dispatch(openOutbox('design', id));
    const box = boxOf(getState().outbox, 'design', id);
    if (!box) throw new EditError('That design could not be opened.');
    const { document } = box;
    const steps = charts.flatMap((chart, i) => putChart(document, document.charts.length + i, chart));
    const { settings } = document;
    const head = headChange(
      document,
      {
        settings: { ...settings, names: { ...names, ...settings.names } },
        asides: [...new Set([...document.asides, ...asides])].slice(0, LIMITS.asides),
      },
      '',
      '',
    );
    const change: Change = {
      id: newId(),
      label: 'read from words',
      steps: [...steps, ...(head?.steps ?? [])],
    };
    return dispatch(makeIn(box, change));
  };
}
