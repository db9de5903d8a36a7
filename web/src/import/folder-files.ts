import type { FileLeft, TextFile } from '../desk/state/folder.js';

/** A pattern is shorter; a folder of them too. */
const LARGEST = 1_000_000;
const MOST_FILES = 500;
const LARGEST_FOLDER = 20_000_000;
const DEEPEST = 12;
/** What a text is called where its name does not say so. */
const TEXT = /\.(?:txt|text|md|markdown|asc|pattern)$/i;

/** A file, by its path in the folder it was chosen with. */
interface Found {
  name: string;
  file: File;
}

/** The files of what was dropped, those of its folders too. */
async function foundIn(transfer: DataTransfer): Promise<Found[]> {
  // The entries must be asked for before anything is waited for.
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry());
  const plain = [...transfer.files];
  if (!entries.some((entry) => entry?.isDirectory)) return plain.map((file) => ({ name: file.name, file }));
  const out: Found[] = [];
  for (const entry of entries) if (entry) await filesUnder(entry, out, 0);
  return out;
}

async function filesUnder(entry: FileSystemEntry, out: Found[], depth: number): Promise<void> {
  if (out.length > MOST_FILES || depth > DEEPEST) return;
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    );
    out.push({ name: entry.fullPath.replace(/^\//, ''), file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  // A folder is told in parts, until one is empty.
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (!part.length) return;
    for (const inner of part) await filesUnder(inner, out, depth + 1);
  }
}

/** Reads the texts among files; what is none, or too large, is left, and why. */
async function textsOf(found: readonly Found[]): Promise<{ files: TextFile[]; left: FileLeft[] }> {
  const files: TextFile[] = [];
  const left: FileLeft[] = [];
  let size = 0;
  const isAlone = found.length === 1;
  for (const { name, file } of found) {
    const leave = (why: string) => left.push({ name, why });
    if (/(?:^|\/)\./.test(name)) continue;
    if (!isAlone && !TEXT.test(name) && !file.type.startsWith('text/plain')) leave('it is no text file.');
    else if (file.size > LARGEST)
      leave('it is longer than a pattern: at most a million characters are read.');
    else if (files.length >= MOST_FILES) leave(`a folder of at most ${MOST_FILES} texts is read at once.`);
    else if (size + file.size > LARGEST_FOLDER)
      leave('the texts of this folder are more than is read at once.');
    else {
      const text = await file.text();
      if (text.includes('\u0000')) leave('it is no text.');
      else if (!text.trim()) leave('it is empty.');
      else {
        files.push({ name, text });
        size += file.size;
      }
    }
  }
  return { files, left };
}

/** The texts of what was dropped, or of files that were chosen. */
export async function filesOf(given: DataTransfer | FileList) {
  const found =
    'items' in given
      ? await foundIn(given)
      : [...given].map((file) => ({ name: file.webkitRelativePath || file.name, file }));
  // They are told by their names in the folder that was chosen.
  const folder = /^[^/]+\//.exec(found[0]?.name ?? '')?.[0] ?? '';
  const inside = found.every(({ name }) => name.startsWith(folder))
    ? found.map(({ name, file }) => ({ name: name.slice(folder.length), file }))
    : found;
  return textsOf(inside.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true })));
}
