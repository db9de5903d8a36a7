import {
  applyToChart,
  ChartSchema,
  readPattern,
  StepSchema,
  writeAndProve,
  type Chart,
  type Step,
  type WordSettings,
} from '@cordelina/core';
import { expose } from 'comlink';

/** What comes to the worker of a chart: the whole of it, or the steps from the one it holds. */
export type Sent = { chart: Chart } | { steps: readonly Step[] };

/** The chart it holds: rows that no step touches stay the same, and what was worked out of them is remembered. */
let held: Chart | null = null;

function take(sent: Sent): Chart {
  if ('chart' in sent) return ChartSchema.parse(sent.chart);
  if (!held) throw new Error('The worker holds no chart that steps could change.');
  return applyToChart(held, StepSchema.array().parse(sent.steps));
}

/** Writes, proves and reads off the page's own thread: a large piece takes a moment, and the page never waits. */
const wordsWorker = {
  prove: (sent: Sent, settings: WordSettings) => {
    held = take(sent);
    return writeAndProve(held, settings);
  },
  read: (text: string, options: Parameters<typeof readPattern>[1]) => readPattern(text, options),
};

export type WordsWorker = typeof wordsWorker;
expose(wordsWorker);
