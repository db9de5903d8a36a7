import { readPattern, writeAndProve, type Chart, type WordSettings } from '@cordelina/core';
import { expose } from 'comlink';

/** Writes, proves and reads off the page's own thread: a large piece takes a moment, and the page never waits. */
const wordsWorker = {
  prove: (chart: Chart, settings: WordSettings) => writeAndProve(chart, settings),
  read: (text: string, options: Parameters<typeof readPattern>[1]) => readPattern(text, options),
};

export type WordsWorker = typeof wordsWorker;
expose(wordsWorker);
