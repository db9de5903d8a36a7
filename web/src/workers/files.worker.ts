import {
  designOfFile,
  DocumentError,
  FileFault,
  fileOf,
  filesIn,
  formatOf,
  FORMATS,
  leftOut,
  measuresOf,
  readDesign,
  type DesignFileRead,
  type FormatId,
} from '@cordelina/core';
import { expose } from 'comlink';

/** What a file gives, or the sentence that says why it gives nothing. */
export type FileTaken = DesignFileRead | { problem: string };

/** What a file opened is: the files inside of it, or why it cannot be opened. */
export interface Opened {
  inside: { name: string; bytes: Uint8Array }[];
  problem: string | null;
}

/** Reads and makes files off the page's own thread: a workbook of a large chart takes seconds. */
const filesWorker = {
  /** The files in a zip; a file that is none by itself. */
  open(bytes: Uint8Array, name: string): Opened {
    try {
      return { inside: filesIn(bytes, name), problem: null };
    } catch (error) {
      if (error instanceof FileFault) return { inside: [], problem: error.message };
      throw error;
    }
  },
  async read(bytes: Uint8Array, name: string, id: string): Promise<{ taken: FileTaken }> {
    try {
      return { taken: await designOfFile(bytes, name, id) };
    } catch (error) {
      if (error instanceof FileFault || error instanceof DocumentError)
        return { taken: { problem: error.message } };
      throw error;
    }
  },
  async make(design: unknown, format: FormatId, corrections: readonly string[]): Promise<Blob> {
    const made = await fileOf(readDesign(design), format, corrections);
    return new Blob([made as BlobPart], { type: formatOf(format)!.mime });
  },
  /** The piece with its measures, where they are known. */
  measures: (design: unknown) => measuresOf(readDesign(design)),
  /** What of a design each format does not hold. */
  leftOut(design: unknown): Record<FormatId, string[]> {
    const read = readDesign(design);
    return Object.fromEntries(FORMATS.map(({ id }) => [id, leftOut(read, id)])) as Record<FormatId, string[]>;
  },
};

export type FilesWorker = typeof filesWorker;
expose(filesWorker);
