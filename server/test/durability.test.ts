import { expect } from 'chai';
import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { someDesign } from './support.js';

/** The real program on a real folder, stopped in rude and in civil ways. */

const root = fileURLToPath(new URL('../../', import.meta.url));
const KILLS = 20;

async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as { port: number };
  probe.close();
  return port;
}

interface Running {
  child: ChildProcess;
  url: string;
  exited: Promise<number | null>;
}

function launch(
  folder: string,
  port: number,
): { child: ChildProcess; exited: Promise<number | null>; said: () => string } {
  const child = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, CORDELINA_DATA: folder, PORT: String(port) },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let text = '';
  child.stdout!.on('data', (d) => (text += String(d)));
  child.stderr!.on('data', (d) => (text += String(d)));
  return { child, exited: once(child, 'exit').then(([code]) => code as number | null), said: () => text };
}

async function start(folder: string): Promise<Running> {
  const port = await freePort();
  const { child, exited, said } = launch(folder, port);
  const url = `http://127.0.0.1:${port}/api`;
  for (let tries = 0; tries < 200; tries++) {
    if (child.exitCode !== null) throw new Error(`the server stopped: ${said()}`);
    if (
      await fetch(`${url}/health`).then(
        (r) => r.ok,
        () => false,
      )
    )
      return { child, url, exited };
    await new Promise((r) => setTimeout(r, 150));
  }
  throw new Error(`the server did not start: ${said()}`);
}

async function send(url: string, method: string, body: unknown): Promise<Response> {
  return fetch(url, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
}

describe('a data folder', function () {
  this.timeout(300_000);
  const folder = mkdtempSync(path.join(tmpdir(), 'cordelina-'));
  after(() => rmSync(folder, { recursive: true, force: true }));

  it(`keeps every answered save through ${KILLS} kills at random moments`, async () => {
    const document = someDesign('Kept');
    let base = 0;
    for (let round = 0; round < KILLS; round++) {
      const { child, url, exited } = await start(folder);
      const found = await fetch(`${url}/designs/${document.id}`);
      if (round === 0) {
        expect((await send(`${url}/designs`, 'POST', { document })).status).to.equal(201);
        base = 1;
      } else {
        const stored = (await found.json()) as { version: number; document: { notes: string } };
        // A save that was cut off may or may not have been kept; one that was answered always is.
        expect(stored.version).to.be.within(base, base + 1);
        expect(stored.document.notes).to.equal(stored.version === 1 ? '' : `note ${stored.version}`);
        base = stored.version;
      }
      const killAt = Date.now() + 20 + Math.random() * 250;
      const timer = setTimeout(() => child.kill('SIGKILL'), killAt - Date.now());
      try {
        for (;;) {
          const answer = await send(`${url}/designs/${document.id}`, 'PUT', {
            base,
            document: { ...document, notes: `note ${base + 1}` },
          });
          if (answer.status !== 200) throw new Error(`answered ${answer.status}`);
          base = ((await answer.json()) as { version: number }).version;
        }
      } catch (error) {
        if (String(error).includes('answered')) throw error;
      }
      await exited;
      clearTimeout(timer);
    }
    expect(base).to.be.greaterThan(KILLS);
  });

  it('is not shared: a second server says so and stops, and the first goes on', async () => {
    const first = await start(folder);
    const second = launch(folder, await freePort());
    expect(await second.exited).to.equal(1);
    expect(second.said()).to.contain('Another Cordelina server is using the data folder');
    expect((await fetch(`${first.url}/designs`)).status).to.equal(200);
    first.child.kill('SIGTERM');
    expect(await first.exited).to.equal(0);
    await fetch(`${first.url}/health`).then(
      () => expect.fail('the port is still held'),
      () => undefined,
    );
  });

  it('is let go by "npm start" on SIGTERM, with nothing left holding the port', async () => {
    const port = await freePort();
    const npm = spawn('npm', ['start', '--silent'], {
      cwd: root,
      env: { ...process.env, CORDELINA_DATA: folder, PORT: String(port) },
      stdio: ['ignore', 'pipe', 'inherit'],
      detached: true,
    });
    let said = '';
    npm.stdout.on('data', (d) => (said += String(d)));
    for (let tries = 0; tries < 400 && !said.includes('Cordelina is open at'); tries++)
      await new Promise((r) => setTimeout(r, 150));
    expect(said).to.contain(`http://localhost:${port}`);
    expect((await fetch(`http://127.0.0.1:${port}/`)).headers.get('content-type')).to.contain('text/html');
    const gone = once(npm, 'exit');
    npm.kill('SIGTERM');
    await gone;
    // npm may be gone a moment before what it started; the port and the folder must both be free soon after.
    let free = false;
    for (let tries = 0; tries < 40 && !free; tries++) {
      free = await fetch(`http://127.0.0.1:${port}/api/health`).then(
        () => false,
        () => true,
      );
      if (!free) await new Promise((r) => setTimeout(r, 150));
    }
    expect(free).to.be.true;
    const next = await start(folder);
    next.child.kill('SIGTERM');
    expect(await next.exited).to.equal(0);
  });

  it('of a newer program is refused and not touched', async () => {
    const mark = path.join(folder, 'schema.txt');
    const was = readFileSync(mark, 'utf8');
    writeFileSync(mark, '999\n');
    const refused = launch(folder, await freePort());
    expect(await refused.exited).to.equal(1);
    expect(refused.said()).to.contain('written by a newer Cordelina (schema 999');
    expect(readFileSync(mark, 'utf8')).to.equal('999\n');
    writeFileSync(mark, was);
  });
});
