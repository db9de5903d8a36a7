import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readdirSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { randomUUID } from 'node:crypto';
import { someDesign } from './someDesign.js';

/** The real program on a real folder. */

export const root = fileURLToPath(new URL('../../', import.meta.url));

export async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as { port: number };
  probe.close();
  return port;
}

export interface Launched {
  child: ChildProcess;
  exited: Promise<number | null>;
  said: () => string;
}

/** Where a program keeps its workroom: a folder, or the address of a database. */
export type Place = string;

const settingsOf = (place: Place): Record<string, string> =>
  place.startsWith('postgres:') ? { DATABASE_URL: place } : { CORDELINA_DATA: place, DATABASE_URL: '' };

export function launch(place: Place, port: number): Launched {
  const child = spawn(process.execPath, ['server/dist/main.js'], {
    cwd: root,
    env: { ...process.env, ...settingsOf(place), PORT: String(port) },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let text = '';
  child.stdout.on('data', (d) => (text += String(d)));
  child.stderr.on('data', (d) => (text += String(d)));
  return { child, exited: once(child, 'exit').then(([code]) => code as number | null), said: () => text };
}

export interface Running extends Launched {
  url: string;
}

export async function start(place: Place): Promise<Running> {
  const port = await freePort();
  const launched = launch(place, port);
  const url = `http://127.0.0.1:${port}/api`;
  for (let tries = 0; tries < 900; tries++) {
    if (launched.child.exitCode !== null) throw new Error(`the server stopped: ${launched.said()}`);
    const up = await fetch(`${url}/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (up) return { ...launched, url };
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error(`the server did not start: ${launched.said()}`);
}

export async function stop({ child, exited }: Running): Promise<number | null> {
  child.kill('SIGTERM');
  return exited;
}

export async function send(url: string, method: string, body: unknown): Promise<Response> {
  return fetch(url, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
}

/** What the files of a folder hold, in bytes. */
export const sizeOf = (folder: string): number =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .reduce((sum, entry) => sum + statSync(path.join(entry.parentPath, entry.name)).size, 0);

/** A change of the notes from what they are at version `base` to what they are at the next. */
const note = (version: number) => (version === 1 ? '' : `note ${version}`);
export const noteChange = (base: number) => ({
  id: randomUUID(),
  label: 'notes',
  steps: [{ kind: 'set', path: ['notes'], was: note(base), now: note(base + 1) }],
});

/**
 * Saves without a pause and kills the server at a random moment, so many times over.
 *
 * @returns the version reached @throws when an answered save is not there after a kill
 */
export async function surviveKills(folder: string, kills: number): Promise<number> {
  const document = someDesign('Kept');
  let base = 0;
  for (let round = 0; round < kills; round++) {
    const { child, url, exited } = await start(folder);
    const found = await fetch(`${url}/designs/${document.id}`);
    if (round === 0) {
      const made = await send(`${url}/designs`, 'POST', { document });
      if (made.status !== 201) throw new Error(`the design was answered with ${made.status}`);
      base = 1;
    } else {
      const stored = (await found.json()) as { version: number; document: { notes: string } };
      // A save that was cut off may or may not have been kept; one that was answered always is.
      if (stored.version !== base && stored.version !== base + 1)
        throw new Error(`version ${base} was answered, ${stored.version} is kept`);
      if (stored.document.notes !== note(stored.version))
        throw new Error(`version ${stored.version} holds "${stored.document.notes}"`);
      base = stored.version;
    }
    // Every third is killed while it is still warming up, the others after a save at least.
    let timer: NodeJS.Timeout | null = null;
    const kill = () => (timer ??= setTimeout(() => child.kill('SIGKILL'), 20 + Math.random() * 250));
    if (round % 3 === 2) kill();
    for (;;) {
      const answer = await send(`${url}/designs/${document.id}/changes`, 'POST', {
        base,
        changes: [noteChange(base)],
      }).catch(() => null);
      if (!answer) break;
      if (answer.status !== 200) throw new Error(`a save was answered with ${answer.status}`);
      const saved = (await answer.json().catch(() => null)) as { version: number } | null;
      if (!saved) break;
      base = saved.version;
      kill();
    }
    await exited;
  }
  return base;
}
