import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';

/** Another server has the data folder. */
export class FolderInUse extends Error {
  constructor(folder: string) {
    super(
      `Another Cordelina server is using the data folder ${folder}. Stop it first, or choose another folder with CORDELINA_DATA.`,
    );
  }
}

/**
 * Takes the data folder for this process, since two on one database would ruin it. On Linux the lock is an
 * abstract socket named after the folder, which the system frees when the process ends, however it ends.
 * Elsewhere it is a file with the process id, taken over when that process is gone.
 *
 * @throws FolderInUse when another process holds it
 */
export async function lockFolder(folder: string): Promise<() => void> {
  mkdirSync(folder, { recursive: true });
  const real = realpathSync(folder);
  return process.platform === 'linux' ? lockSocket(real) : lockFile(real);
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

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

function lockFile(folder: string): () => void {
  const file = path.join(folder, 'server.pid');
  for (let tries = 0; tries < 2; tries++) {
    try {
      writeFileSync(file, String(process.pid), { flag: 'wx' });
      return () => rmSync(file, { force: true });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      if (isAlive(Number(readFileSync(file, 'utf8')))) throw new FolderInUse(folder);
      rmSync(file, { force: true });
    }
  }
  throw new FolderInUse(folder);
}
