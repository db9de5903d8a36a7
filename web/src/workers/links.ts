import type { Remote } from 'comlink';
import type { ClothWorker } from './fabric/cloth.worker.js';
import type { ChecksWorker } from './checks.worker.js';
import { WorkerLink } from './link.js';
import type { MachineWorker } from './machine.worker.js';
import type { PieceWorker } from './piece.worker.js';
import type { WordsWorker } from './words.worker.js';

/** The workers there are, each with a link of its own for whoever needs one. */

export const checksLink = () =>
  new WorkerLink<ChecksWorker>(
    () => new Worker(new URL('./checks.worker.ts', import.meta.url), { type: 'module' }),
  );

export const wordsLink = () =>
  new WorkerLink<WordsWorker>(
    () => new Worker(new URL('./words.worker.ts', import.meta.url), { type: 'module' }),
  );

export const pieceLink = () =>
  new WorkerLink<PieceWorker>(
    () => new Worker(new URL('./piece.worker.ts', import.meta.url), { type: 'module' }),
  );

export const machineLink = () =>
  new WorkerLink<MachineWorker>(
    () => new Worker(new URL('./machine.worker.ts', import.meta.url), { type: 'module' }),
  );

export const clothLink = (begun: (remote: Remote<ClothWorker>) => unknown) =>
  new WorkerLink<ClothWorker>(
    () => new Worker(new URL('./fabric/cloth.worker.ts', import.meta.url), { type: 'module' }),
    begun,
  );
