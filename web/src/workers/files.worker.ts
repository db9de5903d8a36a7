import {
  Archive,
  designOfFile,
  DocumentError,
  FileFault,
  fileOf,
  filesIn,
  formatOf,
  FORMATS,
  leftOut,
  measuresOf,
  keepingOver,
  readDesign,
  restored,
  restorePlanOf,
  RestoreRefused,
  type Ask,
  type DesignFileRead,
  type Planned,
  type Restored,
  type Take,
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

/** What a backup is of, and how what is in it stands to the workroom. */
export interface BackupSeen {
  at: string;
  designs: number;
  documents: number;
  is: Record<Planned['is'], number>;
}

let opened: { archive: Archive; plan: Planned[] } | null = null;

const ask: Ask = async (method, path, body) => {
  const answer = await fetch(path, {
    method,
    ...(body && { headers: { 'Content-Type': body.type }, body: body.bytes as BodyInit }),
  });
  return { status: answer.status, text: await answer.text() };
};

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
  /** Opens a backup, checks all of it, and holds it against the workroom. */
  async openBackup(
    bytes: Uint8Array,
    onLook: (done: number, of: number) => void,
  ): Promise<{ seen: BackupSeen | null; problem: string | null }> {
    try {
      const archive = Archive.open(bytes);
      const plan = await restorePlanOf(archive, keepingOver(ask), onLook);
      opened = { archive, plan };
      const count = (is: Planned['is']) => plan.filter((one) => one.is === is).length;
      const { at, documents } = archive.manifest;
      return {
        seen: {
          at,
          documents: documents.length,
          designs: documents.filter(({ of }) => of === 'design').length,
          is: {
            new: count('new'),
            same: count('same'),
            differs: count('differs'),
            spoiled: count('spoiled'),
          },
        },
        problem: null,
      };
    } catch (error) {
      return { seen: null, problem: sentence(error) };
    }
  },
  /** Does what was looked at. `ids` are for copies, as many as differ. */
  async restore(
    take: Take,
    ids: readonly string[],
    onDone: (done: number, of: number) => void,
  ): Promise<{ restored: Restored | null; problem: string | null }> {
    try {
      const { archive, plan } = opened!;
      const left = [...ids];
      const newId = () => left.pop()!;
      return {
        restored: await restored(archive, plan, take, keepingOver(ask), newId, onDone),
        problem: null,
      };
    } catch (error) {
      return { restored: null, problem: sentence(error) };
    }
  },
  /** The piece with its measures, where they are known. */
  measures: (design: unknown) => measuresOf(readDesign(design)),
  /** What of a design each format does not hold. */
  leftOut(design: unknown): Record<FormatId, string[]> {
    const read = readDesign(design);
    return Object.fromEntries(FORMATS.map(({ id }) => [id, leftOut(read, id)])) as Record<FormatId, string[]>;
  },
};

/** What keeps a backup from being restored, as one sentence. */
function sentence(error: unknown): string {
  if (error instanceof FileFault || error instanceof DocumentError || error instanceof RestoreRefused)
    return error.message;
  if (error instanceof TypeError) return 'The server is away: a backup is restored when it is back.';
  throw error;
}

export type FilesWorker = typeof filesWorker;
expose(filesWorker);
