import { writeAndProve, type Chart, type WordSettings } from '@cordelina/core';
import { expose } from 'comlink';

/** Writes and proves off the page's own thread: a large piece takes a moment, and the page never waits. */
const proofWorker = { prove: (chart: Chart, settings: WordSettings) => writeAndProve(chart, settings) };

export type ProofWorker = typeof proofWorker;
expose(proofWorker);
