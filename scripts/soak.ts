/**
 * The long trials: the literal knitter on thousands of charts, kills, fuzzed requests, saves without end. Run with `npm run soak`; each prints its figures and
 * fails when one is out of bounds. `npm run soak kills` (or knitter, files, fuzz, saves) runs one.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fuzz } from '../server/test/fuzz.js';
import {
  noteChange,
  root,
  send,
  sizeOf,
  start,
  stop,
  surviveKills,
  type Running,
} from '../server/test/running.js';
import { someDesign } from '../server/test/someDesign.js';

const KILLS = 100;
const REQUESTS = 200_000;
const SAVES = 10_000;
/** Worked through sixteen times as thoroughly as in `npm test`: 3,200 charts of each kind by the literal knitter. */
const PROPERTIES = [
  'simulator',
  'mutations',
  'words',
  'bands',
  'double',
  'both-faces',
  'machine',
  'ways',
].map((name) => `test/${name}.test.ts`);

function inFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(path.join(tmpdir(), 'cordelina-soak-'));
  return work(folder).finally(() => rmSync(folder, { recursive: true, force: true }));
}

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(1)} MB`;

/** The resident memory of a server, in bytes; 0 where the system does not tell. */
function memoryOf({ child }: Running): number {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0) * 1024;
  } catch {
    return 0;
  }
}

function must(holds: boolean, what: string): void {
  if (!holds) throw new Error(what);
}

const trials: Record<string, () => Promise<void>> = {
  knitter: async () => {
    const mocha = spawn(
      'npx',
      ['mocha', '--no-config', '--node-option', 'import=tsx', '--timeout', '3600000', ...PROPERTIES],
      { cwd: path.join(root, 'core'), env: { ...process.env, CORDELINA_THOROUGH: '26' }, stdio: 'inherit' },
    );
    const [code] = (await once(mocha, 'exit')) as [number | null];
    must(code === 0, 'the literal knitter, or the proof of damaged words, did not hold');
  },

  files: async () => {
    const mocha = spawn(
      'npx',
      [
        'mocha',
        '--no-config',
        '--node-option',
        'import=tsx',
        '--timeout',
        '3600000',
        '-g',
        'of any bytes',
        'test/files.test.ts',
      ],
      { cwd: path.join(root, 'core'), env: { ...process.env, CORDELINA_THOROUGH: '200' }, stdio: 'inherit' },
    );
    const [code] = (await once(mocha, 'exit')) as [number | null];
    must(code === 0, 'a spoiled file was not refused in a sentence');
    console.log('100,000 spoiled files, each a design or one sentence');
  },

  kills: () =>
    inFolder(async (folder) => {
      const version = await surviveKills(folder, KILLS);
      console.log(`${KILLS} kills, ${version} saves, none lost`);
    }),

  fuzz: () =>
    inFolder(async (folder) => {
      const server = await start(folder);
      const before = memoryOf(server);
      const { answers, slowest, slow, failed, broken } = await fuzz(server.url, REQUESTS, 25).catch(
        (error: unknown) => {
          console.log(server.said());
          throw error;
        },
      );
      const told = Object.entries(answers).map(([status, n]) => `${status}: ${n}`);
      console.log(
        `${REQUESTS} fuzzed requests: ${told.join(', ')}; slowest ${slowest.toFixed(0)} ms; ${broken} connections broken`,
      );
      console.log(`memory ${megabytes(before)} before, ${megabytes(memoryOf(server))} after`);
      await stop(server);
      must(failed.length === 0, `answered with a server error: ${failed[0]}`);
      must(slow.length === 0, `over a second: ${slow[0]}`);
    }),

  saves: () =>
    inFolder(async (folder) => {
      let server = await start(folder);
      const document = { ...someDesign('Busy') };
      await send(`${server.url}/designs`, 'POST', { document });
      const [folderBefore, memoryBefore] = [sizeOf(folder), memoryOf(server)];
      let largest = 0;
      const began = performance.now();
      for (let base = 1; base <= SAVES; base++) {
        const answer = await send(`${server.url}/designs/${document.id}/changes`, 'POST', {
          base,
          changes: [noteChange(base)],
        });
        must(answer.status === 200, `save ${base} was answered with ${answer.status}`);
        if (base % 500 === 0) largest = Math.max(largest, sizeOf(folder));
      }
      const each = (performance.now() - began) / SAVES;
      const memory = memoryOf(server);
      const after = sizeOf(folder);
      await stop(server);
      const stopped = sizeOf(folder);
      server = await start(folder);
      const found = (await (await fetch(`${server.url}/designs/${document.id}`)).json()) as {
        version: number;
      };
      await stop(server);
      console.log(
        `${SAVES} saves of one design, ${each.toFixed(1)} ms each: folder ${megabytes(folderBefore)} before, ${megabytes(largest)} at most, ${megabytes(after)} after, ${megabytes(stopped)} stopped; memory ${megabytes(memoryBefore)} before, ${megabytes(memory)} after`,
      );
      must(found.version === SAVES + 1, `version ${found.version} is kept`);
      must(largest < 2 * folderBefore, 'the folder grew to more than twice its size');
      must(stopped <= after, 'a clean stop did not shrink the folder');
      must(memory < memoryBefore + 400 * 1024 * 1024, 'the memory grew by more than 400 MB');
    }),
};

const asked = process.argv.slice(2);
for (const [name, trial] of Object.entries(trials)) if (!asked.length || asked.includes(name)) await trial();
