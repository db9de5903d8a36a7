import { Archive, FileFault, keepingOver, restored, restorePlanOf, TAKES, type Ask } from '@cordelina/core';
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { access, readFile, rename, rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { fileURLToPath } from 'node:url';
import { EXIT, Misuse } from './usage.js';

/** The workroom from a shell: backed up, restored, served. */

interface Options {
  url?: string;
  take?: string;
  force?: boolean;
  tell: (text: string) => void;
}

const SERVER = fileURLToPath(new URL('../../server/dist/main.js', import.meta.url));
const OPEN = /Cordelina is open at (\S+)/;

/** A server of one's own on the folder, as long as the work takes; or the one that is named. */
async function withServer<T>({ url }: Options, work: (url: string) => Promise<T>): Promise<T> {
  if (url !== undefined) {
    if (!/^https?:\/\//.test(url)) throw new Misuse('--url is an address like http://localhost:5310.');
    return work(url.replace(/\/$/, ''));
  }
  const child: ChildProcess = spawn(process.execPath, [SERVER], {
    env: { ...process.env, PORT: '0', HOST: '127.0.0.1', CORDELINA_BACKUP: '' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  try {
    return await work(await addressOf(child));
  } finally {
    const ended = new Promise((resolve) => child.once('exit', resolve));
    if (child.exitCode === null) {
      child.kill('SIGTERM');
      await ended;
    }
  }
}

function addressOf(child: ChildProcess): Promise<string> {
  return new Promise((resolve, reject) => {
    let [said, faults] = ['', ''];
    child.stdout!.on('data', (part: Buffer) => {
      said += String(part);
      const open = OPEN.exec(said);
      if (open) resolve(open[1]!);
    });
    child.stderr!.on('data', (part: Buffer) => (faults += String(part)));
    child.once('exit', () => reject(new Error(faults.trim() || 'the workroom could not be opened.')));
  });
}

const oneFile = ([file, ...others]: readonly string[], what: string): string => {
  if (file === undefined || others.length)
    throw new Misuse(`${what} one file: cordelina ${what.toLowerCase().split(' ')[0]} FILE.`);
  return file;
};

/** Everything in a workroom as one zip. */
export async function backup(given: readonly string[], options: Options): Promise<number> {
  const file = oneFile(given, 'Backup goes into');
  const isThere = await access(file).then(
    () => true,
    () => false,
  );
  if (isThere && !options.force) throw new Misuse(`${file} is there already. Name another, or say --force.`);
  const part = `${file}.part`;
  try {
    await withServer(options, async (url) => {
      const answer = await fetch(`${url}/api/backup`);
      if (!answer.ok || !answer.body) throw new Error(`the server answered ${answer.status}.`);
      await pipeline(Readable.fromWeb(answer.body), createWriteStream(part));
    });
    // Read back: a backup that cannot be opened is none.
    const { manifest } = Archive.open(await readFile(part));
    await rename(part, file);
    options.tell(`${file}: ${manifest.documents.length} documents, every file of it checked.`);
    for (const { of, id, why } of manifest.left) options.tell(`left: ${of} ${id}: ${why}`);
    return manifest.left.length ? EXIT.found : EXIT.well;
  } finally {
    await rm(part, { force: true });
  }
}

/** What a backup holds, back into a workroom. */
export async function restore(given: readonly string[], options: Options): Promise<number> {
  const file = oneFile(given, 'Restore reads');
  const take = TAKES.find((one) => one === (options.take ?? 'new'));
  if (!take) throw new Misuse(`--take is one of ${TAKES.join(', ')}.`);
  let archive: Archive;
  try {
    archive = Archive.open(await readFile(file));
  } catch (error) {
    if (error instanceof FileFault) throw new Misuse(`${file}: ${error.message}`);
    throw error;
  }
  return withServer(options, async (url) => {
    const keeping = keepingOver(askOf(url));
    const plan = await restorePlanOf(archive, keeping);
    const count = (is: string) => plan.filter((one) => one.is === is).length;
    options.tell(
      `${plan.length} documents of ${archive.manifest.at}: ${count('new')} are not there, ${count('same')} are as they are, ${count('differs')} differ.`,
    );
    const { made, changed, copied, left } = await restored(archive, plan, take, keeping, randomUUID);
    options.tell(`${made} made, ${copied} laid beside, ${changed} set back.`);
    for (const { title, why } of left) options.tell(`left: ${title}: ${why}`);
    return left.length ? EXIT.found : EXIT.well;
  });
}

const askOf =
  (url: string): Ask =>
  async (method, path, body) => {
    const answer = await fetch(url + path, {
      method,
      ...(body && {
        headers: { 'Content-Type': body.type },
        body: body.bytes as NonNullable<RequestInit['body']>,
      }),
    });
    return { status: answer.status, text: await answer.text() };
  };

/** The workroom itself, until it is stopped. */
export async function serve(given: readonly string[]): Promise<number> {
  if (given.length) throw new Misuse('serve takes no files; PORT, HOST and CORDELINA_DATA say where.');
  const { execFileSync } = await import('node:child_process');
  execFileSync(process.execPath, [fileURLToPath(new URL('../../scripts/build.mjs', import.meta.url))], {
    stdio: 'inherit',
  });
  const child = spawn(process.execPath, [SERVER], { stdio: 'inherit' });
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => child.kill(signal));
  return new Promise((resolve) => child.once('exit', (code) => resolve(code ?? EXIT.well)));
}
