import { dictionOf, mannerOf, wordsOfRow, type Chart, type Settings } from '@cordelina/core';
import { rowOfDraft, type Draft } from '../desk/state/drafts.js';

/** The words of a chart's row, as they are shown beside it. */
export const shownWords = (chart: Chart, settings: Settings, row: number): string =>
  wordsOfRow(chart, row, dictionOf(chart, settings), mannerOf(settings.style, chart));

/** The unfinished words of a chart by the rows they stand in now. */
export function draftsByRow(all: readonly Draft[], design: string | null, chart: Chart, settings: Settings) {
  const words = (row: number) => shownWords(chart, settings, row);
  return new Map(
    all
      .filter((d) => d.design === design && d.chart === chart.id)
      .map((d) => [rowOfDraft(d, chart.rows.length, words), d]),
  );
}
