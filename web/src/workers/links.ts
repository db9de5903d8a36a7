import type { Remote } from 'comlink';
import checks from './checks.worker.ts?thread';
import cloth from './fabric/cloth.worker.ts?thread';
import files from './files.worker.ts?thread';
import machine from './machine.worker.ts?thread';
import piece from './piece.worker.ts?thread';
import tracing from './tracing.worker.ts?thread';
import words from './words.worker.ts?thread';
import type { ClothWorker } from './fabric/cloth.worker.js';
import type { ChecksWorker } from './checks.worker.js';
import type { FilesWorker } from './files.worker.js';
import { WorkerLink } from './link.js';
import type { MachineWorker } from './machine.worker.js';
import type { PieceWorker } from './piece.worker.js';
import type { TracingWorker } from './tracing.worker.js';
import type { WordsWorker } from './words.worker.js';

/** The workers there are, each with a link of its own for whoever needs one. */

export const checksLink = () => new WorkerLink<ChecksWorker>(() => new Worker(checks, { type: 'module' }));

export const wordsLink = () => new WorkerLink<WordsWorker>(() => new Worker(words, { type: 'module' }));

export const pieceLink = () => new WorkerLink<PieceWorker>(() => new Worker(piece, { type: 'module' }));

export const machineLink = () => new WorkerLink<MachineWorker>(() => new Worker(machine, { type: 'module' }));

export const filesLink = () => new WorkerLink<FilesWorker>(() => new Worker(files, { type: 'module' }));

export const clothLink = (begun: (remote: Remote<ClothWorker>) => unknown) =>
  new WorkerLink<ClothWorker>(() => new Worker(cloth, { type: 'module' }), begun);

export const tracingLink = () => new WorkerLink<TracingWorker>(() => new Worker(tracing, { type: 'module' }));
