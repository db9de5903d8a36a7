import { chartName } from '../chart/charts.js';
import type { Design } from '../chart/schema.js';
import type { Action } from '../machine/beds.js';
import { actionSigns, toolsOf } from '../machine/list-text.js';
import { listOf, type Method } from '../machine/list.js';
import { counted } from '../values.js';
import { JobFault } from './job.js';

/** A chart knitted on two beds: what is done at each reading of the row counter. */

export interface BedsOf extends Pick<Method, 'method' | 'every' | 'lean'> {
  machine: string;
}

/** What is done at one reading, and how many rows are knit then. */
export interface Reading {
  counter: number;
  /** One thing after the other; knitting on to the next reading is the last. */
  does: readonly string[];
}

export interface BedsJob {
  name: string;
  readings: readonly Reading[];
  /** Rows in all. */
  counts: number;
}

const needles = (list: readonly string[]): string =>
  list.length > 6 ? `${list[0]!} to ${list.at(-1)!}, ${list.length} needles` : list.join(' ');

const actionSaid = (action: Action): string =>
  [
    `${action.kind} ${actionSigns(action)}`,
    toolsOf(action) && `(${toolsOf(action)})`,
    action.out.length ? `; put ${action.out.join(' ')} out of work` : '',
  ]
    .filter(Boolean)
    .join(' ')
    .replace(' ;', ';');

/**
 * The list of a chart as it is worked by the counter.
 *
 * @throws JobFault where beds cannot knit the chart, in the words of its first problem
 */
export function bedsJobOf(design: Pick<Design, 'charts'>, { machine, ...method }: BedsOf): BedsJob {
  const chart = design.charts.find((c) => c.id === machine);
  if (!chart) throw new JobFault('This design has no such chart any more.');
  const { setup, actions, rows, problems, checked } = listOf(chart, method);
  if (problems.length) throw new JobFault(`Two beds cannot knit it so: ${problems[0]!.message}`);
  if (!checked) throw new JobFault('The list of this chart did not make its cloth on the simulated beds.');
  const counters = [...new Set([0, ...actions.map(({ counter }) => counter)])].sort((a, b) => a - b);
  const readings = counters.map((counter, i): Reading => {
    const next = counters[i + 1] ?? rows;
    const knit = next - counter;
    return {
      counter,
      does: [
        ...(i === 0
          ? [
              `hang the ropes on the back bed: ${needles(setup.back)}`,
              `the ground on the front bed: ${needles(setup.front)}`,
              'knit two plain rows, then set the counter to 0',
            ]
          : []),
        ...actions.filter((action) => action.counter === counter).map(actionSaid),
        ...(knit > 0 ? [`knit ${counted(knit, 'row')}, to ${next}`] : []),
      ],
    };
  });
  return { name: `${chartName(design as Design, chart)}, on two beds`, readings, counts: rows };
}
