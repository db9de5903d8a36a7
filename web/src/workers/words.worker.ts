import {
  applyToChart,
  ChartSchema,
  readPatterns,
  RowSchema,
  withPatternCorrected,
  StepSchema,
  writeDesign,
  PieceSchema,
  type Chart,
  type Piece,
  type ReadOptions,
  type Row,
  type SectionRead,
  type Step,
  type WordSettings,
} from '@cordelina/core';
import { expose } from 'comlink';

/** Where a pattern stands in a text. */
type Section = Pick<SectionRead, 'from' | 'to'>;

/** What comes to the worker of a chart: the whole of it, or the steps from the one it holds under that id. */
export type Sent = { chart: Chart } | { id: string; steps: readonly Step[] };

/** The charts it holds: rows that no step touches stay the same, and what was worked out of them is remembered. */
let held = new Map<string, Chart>();

function take(sent: Sent): Chart {
  if ('chart' in sent) return ChartSchema.parse(sent.chart);
  const chart = held.get(sent.id);
  if (!chart) throw new Error('The worker holds no chart that steps could change.');
  return sent.steps.length ? applyToChart(chart, StepSchema.array().parse(sent.steps)) : chart;
}

/** Writes, proves and reads off the page's own thread: a large piece takes a moment, and the page never waits. */
const wordsWorker = {
  prove: (sent: readonly Sent[], piece: Piece | null, settings: WordSettings) => {
    const charts = sent.map(take);
    held = new Map(charts.map((chart) => [chart.id, chart]));
    return writeDesign(charts, piece && PieceSchema.parse(piece), settings);
  },
  read: (text: string, options: ReadOptions) => readPatterns(text, options),
  correct: (text: string, options: ReadOptions, section: Section, r: number, row: Row) =>
    withPatternCorrected(text, options, section, r, RowSchema.parse(row)),
};

export type WordsWorker = typeof wordsWorker;
expose(wordsWorker);
