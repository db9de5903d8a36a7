import { applyToChart, ChartSchema, chartSteps, StepSchema, type Chart, type Step } from '@cordelina/core';

/** What comes to a worker of a chart: the whole of it, or the steps from the one it holds under that id. */
export type Sent = { chart: Chart } | { id: string; steps: readonly Step[] };

/** What a worker must be sent to hold charts: the steps from those it holds, where these are the same charts. */
export function sending(held: readonly Chart[], charts: readonly Chart[]): Sent[] {
  return charts.map((chart): Sent => {
    const was = held.find((c) => c.id === chart.id);
    const steps = was === chart ? [] : was && chartSteps(was, chart);
    return steps ? { id: chart.id, steps } : { chart };
  });
}

/** The charts a worker holds: rows that no step touches stay the same, and what was worked out of them is remembered. */
export class HeldCharts {
  #held = new Map<string, Chart>();

  take(sent: readonly Sent[]): Chart[] {
    const charts = sent.map((one): Chart => {
      if ('chart' in one) return ChartSchema.parse(one.chart);
      const chart = this.#held.get(one.id);
      if (!chart) throw new Error('The worker holds no chart that steps could change.');
      return one.steps.length ? applyToChart(chart, StepSchema.array().parse(one.steps)) : chart;
    });
    this.#held = new Map(charts.map((chart) => [chart.id, chart]));
    return charts;
  }
}
