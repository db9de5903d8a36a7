import {
  chartName,
  EditError,
  FLAT,
  moveChart,
  nameChart,
  putChart,
  reworked,
  startChart,
  takeChart,
  type Chart,
  type Design,
  type Step,
} from '@cordelina/core';
import { bench, chartIn } from './bench.js';
import { make, onBench } from './editing.js';
import type { AppDispatch, RootState } from './index.js';
import { newId } from '../../sync/newId.js';

/** The charts of the design on the bench: put in, named, ordered, taken out. */

type Thunk<T> = (dispatch: AppDispatch, getState: () => RootState) => T;

/** Lays another chart of the design on the bench. */
export function turnTo(id: string): Thunk<void> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    if (box) dispatch(bench.turnedTo({ chart: chartIn(box.document, id) }));
  };
}

/** Makes a change of the charts; what cannot be done is said. Afterwards `then` lies on the bench. */
function change(
  label: string,
  steps: (design: Design, chart: Chart) => { steps: Step[]; then?: string },
): Thunk<boolean> {
  return (dispatch, getState) => {
    const box = onBench(getState());
    if (!box) return false;
    try {
      const made = steps(box.document, chartIn(box.document, getState().bench.chart));
      if (!made.steps.length) return false;
      const done = dispatch(make({ id: newId(), label, steps: made.steps }));
      if (done && made.then) dispatch(turnTo(made.then));
      return done;
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      dispatch(bench.said({ text: error.message, tone: 'refused' }));
      return false;
    }
  };
}

const placeOf = ({ charts }: Design, { id }: Chart) => charts.findIndex((c) => c.id === id);

/** A motif as a chart of its own, beside the one on the bench. */
export const addMotifChart = (motif: Chart) =>
  change('add a motif', (design, chart) => {
    const id = newId();
    return { steps: putChart(design, placeOf(design, chart) + 1, { ...motif, id }), then: id };
  });

/** A new chart beside the one on the bench, of its size and construction. */
export const addChart = () =>
  change('add a chart', (design, chart) => {
    const { construction, ground, width } = chart;
    const fresh = startChart({ columns: width, rows: chart.rows.length, construction, ground });
    const id = newId();
    const made = { ...fresh, id, firstRow: chart.firstRow };
    return { steps: putChart(design, placeOf(design, chart) + 1, made), then: id };
  });

/** The chart on the bench once more, beside itself. */
export const duplicateChart = () =>
  change('duplicate a chart', (design, chart) => {
    const id = newId();
    const name = `${chartName(design, chart)}, copy`.slice(0, 80);
    return { steps: putChart(design, placeOf(design, chart) + 1, { ...chart, id, name }), then: id };
  });

/** A copy of the chart on the bench that is worked flat, as far as that has all of it. */
export const addFlatCopy = () =>
  change('a flat copy of a chart', (design, chart) => {
    const id = newId();
    const name = `${chartName(design, chart)}, flat`.slice(0, 80);
    const how = { construction: FLAT.id, firstRow: 'RS', ground: chart.ground } as const;
    const { chart: flat } = reworked(chart, how).edit;
    return { steps: putChart(design, placeOf(design, chart) + 1, { ...flat, id, name }), then: id };
  });

export const deleteChart = () =>
  change('delete a chart', (design, chart) => {
    const at = placeOf(design, chart);
    const next = design.charts[at + 1] ?? design.charts[at - 1];
    return { steps: takeChart(design, chart.id), then: next?.id };
  });

/** The chart on the bench moved so many places further down the order in which charts are printed. */
export const shiftChart = (by: number) =>
  change('move a chart', (design, chart) => ({
    steps: moveChart(design, chart.id, placeOf(design, chart) + by),
    then: chart.id,
  }));

export const renameChart = (name: string) =>
  change('name a chart', (_, chart) => ({ steps: nameChart(chart, name) }));
