import { createHash, randomUUID } from 'node:crypto';
import {
  readFileSync,
  readlinkSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { hostname } from 'node:os';
import path from 'node:path';
import { z } from 'zod';
import { StoreTrouble } from '../db.js';
import { fileTrouble, LOCK } from './folder.js';

/** Another server has the data folder. */
export class FolderInUse extends StoreTrouble {
  constructor(folder: string) {
    super(
      `Another Cordelina server is using the data folder ${folder}. Stop it first, or choose another folder with CORDELINA_DATA.`,
    );
  }
}

/** Milliseconds between two signs of life, and how long a lock is watched for one before it is taken over. */
const BEAT = 1000;
const WATCH = 5000;

const LockSchema = z.object({ token: z.string(), place: z.string(), pid: z.int() });
type Lock = z.infer<typeof LockSchema>;

/**
 * Takes the data folder for this process, since two on one database would ruin it. A file in the folder says
 * who has it, and its time is set anew every second while they live: so a server in another container is seen
 * too. On Linux an abstract socket named after the folder, which the system frees however a process ends, tells
 * at once that a holder of this same machine is gone. `onLost` is called when the folder is taken away or over.
 *
 * `watched` is how long a lock of unknown holder is looked at, in milliseconds.
 *
 * @throws FolderInUse when another process holds it; StoreTrouble when nothing can be written in it
 */
export async function lockFolder(
  folder: string,
  onLost: (why: string) => void,
  watched = WATCH,
): Promise<() => void> {
  const real = realpathSync(folder);
  const freeSocket = process.platform === 'linux' ? await lockSocket(real) : () => undefined;
  try {
    const freeFile = await lockFile(real, onLost, watched);
    return () => {
      freeFile();
      freeSocket();
    };
  } catch (error) {
    freeSocket();
    throw fileTrouble(error, folder);
  }
}

function lockSocket(folder: string): Promise<() => void> {
  const name = `\0cordelina-${createHash('sha256').update(folder).digest('hex').slice(0, 32)}`;
  return new Promise((resolve, reject) => {
    const socket = createServer();
    socket.once('error', (error: NodeJS.ErrnoException) =>
      reject(error.code === 'EADDRINUSE' ? new FolderInUse(folder) : error),
    );
    socket.listen(name, () => {
      socket.unref();
      resolve(() => socket.close());
    });
  });
}

/** Where process ids and sockets are shared: the machine since its start, and on Linux the container. */
function placeOf(folder: string): string {
  const read = (get: () => string) => {
    try {
      return get().trim();
    } catch {
      return '';
    }
  };
  const boot = read(() => readFileSync('/proc/sys/kernel/random/boot_id', 'utf8'));
  const spaces = ['net', 'pid'].map((kind) => read(() => readlinkSync(`/proc/self/ns/${kind}`)));
  return [hostname(), boot, ...spaces, folder].join(' ');
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

function lockOf(file: string): Lock | null {
  try {
    return LockSchema.parse(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    return null;
  }
}

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Whether the holder of a lock file is certainly gone: it was of this very place. */
function isGone(lock: Lock | null, place: string): boolean {
  if (!lock || lock.place !== place) return false;
  // On Linux the socket of this place is ours already, so whoever had it before has ended.
  return process.platform === 'linux' || !isAlive(lock.pid);
}

async function lockFile(folder: string, onLost: (why: string) => void, watched: number): Promise<() => void> {
  const file = path.join(folder, LOCK);
  const token = randomUUID();
  const place = placeOf(folder);
  const text = JSON.stringify({ token, place, pid: process.pid });
  try {
    writeFileSync(file, text, { flag: 'wx' });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    if (!isGone(lockOf(file), place)) await watch(file, folder, watched);
    // An empty lock, or one whose holder shows no life, is taken over whole.
    const mine = `${file}.${token}`;
    writeFileSync(mine, text);
    renameSync(mine, file);
    await wait(200);
    if (lockOf(file)?.token !== token) throw new FolderInUse(folder);
  }
  const beat = setInterval(() => {
    const holder = lockOf(file);
    if (holder?.token === token) return utimesSync(file, new Date(), new Date());
    clearInterval(beat);
    onLost(
      holder
        ? `Another server has taken over the data folder ${folder}.`
        : `The data folder ${folder} is gone, or its lock was removed.`,
    );
  }, BEAT);
  beat.unref();
  return () => {
    clearInterval(beat);
    if (lockOf(file)?.token === token) rmSync(file, { force: true });
  };
}

/** Waits for a sign of life. @throws FolderInUse when there is one */
async function watch(file: string, folder: string, watched: number): Promise<void> {
  const timeOf = () => statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? null;
  const before = timeOf();
  for (let waited = 0; waited < watched; waited += BEAT / 2) {
    await wait(BEAT / 2);
    if (timeOf() !== before) throw new FolderInUse(folder);
  }
}
