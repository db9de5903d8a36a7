import {
  readPatterns,
  RowSchema,
  withPatternCorrected,
  writeDesign,
  PieceSchema,
  type Piece,
  type ReadOptions,
  type Row,
  type SectionRead,
  type DrawsIn,
  type WordSettings,
} from '@cordelina/core';
import { expose } from 'comlink';
import { HeldCharts, type Sent } from './held-charts.js';

/** Where a pattern stands in a text. */
type Section = Pick<SectionRead, 'from' | 'to'>;

const charts = new HeldCharts();

/** Writes, proves and reads off the page's own thread: a large piece takes a moment, and the page never waits. */
const wordsWorker = {
  prove: (sent: readonly Sent[], piece: Piece | null, settings: WordSettings & Partial<DrawsIn>) => {
    return writeDesign(charts.take(sent), piece && PieceSchema.parse(piece), settings);
  },
  read: (text: string, options: ReadOptions) => readPatterns(text, options),
  correct: (text: string, options: ReadOptions, section: Section, r: number, row: Row) =>
    withPatternCorrected(text, options, section, r, RowSchema.parse(row)),
};

export type WordsWorker = typeof wordsWorker;
expose(wordsWorker);
