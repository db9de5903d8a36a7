import {
  ARCHIVE_FORMAT,
  MANIFEST,
  SUMS,
  sumsText,
  type ArchivedItem,
  type KindName,
  type Manifest,
} from '@cordelina/core';
import archiver from 'archiver';
import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Logger } from 'pino';
import { ApiError } from '../work/faults.js';
import type { Workroom } from './index.js';

/** Folders of a backup, by kind. */
const FOLDERS: Readonly<Record<KindName, string>> = {
  design: 'designs',
  swatch: 'swatches',
  studio: 'studio',
  edition: 'editions',
  knitting: 'knittings',
  note: 'notes',
};
const ENDINGS = { 'image/jpeg': 'jpg', 'image/png': 'png', 'image/webp': 'webp' } as const;

/**
 * Everything in a workroom as one zip, as it stood when it was begun: what is listed then is taken at the very versions that are
 * listed, which stay as they are whatever is saved meanwhile.
 */
export function backupOf(workroom: Workroom): Readable {
  const zip = archiver('zip', { zlib: { level: 6 } });
  fill(zip, workroom).then(
    () => zip.finalize(),
    (error: unknown) => zip.destroy(error as Error),
  );
  return zip;
}

async function fill(zip: archiver.Archiver, workroom: Workroom): Promise<void> {
  const at = new Date();
  const sums = new Map<string, string>();
  /** Puts one file in, and waits until it is packed: never more than one is held. */
  const put = async (name: string, bytes: Uint8Array): Promise<void> => {
    sums.set(name, createHash('sha256').update(bytes).digest('hex'));
    const packed = new Promise<void>((resolve) => zip.once('entry', () => resolve()));
    zip.append(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length), { name, date: at });
    await packed;
  };
  const manifest: Manifest & { documents: ArchivedItem[]; left: Manifest['left'][number][] } = {
    program: 'Cordelina',
    format: ARCHIVE_FORMAT,
    at: at.toISOString(),
    documents: [],
    left: [],
  };
  for (const { of, id, title, version, savedAt, named } of await workroom.everything()) {
    const folder = `${FOLDERS[of]}/${id}`;
    try {
      const documents = workroom.of(of);
      await put(`${folder}.json`, (await documents.openEarlier(id, version)).plain);
      const states: ArchivedItem['named'][number][] = [];
      for (const state of named.filter((one) => one.version <= version)) {
        const file = `${folder}/${state.version}.json`;
        await put(file, (await documents.openEarlier(id, state.version)).plain);
        states.push({ ...state, file });
      }
      const photo = of === 'swatch' || of === 'note' ? await workroom.photos[of].photo(id) : null;
      const file = photo && `${folder}.${ENDINGS[photo.type]}`;
      if (photo) await put(file!, photo.bytes);
      manifest.documents.push({
        of,
        id,
        title: title.slice(0, 400),
        version,
        savedAt,
        file: `${folder}.json`,
        named: states,
        photo: photo && { file: file!, type: photo.type },
      });
    } catch (error) {
      // Taken out while the copy was made, or damaged: the rest is copied all the same, and this is said.
      if (!(error instanceof ApiError)) throw error;
      manifest.left.push({ of, id, why: error.message.slice(0, 400) });
    }
  }
  await put(MANIFEST, Buffer.from(JSON.stringify(manifest, null, 1)));
  zip.append(sumsText(sums), { name: SUMS, date: at });
}

/** How a backup of a moment is called. */
export const backupName = (at: Date): string =>
  `cordelina-${at.toISOString().slice(0, 16).replace(':', '-')}.zip`;
const IS_BACKUP = /^cordelina-\d{4}-\d\d-\d\dT\d\d-\d\d\.zip$/;

/** So many that were made on a schedule are kept in their folder. */
const KEPT = 14;

/** Lays a backup down in a folder, whole or not at all, and lets the oldest go. @returns where it lies */
export async function layBackup(workroom: Workroom, folder: string, at = new Date()): Promise<string> {
  await mkdir(folder, { recursive: true });
  const file = path.join(folder, backupName(at));
  const part = `${file}.part`;
  try {
    await pipeline(backupOf(workroom), createWriteStream(part));
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
  const old = (await readdir(folder)).filter((name) => IS_BACKUP.test(name)).toSorted();
  for (const name of old.slice(0, -KEPT)) await rm(path.join(folder, name), { force: true });
  return file;
}

/** When the newest of a folder's backups was made, by its name; null where there is none. */
async function newest(folder: string): Promise<Date | null> {
  const names = await readdir(folder).catch(() => []);
  const last = names
    .filter((name) => IS_BACKUP.test(name))
    .toSorted()
    .at(-1);
  if (!last) return null;
  const [day, time] = last.slice('cordelina-'.length, -'.zip'.length).split('T') as [string, string];
  return new Date(`${day}T${time.replace('-', ':')}:00Z`);
}

const HOUR = 3_600_000;
/** How often it is looked whether one is due: a machine sleeps, and its timers with it. */
const LOOK = HOUR / 12;

/** Lays a backup down every so many hours, also where the program was not running when one was due. The answer ends it. */
export function backUpEvery(workroom: Workroom, folder: string, hours: number, log: Logger): () => void {
  let busy = false;
  const look = async () => {
    if (busy) return;
    busy = true;
    try {
      const last = await newest(folder);
      if (!last || Date.now() - last.getTime() >= hours * HOUR) await layBackup(workroom, folder);
    } catch (error) {
      log.error({ err: error }, 'a backup could not be made');
    } finally {
      busy = false;
    }
  };
  void look();
  const timer = setInterval(() => void look(), LOOK).unref();
  return () => clearInterval(timer);
}
